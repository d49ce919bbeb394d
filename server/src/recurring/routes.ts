import { routes } from "@yosegi/contract";
import type { FastifyInstance } from "fastify";
import { refuseStale, type Store, type Writing } from "../db/index.ts";
import { serveAsk, serveCommand } from "../http/index.ts";
import { removeRecurring, writeRecurring } from "./recurring.ts";
import { RECURRING_BUILD, STOCK_TARGET } from "./tables.ts";
import { recurring, removeStockTarget, setStockTarget } from "./targets.ts";

export function recurringRoutes(app: FastifyInstance, store: Store): void {
  const changed = async (ctx: Writing, work: Promise<void>) => {
    await work;
    return recurring(ctx);
  };
  serveAsk(app, store, routes.recurring, (ctx) => recurring(ctx));
  serveCommand(app, store, routes.setStockTarget, async (ctx, { body, version }) => {
    await refuseStale(ctx, STOCK_TARGET, body.product, version);
    return changed(ctx, setStockTarget(ctx, body));
  });
  serveCommand(app, store, routes.removeStockTarget, (ctx, { params }) =>
    changed(ctx, removeStockTarget(ctx, params.id)),
  );
  serveCommand(app, store, routes.newRecurring, (ctx, { body }) =>
    changed(ctx, writeRecurring(ctx, null, body)),
  );
  serveCommand(app, store, routes.changeRecurring, async (ctx, { params, body, version }) => {
    await refuseStale(ctx, RECURRING_BUILD, params.id, version);
    return changed(ctx, writeRecurring(ctx, params.id, body));
  });
  serveCommand(app, store, routes.removeRecurring, (ctx, { params }) =>
    changed(ctx, removeRecurring(ctx, params.id)),
  );
}
