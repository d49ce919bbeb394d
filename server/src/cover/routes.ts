import { routes } from "@yosegi/contract";
import type { FastifyInstance } from "fastify";
import type { Store } from "../db/index.ts";
import { serveAsk } from "../http/index.ts";
import { coverOf } from "./service.ts";

export function coverRoutes(app: FastifyInstance, store: Store): void {
  serveAsk(app, store, routes.cover, (ctx, { params, query }) => coverOf(ctx, params.id, query.quantity));
}
