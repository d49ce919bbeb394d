import { type MovedOrder, routes } from "@yosegi/contract";
import type { FastifyInstance } from "fastify";
import { buildSummary } from "../builds/index.ts";
import { refuseStale, type Store, type Writing } from "../db/index.ts";
import { serveAsk, serveCommand } from "../http/index.ts";
import { openDemands } from "./demands.ts";
import { previewOrder } from "./preview.ts";
import { findOrders, orderSheet } from "./rows.ts";
import {
  buildForLines,
  buildForOrder,
  cancelOrder,
  changeOrder,
  linesToBuild,
  newOrder,
  precedenceMoves,
  promiseOrder,
  setPrecedence,
  takeDefinition,
} from "./service.ts";
import { SALES_ORDER } from "./tables.ts";

export function orderRoutes(app: FastifyInstance, store: Store): void {
  const changed = async (ctx: Writing, id: number, work: Promise<void>) => {
    await work;
    return orderSheet(ctx, id);
  };
  const written = async (ctx: Writing, { id, takesFrom }: { id: number; takesFrom: MovedOrder[] }) => ({
    ...(await orderSheet(ctx, id)),
    takesFrom,
  });
  serveAsk(app, store, routes.orders, (ctx, { query }) => findOrders(ctx, query));
  serveAsk(app, store, routes.order, (ctx, { params }) => orderSheet(ctx, params.id));
  serveAsk(app, store, routes.previewOrder, (ctx, { body }) => previewOrder(ctx, body));
  serveCommand(app, store, routes.newOrder, async (ctx, { body }) => written(ctx, await newOrder(ctx, body)));
  serveCommand(app, store, routes.changeOrder, async (ctx, { params: { id }, body, version }) => {
    await refuseStale(ctx, SALES_ORDER, id, version);
    return written(ctx, await changeOrder(ctx, id, body));
  });
  serveCommand(app, store, routes.cancelOrder, (ctx, { params: { id } }) =>
    changed(ctx, id, cancelOrder(ctx, id)),
  );
  serveAsk(app, store, routes.precedenceMoves, (ctx, { params: { id }, body }) =>
    precedenceMoves(ctx, id, body.precedence),
  );
  serveCommand(app, store, routes.setPrecedence, async (ctx, { params: { id }, body, version }) => {
    await refuseStale(ctx, SALES_ORDER, id, version);
    return changed(ctx, id, setPrecedence(ctx, id, body.precedence));
  });
  serveCommand(app, store, routes.promiseOrder, async (ctx, { params: { id }, body, version }) => {
    await refuseStale(ctx, SALES_ORDER, id, version);
    return changed(ctx, id, promiseOrder(ctx, id, body));
  });
  serveCommand(app, store, routes.takeDefinition, async (ctx, { params: { id, line }, version }) => {
    await refuseStale(ctx, SALES_ORDER, id, version);
    return written(ctx, await takeDefinition(ctx, id, line));
  });
  serveAsk(app, store, routes.openDemands, async (ctx) => ({ demands: await openDemands(ctx) }));
  const made = async (ctx: Writing, ids: readonly number[]) => ({
    builds: await Promise.all(ids.map((id) => buildSummary(ctx, id))),
  });
  serveAsk(app, store, routes.linesToBuild, (ctx) => linesToBuild(ctx));
  serveCommand(app, store, routes.buildForLines, async (ctx, { body }) =>
    made(ctx, await buildForLines(ctx, body.lines)),
  );
  serveCommand(app, store, routes.buildForOrder, async (ctx, { params, body }) =>
    made(ctx, await buildForOrder(ctx, params.id, body.lines)),
  );
}
