import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import type { QuestionInput } from "@yosegi/contract";
import { decimal } from "@yosegi/core";
import { change, coverOf, nextNumber, openStore, read, reorder } from "@yosegi/server";
import sqlite3 from "sqlite3";
import { BUSY, makeCompany } from "./make.ts";
import { against, type Measured, report } from "./measure.ts";

/** Most times the bare netting of the same rows that a check may take, also as the first after a change, and the reorder view. */
const MOST_ONE = 2;
const MOST_FIFTY = 5;
const MOST_REORDER = 3;
const RUNS = 60;

const folder = mkdtempSync(join(tmpdir(), "yosegi-bench-"));
const file = join(folder, "busy.db");
console.log(
  `Making ${BUSY.items} items, ${BUSY.balances} balances, ${BUSY.builds} open builds of ${BUSY.linesEach} parts, ${BUSY.purchaseLines} purchase lines …`,
);
await (await makeCompany(file, BUSY)).close();
const store = await openStore(file, () => new Date("2026-01-01T09:00:00Z"));
const bare = new sqlite3.Database(file);
const sql = (text: string, values: Record<string, unknown> = {}) =>
  new Promise<unknown[]>((resolve, reject) =>
    bare.all(text, values, (error, rows) => (error ? reject(error) : resolve(rows))),
  );

const question = (products: number, quantity: (i: number) => number): QuestionInput => ({
  demands: Array.from({ length: products }, (_, i) => ({
    item: i + 1,
    quantity: decimal(quantity(i)),
    day: null,
    priority: 1,
    list: null,
    options: [],
    build: null,
    instead: [],
  })),
  store: "",
  stock: [],
  incoming: [],
});

// What is needed of the same parts against what is there of them: the netting that any check has to do.
const NETTING = `
  SELECT item_id, (SELECT SUM(open) FROM build_line WHERE item_id = l.item_id AND open > 0) AS need,
         (SELECT SUM(quantity) FROM balance WHERE item_id = l.item_id) AS stock
    FROM (SELECT DISTINCT item_id FROM revision_line WHERE revision_id <= $products) l`;
const ALL = `
  SELECT i.id, n.need, b.stock FROM item i
    LEFT JOIN (SELECT item_id, SUM(open) AS need FROM build_line WHERE open > 0 GROUP BY item_id) n ON n.item_id = i.id
    LEFT JOIN (SELECT item_id, SUM(quantity) AS stock FROM balance GROUP BY item_id) b ON b.item_id = i.id
   WHERE n.need IS NOT NULL OR b.stock IS NOT NULL`;

let typed = 0;
const checked = async (products: number): Promise<Measured> =>
  against(
    `check of ${products === 1 ? "one product" : `${products} products`}`,
    RUNS,
    // another quantity each time, as it is typed
    () =>
      read(store, (ctx) =>
        coverOf(
          ctx,
          question(products, (i) => 1 + ((typed++ + i) % 40)),
        ),
      ),
    () => sql(NETTING, { $products: products }),
  );

/** The same as the first question after a change: nothing is kept from the one before. */
const afterChange = async (): Promise<Measured> =>
  against(
    "check of one product, first after a change",
    RUNS / 3,
    async () => {
      await read(store, (ctx) =>
        coverOf(
          ctx,
          question(1, () => 1 + (typed++ % 40)),
        ),
      );
    },
    () => sql(NETTING, { $products: 1 }),
    () => change(store, 1, (ctx) => nextNumber(ctx, "B")),
  );

const one = await checked(1);
const many = await checked(50);
const first = await afterChange();
const view = await against(
  "the whole reorder view by date",
  12,
  () => read(store, (ctx) => reorder(ctx, { search: "", limit: 1000 })),
  () => sql(ALL),
);
const { rows } = await read(store, (ctx) => reorder(ctx, { search: "", limit: 1000 }));
console.log(`${"".padEnd(46)} ${"use case".padStart(12)} ${"bare SQL".padStart(12)}`);
const within = report([one, first], MOST_ONE);
const fifty = report([many], MOST_FIFTY);
const whole = report([view], MOST_REORDER);
console.log(`The reorder view names ${rows.length} items.`);
const { rss, heapUsed } = process.memoryUsage();
console.log(
  `Memory of the server's process: ${(rss / 1e6).toFixed(0)} MB, of which ${(heapUsed / 1e6).toFixed(0)} MB heap.`,
);
bare.close();
await store.close();
rmSync(folder, { recursive: true });
process.exitCode = within && fifty && whole ? 0 : 1;
