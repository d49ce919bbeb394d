import { routes } from "@yosegi/contract";
import type { FastifyInstance } from "fastify";
import { refuseStale, type Store } from "../db/index.ts";
import { serveAsk, serveCommand } from "../http/index.ts";
import { lowMargins } from "./margins.ts";
import {
  changePriceList,
  findPriceLists,
  newPriceList,
  priceListSheet,
  removePriceList,
} from "./pricelists.ts";
import { reprice } from "./reprice.ts";
import { setSerialPrice } from "./serialprices.ts";
import { PRICE_LIST } from "./tables.ts";

export function priceRoutes(app: FastifyInstance, store: Store): void {
  serveAsk(app, store, routes.priceLists, (ctx, { query }) => findPriceLists(ctx, query));
  serveAsk(app, store, routes.priceList, (ctx, { params }) => priceListSheet(ctx, params.id));
  serveCommand(app, store, routes.newPriceList, async (ctx, { body }) =>
    priceListSheet(ctx, await newPriceList(ctx, body)),
  );
  serveCommand(app, store, routes.changePriceList, async (ctx, { params: { id }, body, version }) => {
    await refuseStale(ctx, PRICE_LIST, id, version);
    await changePriceList(ctx, id, body.steps);
    return priceListSheet(ctx, id);
  });
  serveCommand(app, store, routes.removePriceList, (ctx, { params }) => removePriceList(ctx, params.id));
  serveCommand(app, store, routes.setSerialPrice, async (ctx, { params: { id, serial }, body }) => {
    await setSerialPrice(ctx, id, serial, body.price);
    return {};
  });
  serveAsk(app, store, routes.prices, (ctx, { query }) => lowMargins(ctx, query));
  serveCommand(app, store, routes.reprice, async (ctx, { body }) => ({ changed: await reprice(ctx, body) }));
}
