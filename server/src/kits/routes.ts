import { routes } from "@yosegi/contract";
import type { FastifyInstance } from "fastify";
import type { Store } from "../db/index.ts";
import { serveCommand } from "../http/index.ts";
import { saveKit } from "./service.ts";

export function kitRoutes(app: FastifyInstance, store: Store): void {
  serveCommand(app, store, routes.saveKit, (ctx, { params, body }) => saveKit(ctx, params.id, body));
}
