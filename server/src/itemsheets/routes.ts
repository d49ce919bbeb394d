import { routes } from "@yosegi/contract";
import type { FastifyInstance } from "fastify";
import { refuseStale, type Store } from "../db/index.ts";
import { serveAsk, serveCommand } from "../http/index.ts";
import { ITEM } from "../items/index.ts";
import { findItems, lookUp } from "./find.ts";
import { removeItem } from "./removing.ts";
import { changeItem, copyItem, newItem } from "./service.ts";
import { each, setState } from "./several.ts";
import { itemSheet } from "./sheet.ts";
import { whereUsed } from "./whereused.ts";

export function itemSheetRoutes(app: FastifyInstance, store: Store): void {
  serveAsk(app, store, routes.items, (ctx, { query }) => findItems(ctx, query));
  serveAsk(app, store, routes.item, (ctx, { params }) => itemSheet(ctx, params.id));
  serveAsk(app, store, routes.lookUp, async (ctx, { body }) => ({ items: await lookUp(ctx, body.codes) }));
  serveCommand(app, store, routes.newItem, (ctx, { body }) => newItem(ctx, body));
  serveCommand(app, store, routes.copyItem, (ctx, { params, body }) => copyItem(ctx, params.id, body));
  serveCommand(app, store, routes.changeItem, async (ctx, { params, body, version }) => {
    await refuseStale(ctx, ITEM, params.id, version);
    return changeItem(ctx, params.id, body);
  });
  serveCommand(app, store, routes.setItemStates, (ctx, { body }) =>
    each(ctx, body.items, (item) => setState(ctx, item, body.state)),
  );
  serveCommand(app, store, routes.removeItems, (ctx, { body }) =>
    each(ctx, body.items, (item) => removeItem(ctx, item.id)),
  );
  serveCommand(app, store, routes.removeItem, async (ctx, { params }) => {
    await removeItem(ctx, params.id);
    return {};
  });
  serveAsk(app, store, routes.whereUsed, async (ctx, { params }) => ({
    uses: await whereUsed(ctx, params.id),
  }));
}
