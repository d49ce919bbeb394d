import { routes } from "@yosegi/contract";
import type { FastifyInstance } from "fastify";
import type { Store } from "../db/index.ts";
import { serveAsk, serveCommand } from "../http/index.ts";
import { lowMargins } from "./margins.ts";
import { reprice } from "./reprice.ts";

export function priceRoutes(app: FastifyInstance, store: Store): void {
  serveAsk(app, store, routes.prices, (ctx, { query }) => lowMargins(ctx, query));
  serveCommand(app, store, routes.reprice, async (ctx, { body }) => ({ changed: await reprice(ctx, body) }));
}
