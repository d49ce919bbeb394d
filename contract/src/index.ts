export * from "./amounts.ts";
export * from "./brief.ts";
export * from "./buildroutes.ts";
export * from "./builds.ts";
export * from "./buildsheet.ts";
export * from "./buying.ts";
export * from "./changes.ts";
export * from "./counts.ts";
export * from "./cover.ts";
export * from "./customfields.ts";
export * from "./erroranswer.ts";
export * from "./errors.ts";
export * from "./fields.ts";
export * from "./files.ts";
export * from "./find.ts";
export * from "./finishes.ts";
export * from "./firms.ts";
export * from "./importcolumns.ts";
export * from "./importrows.ts";
export * from "./imports.ts";
export * from "./items.ts";
export * from "./itemsheets.ts";
export * from "./jobs.ts";
export * from "./kits.ts";
export * from "./labels.ts";
export * from "./lists.ts";
export * from "./marks.ts";
export * from "./messages.ts";
export * from "./mix.ts";
export * from "./notices.ts";
export * from "./orderroutes.ts";
export * from "./orders.ts";
export * from "./outbox.ts";
export * from "./papers.ts";
export * from "./people.ts";
export * from "./permissions.ts";
export * from "./picking.ts";
export * from "./pieces.ts";
export * from "./prices.ts";
export { type ErrorParams, problemMessage } from "./problems.ts";
export * from "./reach.ts";
export * from "./recurring.ts";
export * from "./replacing.ts";
export * from "./returns.ts";
export * from "./reworkanswers.ts";
export * from "./reworks.ts";
export * from "./route.ts";
export * from "./shipping.ts";
export * from "./stock.ts";
export * from "./supplierreturns.ts";
export * from "./takeaparts.ts";
export * from "./today.ts";
export * from "./trace.ts";
export { z } from "./zod.ts";

import { buildRoutes } from "./buildroutes.ts";
import { buyingRoutes } from "./buying.ts";
import { countsRoutes } from "./counts.ts";
import { coverRoutes } from "./cover.ts";
import { customFieldRoutes } from "./customfields.ts";
import { fileRoutes } from "./files.ts";
import { findRoutes } from "./find.ts";
import { firmRoutes } from "./firms.ts";
import { importRoutes } from "./imports.ts";
import { itemRoutes } from "./items.ts";
import { itemSheetRoutes } from "./itemsheets.ts";
import { jobRoutes } from "./jobs.ts";
import { kitRoutes } from "./kits.ts";
import { labelRoutes } from "./labels.ts";
import { listRoutes } from "./lists.ts";
import { messageRoutes } from "./messages.ts";
import { mixRoutes } from "./mix.ts";
import { noticeRoutes } from "./notices.ts";
import { orderRoutes } from "./orderroutes.ts";
import { outboxRoutes } from "./outbox.ts";
import { paperRoutes } from "./papers.ts";
import { peopleRoutes } from "./people.ts";
import { pickingRoutes } from "./picking.ts";
import { pieceRoutes } from "./pieces.ts";
import { priceRoutes } from "./prices.ts";
import { reachRoutes } from "./reach.ts";
import { recurringRoutes } from "./recurring.ts";
import { replacingRoutes } from "./replacing.ts";
import { returnRoutes } from "./returns.ts";
import { reworkRoutes } from "./reworks.ts";
import { shippingRoutes } from "./shipping.ts";
import { stockRoutes } from "./stock.ts";
import { supplierReturnRoutes } from "./supplierreturns.ts";
import { takeApartRoutes } from "./takeaparts.ts";
import { todayRoutes } from "./today.ts";
import { traceRoutes } from "./trace.ts";

/** All that the API can do. */
export const routes = {
  ...peopleRoutes,
  ...itemRoutes,
  ...listRoutes,
  ...kitRoutes,
  ...messageRoutes,
  ...priceRoutes,
  ...replacingRoutes,
  ...itemSheetRoutes,
  ...firmRoutes,
  ...customFieldRoutes,
  ...fileRoutes,
  ...coverRoutes,
  ...mixRoutes,
  ...buyingRoutes,
  ...outboxRoutes,
  ...paperRoutes,
  ...orderRoutes,
  ...pickingRoutes,
  ...shippingRoutes,
  ...returnRoutes,
  ...supplierReturnRoutes,
  ...reworkRoutes,
  ...takeApartRoutes,
  ...buildRoutes,
  ...recurringRoutes,
  ...labelRoutes,
  ...stockRoutes,
  ...countsRoutes,
  ...todayRoutes,
  ...traceRoutes,
  ...importRoutes,
  ...jobRoutes,
  ...findRoutes,
  ...reachRoutes,
  ...noticeRoutes,
  ...pieceRoutes,
};
