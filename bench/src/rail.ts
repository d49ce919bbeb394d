import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { change, nextNumber, openStore, read, waiting } from "@yosegi/server";
import sqlite3 from "sqlite3";
import { BUSY, makeCompany, makeOrders } from "./make.ts";
import { against, report } from "./measure.ts";

/** Most times the bare counting of the same rows that what waits at the rail may take, as the first question after a change. */
const MOST = 3;
const RUNS = 20;
const ORDERS = { orders: 2_000, linesEach: 4 };

const folder = mkdtempSync(join(tmpdir(), "yosegi-bench-"));
const file = join(folder, "rail.db");
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

// The rows that any counting has to read: what open orders ask, what linked builds give, what open builds take, and stock.
const COUNTING = [
  `SELECT t.line_id, l.order_id, t.item_id, t.open FROM order_component t JOIN sales_line l ON l.id = t.line_id
     JOIN sales_order o ON o.id = l.order_id WHERE t.open > 0 ORDER BY o.due, o.id, l.line`,
  `SELECT k.line_id, k.quantity, b.id, b.product_id, b.good, b.wanted, b.quantity, b.rejected
     FROM allocation k JOIN build b ON b.id = k.build_id ORDER BY k.id`,
  `SELECT b.id, l.item_id, l.open FROM build b JOIN build_line l ON l.build_id = b.id AND l.open > 0
    WHERE b.stage IN ('queued', 'on the bench') ORDER BY b.due, b.priority, b.id, l.line`,
  `SELECT item_id, SUM(quantity) FROM balance WHERE item_id IN (SELECT item_id FROM build_line WHERE open > 0
     UNION SELECT item_id FROM order_component WHERE open > 0) GROUP BY item_id`,
];
const rail = await against(
  "what waits at the rail, first after a change",
  RUNS,
  () => read(store, waiting),
  async () => {
    for (const statement of COUNTING) await sql(statement);
  },
  () => change(store, 1, (ctx) => nextNumber(ctx, "B")),
);
console.log(`${"".padEnd(46)} ${"use case".padStart(12)} ${"bare SQL".padStart(12)}`);
const within = report([rail], MOST);
console.log(JSON.stringify(await read(store, waiting)));
bare.close();
await store.close();
rmSync(folder, { recursive: true });
process.exitCode = within ? 0 : 1;
