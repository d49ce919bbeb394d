import { routes } from "@yosegi/contract";
import type { FastifyInstance } from "fastify";
import type { Store } from "../db/index.ts";
import { serveAsk, serveCommand } from "../http/index.ts";
import { changeGroup, listGroups, newGroup, removeGroup } from "./groups.ts";
import { findItems, lookUp, productById } from "./items.ts";
import { lowMargins, reprice, saveKit } from "./kitservice.ts";
import { listAnswer, productLists } from "./listanswer.ts";
import {
  changeList,
  compare,
  lockRevision,
  newList,
  removeRevision,
  retireRevision,
  saveList,
} from "./listservice.ts";
import { previewReplacement, replacements, replacePart, undoReplacement } from "./replacing.ts";
import { changeItem, copyItem, itemSheet, newItem, removeItem } from "./service.ts";
import { changeSuppliers } from "./suppliers.ts";
import { changeUnit, listUnits, newUnit } from "./units.ts";
import { whereUsed } from "./whereused.ts";

export function catalogRoutes(app: FastifyInstance, store: Store): void {
  serveAsk(app, store, routes.units, async (ctx) => ({ units: await listUnits(ctx) }));
  serveCommand(app, store, routes.newUnit, (ctx, { body }) => newUnit(ctx, body));
  serveCommand(app, store, routes.changeUnit, (ctx, { params, body }) => changeUnit(ctx, params.code, body));
  serveAsk(app, store, routes.groups, async (ctx) => ({ groups: await listGroups(ctx) }));
  serveCommand(app, store, routes.newGroup, (ctx, { body }) => newGroup(ctx, body));
  serveCommand(app, store, routes.changeGroup, (ctx, { params, body }) => changeGroup(ctx, params.id, body));
  serveCommand(app, store, routes.removeGroup, async (ctx, { params }) => {
    await removeGroup(ctx, params.id);
    return {};
  });
  itemRoutes(app, store);
  listRoutes(app, store);
  serveCommand(app, store, routes.saveKit, (ctx, { params, body }) => saveKit(ctx, params.id, body));
  serveAsk(app, store, routes.prices, (ctx, { query }) => lowMargins(ctx, query.wish));
  serveCommand(app, store, routes.reprice, async (ctx, { body }) => ({ changed: await reprice(ctx, body) }));
}

function itemRoutes(app: FastifyInstance, store: Store): void {
  serveAsk(app, store, routes.items, (ctx, { query }) => findItems(ctx, query));
  serveAsk(app, store, routes.item, (ctx, { params }) => itemSheet(ctx, params.id));
  serveAsk(app, store, routes.lookUp, async (ctx, { body }) => ({ items: await lookUp(ctx, body.codes) }));
  serveCommand(app, store, routes.newItem, (ctx, { body }) => newItem(ctx, body));
  serveCommand(app, store, routes.copyItem, (ctx, { params, body }) => copyItem(ctx, params.id, body));
  serveCommand(app, store, routes.changeItem, (ctx, { params, body }) => changeItem(ctx, params.id, body));
  serveCommand(app, store, routes.removeItem, async (ctx, { params }) => {
    await removeItem(ctx, params.id);
    return {};
  });
  serveCommand(app, store, routes.changeSuppliers, async (ctx, { params, body }) => {
    await changeSuppliers(ctx, params.id, body.suppliers);
    return {};
  });
  serveAsk(app, store, routes.whereUsed, async (ctx, { params }) => ({
    uses: await whereUsed(ctx, params.id),
  }));
}

function listRoutes(app: FastifyInstance, store: Store): void {
  serveAsk(app, store, routes.lists, async (ctx, { params }) => {
    await productById(ctx, params.id);
    return { lists: await productLists(ctx, params.id) };
  });
  serveAsk(app, store, routes.revision, (ctx, { params }) => listAnswer(ctx, params.id));
  serveCommand(app, store, routes.saveList, (ctx, { params, body }) => saveList(ctx, params.id, body));
  serveCommand(app, store, routes.newList, (ctx, { params, body }) => newList(ctx, params.id, body));
  serveCommand(app, store, routes.changeList, async (ctx, { params, body }) => ({
    lists: await changeList(ctx, params.id, body),
  }));
  serveCommand(app, store, routes.lockRevision, (ctx, { params, body }) =>
    lockRevision(ctx, params.id, body),
  );
  serveCommand(app, store, routes.retireRevision, async (ctx, { params }) => ({
    lists: await retireRevision(ctx, params.id),
  }));
  serveCommand(app, store, routes.removeRevision, async (ctx, { params }) => ({
    lists: await removeRevision(ctx, params.id),
  }));
  serveAsk(app, store, routes.compareRevisions, (ctx, { params, query }) =>
    compare(ctx, params.id, query.with),
  );
  serveAsk(app, store, routes.previewReplacement, (ctx, { body }) => previewReplacement(ctx, body));
  serveAsk(app, store, routes.replacements, async (ctx) => ({ replacements: await replacements(ctx) }));
  serveCommand(app, store, routes.replacePart, (ctx, { body }) => replacePart(ctx, body));
  serveCommand(app, store, routes.undoReplacement, (ctx, { params }) => undoReplacement(ctx, params.id));
}
