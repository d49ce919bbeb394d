import { routes } from "@yosegi/contract";
import type { FastifyInstance } from "fastify";
import { buildSummary } from "../builds/index.ts";
import { refuseStale, type Store, type Writing } from "../db/index.ts";
import { serveAsk, serveBytes, serveCommand } from "../http/index.ts";
import { acceptSuggestions } from "./accepting.ts";
import { buildForLines, buildForOrder, linesToBuild } from "./building.ts";
import { followBuild, ordersToFollow } from "./buildoffers.ts";
import { openDemands } from "./demands.ts";
import { exportOrder } from "./exporting.ts";
import { followOrder } from "./following.ts";
import { findOrders } from "./list.ts";
import { previewLosers, previewOrder } from "./preview.ts";
import { cancelOrder, closeRest, reopenRest } from "./progress.ts";
import { orderById, refuseEnded } from "./rows.ts";
import {
  changeOrder,
  newOrder,
  orderQuote,
  precedenceMoves,
  promiseOrder,
  setPrecedence,
  takeDefinition,
  type WrittenOrder,
} from "./service.ts";
import { orderSheet } from "./sheet.ts";
import { deliverBySupplier, supplyOrder } from "./supply.ts";
import { SALES_ORDER } from "./tables.ts";

const summaries = (ctx: Writing, ids: readonly number[]) =>
  Promise.all(ids.map((id) => buildSummary(ctx, id)));

export function orderRoutes(app: FastifyInstance, store: Store): void {
  const changed = async (ctx: Writing, id: number, work: Promise<void>) => {
    await work;
    return orderSheet(ctx, id);
  };
  const written = async (ctx: Writing, { id, builds, ...order }: WrittenOrder) => ({
    ...(await orderSheet(ctx, id)),
    ...order,
    builds: await summaries(ctx, builds),
  });
  serveAsk(app, store, routes.orders, (ctx, { query }) => findOrders(ctx, query));
  serveAsk(app, store, routes.order, (ctx, { params }) => orderSheet(ctx, params.id));
  serveBytes(app, store, routes.exportOrder, (ctx, { params, query }) =>
    exportOrder(ctx, params.id, query.format),
  );
  serveAsk(app, store, routes.previewOrder, (ctx, { body }) => previewOrder(ctx, body));
  serveAsk(app, store, routes.previewLosers, (ctx, { body }) => previewLosers(ctx, body));
  serveCommand(app, store, routes.newOrder, async (ctx, { body }) => written(ctx, await newOrder(ctx, body)));
  serveCommand(app, store, routes.changeOrder, async (ctx, { params: { id }, body, version }) => {
    await refuseStale(ctx, SALES_ORDER, id, version);
    return written(ctx, await changeOrder(ctx, id, body));
  });
  serveCommand(app, store, routes.orderQuote, async (ctx, { params: { id }, body }) =>
    written(ctx, await orderQuote(ctx, id, body.goOn)),
  );
  serveCommand(app, store, routes.cancelOrder, async (ctx, { params: { id } }) => {
    const order = await orderById(ctx, id);
    refuseEnded(order);
    return changed(ctx, id, cancelOrder(ctx, order));
  });
  serveCommand(app, store, routes.deliverBySupplier, async (ctx, { params: { id } }) => ({
    purchases: await deliverBySupplier(ctx, id),
  }));
  serveCommand(app, store, routes.closeRest, async (ctx, { params: { id }, body, version }) => {
    await refuseStale(ctx, SALES_ORDER, id, version);
    return changed(ctx, id, closeRest(ctx, id, body.lines));
  });
  serveCommand(app, store, routes.reopenRest, (ctx, { params: { id } }) =>
    changed(ctx, id, reopenRest(ctx, id)),
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
  serveCommand(app, store, routes.takeDefinition, async (ctx, { params: { id, line }, body, version }) => {
    await refuseStale(ctx, SALES_ORDER, id, version);
    return written(ctx, await takeDefinition(ctx, id, line, body.goOn));
  });
  serveCommand(app, store, routes.supplyOrder, async (ctx, { params: { id } }) => {
    const { builds, ...supplied } = await supplyOrder(ctx, id);
    return { ...supplied, builds: await summaries(ctx, builds) };
  });
  serveCommand(app, store, routes.followOrder, (ctx, { params: { id, build }, body }) =>
    changed(ctx, id, followOrder(ctx, id, build, body)),
  );
  serveCommand(app, store, routes.acceptSuggestions, async (ctx, { body }) => {
    const { builds, purchases } = await acceptSuggestions(ctx, body);
    return { builds: await summaries(ctx, builds), purchases };
  });
  serveAsk(app, store, routes.ordersToFollow, async (ctx, { params }) => ({
    offers: await ordersToFollow(ctx, params.id),
  }));
  serveCommand(app, store, routes.followBuild, async (ctx, { params: { id, line }, body, version }) => {
    await refuseStale(ctx, SALES_ORDER, id, version);
    return written(ctx, await followBuild(ctx, await orderById(ctx, id), line, body));
  });
  serveAsk(app, store, routes.openDemands, async (ctx) => ({ demands: await openDemands(ctx) }));
  const made = async (ctx: Writing, ids: readonly number[]) => ({ builds: await summaries(ctx, ids) });
  serveAsk(app, store, routes.linesToBuild, (ctx) => linesToBuild(ctx));
  serveCommand(app, store, routes.buildForLines, async (ctx, { body }) =>
    made(ctx, await buildForLines(ctx, body.lines)),
  );
  serveCommand(app, store, routes.buildForOrder, async (ctx, { params, body }) =>
    made(ctx, await buildForOrder(ctx, params.id, body.lines)),
  );
}
