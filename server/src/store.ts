import { allocationViews } from "./allocations/views.ts";
import { buildViews } from "./builds/views.ts";
import { buyingViews } from "./buying/views.ts";
import { countsViews } from "./counts/views.ts";
import { checkSchema, openDatabase, type Store, viewsOf } from "./db/index.ts";
import { fileViews } from "./files/views.ts";
import { firmViews } from "./firms/views.ts";
import { itemViews } from "./items/views.ts";
import { kitViews } from "./kits/views.ts";
import { ledgerViews } from "./ledger/views.ts";
import { listViews } from "./lists/views.ts";
import { orderViews } from "./orders/views.ts";
import { outboxViews } from "./outbox/views.ts";
import { peopleViews } from "./people/views.ts";
import { pickingViews } from "./picking/views.ts";
import { priceViews } from "./prices/views.ts";
import { returnViews } from "./returns/views.ts";
import { reworkViews } from "./reworks/views.ts";
import { shippingViews } from "./shipping/views.ts";
import { supplierReturnViews } from "./supplierreturns/views.ts";
import { takeApartViews } from "./takeaparts/views.ts";

/** The views of every area. */
export const VIEWS = viewsOf({
  ...itemViews,
  ...listViews,
  ...kitViews,
  ...firmViews,
  ...priceViews,
  ...peopleViews,
  ...fileViews,
  ...buildViews,
  ...buyingViews,
  ...orderViews,
  ...pickingViews,
  ...countsViews,
  ...shippingViews,
  ...returnViews,
  ...supplierReturnViews,
  ...reworkViews,
  ...takeApartViews,
  ...outboxViews,
  ...allocationViews,
  ...ledgerViews,
});

/** Opens a database file with the views of every area; see `openDatabase`. */
export const openStore = (file: string, now?: () => Date): Promise<Store> => openDatabase(file, VIEWS, now);

/** Whether a file has the schema of this version, with the views of every area; see `checkSchema`. */
export const checkStore = (file: string): Promise<{ current: boolean }> => checkSchema(file, VIEWS);
