import { routes } from "@yosegi/contract";
import type { FastifyInstance } from "fastify";
import { refuseStale, type Store } from "../db/index.ts";
import { serveAsk, serveCommand } from "../http/index.ts";
import { changeFirm, findFirms, firmSheet, newFirm, removeFirm } from "./service.ts";
import { FIRM } from "./tables.ts";

export function firmRoutes(app: FastifyInstance, store: Store): void {
  serveAsk(app, store, routes.firms, (ctx, { query }) => findFirms(ctx, query));
  serveAsk(app, store, routes.firm, (ctx, { params }) => firmSheet(ctx, params.id));
  serveCommand(app, store, routes.newFirm, (ctx, { body }) => newFirm(ctx, body));
  serveCommand(app, store, routes.changeFirm, async (ctx, { params, body, version }) => {
    await refuseStale(ctx, FIRM, params.id, version);
    return changeFirm(ctx, params.id, body);
  });
  serveCommand(app, store, routes.removeFirm, (ctx, { params }) => removeFirm(ctx, params.id));
}
