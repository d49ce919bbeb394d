import { routes } from "@yosegi/contract";
import type { FastifyInstance } from "fastify";
import type { Store } from "../db/index.ts";
import { serveAsk, serveCommand } from "../http/index.ts";
import { movements, receive, stores } from "./service.ts";

export function stockRoutes(app: FastifyInstance, store: Store): void {
  serveAsk(app, store, routes.stores, stores);
  serveAsk(app, store, routes.movements, (ctx, { query }) => movements(ctx, query));
  serveCommand(app, store, routes.receive, async (ctx, { body }) => ({ document: await receive(ctx, body) }));
}
