import { routes } from "@yosegi/contract";
import type { FastifyInstance } from "fastify";
import type { Store } from "../db/index.ts";
import { serveAsk } from "../http/index.ts";
import { find, waiting } from "./service.ts";

export function findRoutes(app: FastifyInstance, store: Store): void {
  serveAsk(app, store, routes.find, async (ctx, { query }) => ({ hits: await find(ctx, query.text) }));
  serveAsk(app, store, routes.waiting, (ctx) => waiting(ctx));
}
