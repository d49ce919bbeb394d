import { routes } from "@yosegi/contract";
import type { FastifyInstance } from "fastify";
import { refuseStale, type Store, type Writing } from "../db/index.ts";
import { serveAsk, serveBytes, serveCommand } from "../http/index.ts";
import { agreePrice } from "./agreeing.ts";
import { correctPrice } from "./correcting.ts";
import { buyNeeds } from "./needs.ts";
import { cancelPurchase, changeExpected, changePurchase, newPurchase } from "./ordering.ts";
import { findPurchases, purchaseSheet } from "./purchases.ts";
import { receivePurchase, undoReceipt } from "./receiving.ts";
import { reorder } from "./reorder.ts";
import { purchasePaper, sendPurchase } from "./sending.ts";
import { PURCHASE } from "./tables.ts";

export function buyingRoutes(app: FastifyInstance, store: Store): void {
  const changed = async (ctx: Writing, id: number, work: Promise<void>) => {
    await work;
    return purchaseSheet(ctx, id);
  };
  serveAsk(app, store, routes.purchases, (ctx, { query }) => findPurchases(ctx, query));
  serveAsk(app, store, routes.purchase, (ctx, { params }) => purchaseSheet(ctx, params.id));
  serveCommand(app, store, routes.newPurchase, async (ctx, { body }) =>
    purchaseSheet(ctx, await newPurchase(ctx, body)),
  );
  serveCommand(app, store, routes.changePurchase, async (ctx, { params: { id }, body, version }) => {
    await refuseStale(ctx, PURCHASE, id, version);
    return changed(ctx, id, changePurchase(ctx, id, body));
  });
  serveCommand(app, store, routes.changeExpected, async (ctx, { params: { id }, body, version }) => {
    await refuseStale(ctx, PURCHASE, id, version);
    return changed(ctx, id, changeExpected(ctx, id, body.lines));
  });
  serveCommand(app, store, routes.buyNeeds, async (ctx, { body }) => ({
    purchases: await buyNeeds(ctx, body.lines),
  }));
  serveCommand(app, store, routes.sendPurchase, (ctx, { params: { id } }) =>
    changed(ctx, id, sendPurchase(ctx, id)),
  );
  serveCommand(app, store, routes.cancelPurchase, (ctx, { params: { id } }) =>
    changed(ctx, id, cancelPurchase(ctx, id)),
  );
  serveCommand(app, store, routes.receivePurchase, (ctx, { params: { id }, body }) =>
    changed(ctx, id, receivePurchase(ctx, id, body)),
  );
  serveCommand(app, store, routes.undoReceipt, async (ctx, { params }) =>
    purchaseSheet(ctx, await undoReceipt(ctx, params.id)),
  );
  serveCommand(app, store, routes.agreePrice, async (ctx, { params, body }) =>
    purchaseSheet(ctx, await agreePrice(ctx, params.id, body)),
  );
  serveCommand(app, store, routes.correctPrice, async (ctx, { params, body }) =>
    purchaseSheet(ctx, await correctPrice(ctx, params.id, body)),
  );
  serveBytes(app, store, routes.purchaseFile, (ctx, { params, query }) =>
    purchasePaper(ctx, params.id, query.format),
  );
  serveAsk(app, store, routes.reorder, (ctx, { query }) => reorder(ctx, query));
}
