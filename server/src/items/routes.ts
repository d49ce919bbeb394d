import { routes } from "@yosegi/contract";
import type { FastifyInstance } from "fastify";
import { refuseStale, type Store } from "../db/index.ts";
import { serveAsk, serveCommand } from "../http/index.ts";
import { changeGroup, listGroups, newGroup, removeGroup } from "./groups.ts";
import { changeSuppliers } from "./suppliers.ts";
import { ITEM } from "./tables.ts";
import { changeUnit, listUnits, newUnit } from "./units.ts";

export function itemRoutes(app: FastifyInstance, store: Store): void {
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
  serveCommand(app, store, routes.changeSuppliers, async (ctx, { params, body, version }) => {
    await refuseStale(ctx, ITEM, params.id, version);
    await changeSuppliers(ctx, params.id, body.suppliers);
    return {};
  });
}
