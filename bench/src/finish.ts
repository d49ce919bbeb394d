import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { PLAIN_FINISH, parseAmounts, routes } from "@yosegi/contract";
import { change, finishBuild, openStore } from "@yosegi/server";
import sqlite3 from "sqlite3";
import { BUSY, makeCompany } from "./make.ts";
import { against, report } from "./measure.ts";

/** Most times the bare transaction that writes the same rows that a finish may take. */
const MOST = 4;
const RUNS = 300;
const DAY = "2026-01-01";
const BUILD = 1;
const PARTS = 8;

const folder = mkdtempSync(join(tmpdir(), "yosegi-bench-"));
const file = join(folder, "finish.db");
console.log(`Making ${BUSY.items} items, ${BUSY.balances} balances, ${BUSY.builds} open builds …`);
await (await makeCompany(file, BUSY)).close();
const store = await openStore(file, () => new Date(`${DAY}T09:00:00Z`));

// One build of 8 parts, large enough to be finished again and again, with stock that lasts.
await change(store, 1, async (ctx) => {
  const all = "SELECT item_id FROM build_line WHERE build_id = $id";
  const bind = { id: BUILD };
  await ctx.sql.run("UPDATE build SET quantity = 1000000000000, wanted = 1000000000000 WHERE id = $id", bind);
  await ctx.sql.run(`UPDATE balance SET quantity = quantity + 5000000000000 WHERE item_id IN (${all})`, bind);
  await ctx.sql.run(
    `UPDATE pool SET quantity = (SELECT SUM(quantity) FROM balance b WHERE b.item_id = pool.item_id), value = 700000000
      WHERE item_id IN (${all})`,
    bind,
  );
});
const product = await change(store, 1, (ctx) =>
  ctx.sql.one<{ product: number; parts: number }>(
    `SELECT product_id AS product, (SELECT COUNT(*) FROM build_line WHERE build_id = b.id) AS parts
       FROM build b WHERE id = $id`,
    { id: BUILD },
  ),
);
if (product?.parts !== PARTS) throw new Error(`The build has ${product?.parts} parts, not ${PARTS}`);

const bare = new sqlite3.Database(file);
const sql = (text: string, values: Record<string, unknown> = {}) =>
  new Promise<{ id: number }[]>((resolve, reject) =>
    bare.all(text, values, (error, rows) => (error ? reject(error) : resolve(rows as { id: number }[]))),
  );
await sql("PRAGMA foreign_keys = ON");
await sql("PRAGMA synchronous = FULL");
const parts = await sql("SELECT item_id AS id FROM build_line WHERE build_id = $id", { $id: BUILD });
const items = JSON.stringify(parts.map((part) => part.id));

/** The rows that a finish writes, with figures that are known already: nothing is read, checked or figured. */
async function bareFinish(): Promise<void> {
  await sql("BEGIN IMMEDIATE");
  const [posting] = await sql(
    `INSERT INTO posting (kind, document, person_id, day, moment, reason)
     VALUES ('finish', 'B-1', 1, $day, $moment, '') RETURNING id`,
    { $day: DAY, $moment: new Date().toISOString() },
  );
  const ids = { $posting: posting?.id, $items: items };
  await sql(
    `INSERT INTO movement (posting_id, item_id, quantity, value, from_location, from_bin, from_owner, from_owner_id, to_location,
                           to_bin, to_owner, to_owner_id, lot, serial, purpose, source, source_id, source_line, reason)
     SELECT $posting, value, 1000000, 10, 1, 'A-0', 'company', 0, NULL, '', '', 0, '', '', 'used', 'build', $build, key + 1, ''
       FROM json_each($items)
      UNION ALL SELECT $posting, $product, 1000000, 80, NULL, '', '', 0, 1, 'A-0', 'company', 0, '', '', 'built', 'build', $build, 0, ''`,
    { ...ids, $product: product?.product, $build: BUILD },
  );
  await sql(
    `INSERT INTO balance (item_id, lot, serial, location_id, bin, owner, owner_id, quantity)
     SELECT item_id, lot, serial, location_id, bin, owner, owner_id, quantity - 1000000 FROM balance
      WHERE item_id IN (SELECT value FROM json_each($items)) AND bin = 'A-0' AND quantity > 1000000
         ON CONFLICT DO UPDATE SET quantity = excluded.quantity`,
    { $items: items },
  );
  await sql(
    `INSERT INTO balance (item_id, lot, serial, location_id, bin, owner, owner_id, quantity)
     VALUES ($product, '', '', 1, 'A-0', 'company', 0, 1000000)
         ON CONFLICT DO UPDATE SET quantity = quantity + 1000000`,
    { $product: product?.product },
  );
  await sql(
    `INSERT INTO pool (item_id, lot, serial, owner, owner_id, quantity, value)
     SELECT item_id, lot, serial, owner, owner_id, quantity - 1000000, value - 10 FROM pool
      WHERE item_id IN (SELECT value FROM json_each($items)) AND quantity > 1000000
         ON CONFLICT DO UPDATE SET quantity = excluded.quantity, value = excluded.value`,
    { $items: items },
  );
  await sql(
    `INSERT INTO pool (item_id, lot, serial, owner, owner_id, quantity, value)
     VALUES ($product, '', '', 'company', 0, 1000000, 80)
         ON CONFLICT DO UPDATE SET quantity = quantity + 1000000, value = value + 80`,
    { $product: product?.product },
  );
  const [finish] = await sql(
    `INSERT INTO finish (build_id, posting_id, good, rejected, location_id, bin, lot, expiry, parts, work, overhead, extra, fee, total)
     VALUES ($build, $posting, 1000000, 0, 1, 'A-0', '', NULL, 80, 0, 0, 0, 0, 80) RETURNING id`,
    { $build: BUILD, $posting: posting?.id },
  );
  await sql(
    `INSERT INTO finish_line (finish_id, line, planned, used, cost, difference_cost)
     SELECT $finish, key + 1, 1000000, 1000000, 10, 0 FROM json_each($items)`,
    { $finish: finish?.id, $items: items },
  );
  await sql(
    "UPDATE build_line SET used = used + 1000000, open = open - 1000000 WHERE build_id = $build AND open > 1000000",
    {
      $build: BUILD,
    },
  );
  await sql("UPDATE build SET good = good + 1000000 WHERE id = $build", { $build: BUILD });
  await sql("COMMIT");
}

const body = parseAmounts(routes.finishBuild.body, {
  ...PLAIN_FINISH,
  good: "1",
  day: DAY,
  store: "Store",
  bin: "A-0",
});
const measured = await against(
  `finishing a build of ${PARTS} parts`,
  RUNS,
  () => change(store, 1, (ctx) => finishBuild(ctx, BUILD, body)),
  bareFinish,
);
const ok = report([measured], MOST);
await store.close();
bare.close();
rmSync(folder, { recursive: true });
process.exit(ok ? 0 : 1);
