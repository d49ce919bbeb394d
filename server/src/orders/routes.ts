import { routes } from "@yosegi/contract";
import type { FastifyInstance } from "fastify";
import { buildSummary } from "../builds/index.ts";
import { refuseStale, type Store, type Writing } from "../db/index.ts";
import { serveAsk, serveCommand } from "../http/index.ts";
import { findOrders, orderSheet } from "./rows.ts";
import { buildForOrder, cancelOrder, changeOrder, newOrder } from "./service.ts";
import { SALES_ORDER } from "./tables.ts";

export function orderRoutes(app: FastifyInstance, store: Store): void {
  const changed = async (ctx: Writing, id: number, work: Promise<void>) => {
    await work;
    return orderSheet(ctx, id);
  };
  serveAsk(app, store, routes.orders, (ctx, { query }) => findOrders(ctx, query));
  serveAsk(app, store, routes.order, (ctx, { params }) => orderSheet(ctx, params.id));
  serveCommand(app, store, routes.newOrder, async (ctx, { body }) =>
    orderSheet(ctx, await newOrder(ctx, body)),
  );
  serveCommand(app, store, routes.changeOrder, async (ctx, { params: { id }, body, version }) => {
    await refuseStale(ctx, SALES_ORDER, id, version);
    return changed(ctx, id, changeOrder(ctx, id, body));
  });
  serveCommand(app, store, routes.cancelOrder, (ctx, { params: { id } }) =>
    changed(ctx, id, cancelOrder(ctx, id)),
  );
  serveCommand(app, store, routes.buildForOrder, async (ctx, { params, body }) => {
    const ids = await buildForOrder(ctx, params.id, body.lines);
    return { builds: await Promise.all(ids.map((id) => buildSummary(ctx, id))) };
  });
}
