import { routes } from "@yosegi/contract";
import type { FastifyInstance } from "fastify";
import type { Store } from "../db/index.ts";
import { serveAsk } from "../http/index.ts";
import { today } from "./today.ts";

export function todayRoutes(app: FastifyInstance, store: Store): void {
  serveAsk(app, store, routes.today, (ctx) => today(ctx));
}
