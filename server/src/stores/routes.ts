import { routes } from "@yosegi/contract";
import type { FastifyInstance } from "fastify";
import type { Store } from "../db/index.ts";
import { serveAsk, serveCommand } from "../http/index.ts";
import { renameBin } from "./renaming.ts";
import { addBins, changeStore, listStores, newStore, orderBins, removeBin, removeStore } from "./service.ts";

export function storeRoutes(app: FastifyInstance, store: Store): void {
  serveAsk(app, store, routes.stores, async (ctx) => ({ stores: await listStores(ctx) }));
  serveCommand(app, store, routes.newStore, (ctx, { body }) => newStore(ctx, body.name));
  serveCommand(app, store, routes.changeStore, (ctx, { params, body }) => changeStore(ctx, params.id, body));
  serveCommand(app, store, routes.removeStore, (ctx, { params }) => removeStore(ctx, params.id));
  serveCommand(app, store, routes.addBins, (ctx, { params, body }) => addBins(ctx, params.id, body));
  serveCommand(app, store, routes.orderBins, (ctx, { params, body }) => orderBins(ctx, params.id, body));
  serveCommand(app, store, routes.renameBin, (ctx, { params, body }) => renameBin(ctx, params.id, body));
  serveCommand(app, store, routes.removeBin, (ctx, { params, body }) => removeBin(ctx, params.id, body.bin));
}
