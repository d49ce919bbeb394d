import { routes } from "@yosegi/contract";
import type { FastifyInstance } from "fastify";
import { refuseStale, type Store } from "../db/index.ts";
import { serveCommand } from "../http/index.ts";
import { saveKit } from "./service.ts";
import { KIT } from "./tables.ts";

export function kitRoutes(app: FastifyInstance, store: Store): void {
  serveCommand(app, store, routes.saveKit, async (ctx, { params, body, version }) => {
    await refuseStale(ctx, KIT, params.id, version);
    return saveKit(ctx, params.id, body);
  });
}
