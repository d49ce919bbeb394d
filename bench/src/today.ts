import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { change, nextNumber, openStore, read, today } from "@yosegi/server";
import sqlite3 from "sqlite3";
import { BUSY, makeCompany, makeOrders } from "./make.ts";
import { against, report } from "./measure.ts";

/** Most times the bare SQL that nets the same open documents that Today may take, also as the first question after a change. */
const MOST = 3;
const RUNS = 10;
const SIZE = { ...BUSY, builds: 5_000 };
const ORDERS = { orders: 5_000, linesEach: 3 };

const folder = mkdtempSync(join(tmpdir(), "yosegi-bench-"));
const file = join(folder, "today.db");
console.log(
  `Making ${SIZE.builds} open builds and ${ORDERS.orders} open orders of ${ORDERS.linesEach} lines …`,
);
const made = await makeCompany(file, SIZE);
await change(made, 1, (ctx) => makeOrders(ctx, SIZE, ORDERS));
await made.db.query("ANALYZE");
await made.close();
const store = await openStore(file, () => new Date("2026-01-01T09:00:00Z"));
const bare = new sqlite3.Database(file);

// What has to be netted to say what is late, what is ready and what waits; and the open documents by their day.
const NETTING = [
  `SELECT t.line_id, l.order_id, t.item_id, t.open, SUM(t.open) OVER (PARTITION BY t.item_id ORDER BY o.due IS NULL, o.due, o.id, l.line) AS asked
     FROM order_component t JOIN sales_line l ON l.id = t.line_id JOIN sales_order o ON o.id = l.order_id WHERE t.open > 0`,
  `SELECT b.id, l.item_id, l.open, SUM(l.open) OVER (PARTITION BY l.item_id ORDER BY b.due IS NULL, b.due, b.priority, b.id) AS asked
     FROM build_line l JOIN build b ON b.id = l.build_id WHERE l.open > 0`,
  "SELECT item_id, SUM(quantity) FROM balance GROUP BY item_id",
  "SELECT item_id, open, expected FROM purchase_line WHERE open > 0",
  "SELECT id, number, due FROM build WHERE stage IN ('draft', 'queued', 'on the bench') ORDER BY due IS NULL, due, priority, id",
  "SELECT id, number, due FROM sales_order WHERE stage IN ('open', 'part shipped') ORDER BY due IS NULL, due, id",
];
const floor = async () => {
  for (const sql of NETTING)
    await new Promise<unknown[]>((resolve, reject) =>
      bare.all(sql, (error, rows) => (error ? reject(error) : resolve(rows))),
    );
};
const ours = () => read(store, (ctx) => today(ctx));
const { total } = await ours();
if (total < 10_000) throw new Error(`${total} documents are open`);
const again = await against(`Today over ${total} open documents`, RUNS, ours, floor);
const first = await against("the same, first after a change", RUNS, ours, floor, () =>
  change(store, 1, (ctx) => nextNumber(ctx, "B")),
);
const ok = report([again, first], MOST);
bare.close();
await store.close();
rmSync(folder, { recursive: true });
process.exit(ok ? 0 : 1);
