import { routes } from "@yosegi/contract";
import type { FastifyInstance } from "fastify";
import type { Store } from "../db/index.ts";
import { serveAsk, serveCommand } from "../http/index.ts";
import { findItems } from "./items.ts";
import { changeItem, itemSheet, newItem, saveList } from "./service.ts";
import { loadUnits } from "./units.ts";

export function catalogRoutes(app: FastifyInstance, store: Store): void {
  serveAsk(app, store, routes.units, async (ctx) => ({
    units: [...(await loadUnits(ctx)).values()].map((unit) => ({ ...unit, factor: unit.factor.toFixed() })),
  }));
  serveAsk(app, store, routes.items, (ctx, { query }) => findItems(ctx, query));
  serveAsk(app, store, routes.item, (ctx, { params }) => itemSheet(ctx, params.id));
  serveCommand(app, store, routes.newItem, (ctx, { body }) => newItem(ctx, body));
  serveCommand(app, store, routes.changeItem, (ctx, { params, body }) => changeItem(ctx, params.id, body));
  serveCommand(app, store, routes.saveList, (ctx, { params, body }) => saveList(ctx, params.id, body));
}
