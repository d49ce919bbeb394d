import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { PLAIN_ORDER_LINE } from "@yosegi/contract";
import { decimal } from "@yosegi/core";
import { change, findOrders, nextNumber, openStore, previewOrder, read } from "@yosegi/server";
import sqlite3 from "sqlite3";
import { BUSY, makeCompany, makeOrders } from "./make.ts";
import { against, report } from "./measure.ts";

/** Most times the bare netting of the same rows that promising an order may take, also as the first question after a change. */
const MOST = 5;
const RUNS = 12;
const ORDERS = { orders: 10_000, linesEach: 3 };
const LINES = 500;

const folder = mkdtempSync(join(tmpdir(), "yosegi-bench-"));
const file = join(folder, "promise.db");
console.log(
  `Making ${BUSY.builds} open builds, ${ORDERS.orders} open orders of ${ORDERS.linesEach} linked lines …`,
);
const made = await makeCompany(file, BUSY);
await change(made, 1, (ctx) => makeOrders(ctx, BUSY, ORDERS));
await made.db.query("ANALYZE");
await made.close();
const store = await openStore(file, () => new Date("2026-01-01T09:00:00Z"));
const bare = new sqlite3.Database(file);
const sql = (text: string) =>
  new Promise<unknown[]>((resolve, reject) =>
    bare.all(text, (error, rows) => (error ? reject(error) : resolve(rows))),
  );

// What any promise has to net: what open orders ask in their turn against stock, what builds reserve, and what comes.
const NETTING = [
  `SELECT t.line_id, l.order_id, t.item_id, t.open, SUM(t.open) OVER (PARTITION BY t.item_id ORDER BY o.due IS NULL, o.due, o.id, l.line) AS asked
     FROM order_component t JOIN sales_line l ON l.id = t.line_id JOIN sales_order o ON o.id = l.order_id WHERE t.open > 0`,
  `SELECT k.line_id, k.quantity, b.id, b.product_id, b.good, b.wanted, b.quantity, b.rejected, b.due
     FROM allocation k JOIN build b ON b.id = k.build_id ORDER BY k.id`,
  "SELECT item_id, SUM(open) FROM build_line WHERE open > 0 GROUP BY item_id",
  "SELECT item_id, SUM(quantity) FROM balance GROUP BY item_id",
  "SELECT item_id, open, expected FROM purchase_line WHERE open > 0",
];

let typed = 0;
const promise = () =>
  read(store, (ctx) =>
    previewOrder(ctx, {
      order: null,
      customer: 2,
      due: "2026-01-20",
      lines: Array.from({ length: LINES }, (_, i) => ({
        ...PLAIN_ORDER_LINE,
        discount: decimal(0),
        item: (i % (BUSY.productsBuilt * 2)) + 1,
        quantity: decimal(1 + ((typed++ + i) % 40)),
      })),
    }),
  );
const netting = async () => {
  for (const statement of NETTING) await sql(statement);
};
const typing = await against(`an order of ${LINES} lines while it is typed`, RUNS, promise, netting);
const first = await against("the same, first after a change", RUNS, promise, netting, () =>
  change(store, 1, (ctx) => nextNumber(ctx, "B")),
);
const list = await against(
  "the first page of the list of orders",
  RUNS,
  () => read(store, (ctx) => findOrders(ctx, { search: "", limit: 100 })),
  netting,
);
console.log(`${"".padEnd(46)} ${"use case".padStart(12)} ${"bare SQL".padStart(12)}`);
const within = report([typing, first, list], MOST);
bare.close();
await store.close();
rmSync(folder, { recursive: true });
process.exitCode = within ? 0 : 1;
