import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { change, openStore, read, stockPlaces } from "@yosegi/server";
import sqlite3 from "sqlite3";
import { LARGE, makeCompany } from "./make.ts";
import { against, report } from "./measure.ts";

/** Most times the bare SQL that adds up the same movements that stock at a past day may take. */
const MOST = 3;
const RUNS = 5;
const MOVEMENTS = 1_000_000;
const POSTINGS = 50_000;
const ITEMS = 20_000;
const DAY = "2026-04-01";

const folder = mkdtempSync(join(tmpdir(), "yosegi-bench-"));
const file = join(folder, "past.db");
console.log(`Making ${LARGE.items} items and ${MOVEMENTS} movements …`);
const made = await makeCompany(file, LARGE);
await change(made, 1, async (ctx) => {
  const numbers = (count: number) =>
    `WITH RECURSIVE n (i) AS (SELECT 1 UNION ALL SELECT i + 1 FROM n WHERE i < ${count})`;
  await ctx.sql.run(
    `${numbers(POSTINGS)} INSERT INTO posting (kind, document, person_id, day, moment, reason)
     SELECT 'receipt', 'PAST-' || i, 1, date('2026-01-01', '+' || (i * 180 / ${POSTINGS}) || ' days'), '2026-01-01T00:00:00.000Z', '' FROM n`,
  );
  // Three come in for each that goes out, and one is moved.
  const first =
    (await ctx.sql.one<{ id: number }>("SELECT MIN(id) AS id FROM posting WHERE document = 'PAST-1'"))?.id ??
    0;
  await ctx.sql.run(
    `${numbers(MOVEMENTS)} INSERT INTO movement (posting_id, item_id, quantity, value, from_location, from_bin, from_owner, from_owner_id,
                              to_location, to_bin, to_owner, to_owner_id, lot, serial, purpose, source, source_id, source_line, reason)
     SELECT ${first} + (i - 1) / (${MOVEMENTS} / ${POSTINGS}), 1 + i % ${ITEMS}, CASE WHEN i % 5 = 3 THEN 1000000 ELSE 3000000 END,
            CASE WHEN i % 5 = 4 THEN 0 WHEN i % 5 = 3 THEN 10000 ELSE 30000 END,
            CASE WHEN i % 5 >= 3 THEN 1 END, CASE WHEN i % 5 >= 3 THEN 'A-0' ELSE '' END, CASE WHEN i % 5 >= 3 THEN 'company' ELSE '' END, 0,
            CASE WHEN i % 5 <> 3 THEN 1 END, CASE WHEN i % 5 = 4 THEN 'B-0' WHEN i % 5 = 3 THEN '' ELSE 'A-0' END,
            CASE WHEN i % 5 <> 3 THEN 'company' ELSE '' END, 0, '', '', CASE WHEN i % 5 = 4 THEN 'moved' WHEN i % 5 = 3 THEN 'shipped' ELSE 'bought' END,
            '', 0, 0, '' FROM n`,
  );
});
await made.db.query("ANALYZE");
await made.close();
const store = await openStore(file, () => new Date("2026-12-01T09:00:00Z"));

const bare = new sqlite3.Database(file);
/** What has to be added up: quantities at each place, and values of each pool. */
const SUMS = [
  `SELECT item_id, lot, serial, owner, owner_id, location, SUM(quantity) FROM (
     SELECT m.item_id, m.lot, m.serial, m.to_owner AS owner, m.to_owner_id AS owner_id, m.to_location AS location, m.quantity
       FROM movement m JOIN posting o ON o.id = m.posting_id WHERE o.day <= '${DAY}' AND m.to_location IS NOT NULL
      UNION ALL
     SELECT m.item_id, m.lot, m.serial, m.from_owner, m.from_owner_id, m.from_location, -m.quantity
       FROM movement m JOIN posting o ON o.id = m.posting_id WHERE o.day <= '${DAY}' AND m.from_location IS NOT NULL)
    GROUP BY 1, 2, 3, 4, 5, 6`,
  `SELECT item_id, lot, serial, owner, owner_id, SUM(value) FROM (
     SELECT m.item_id, m.lot, m.serial, m.to_owner AS owner, m.to_owner_id AS owner_id, m.value
       FROM movement m JOIN posting o ON o.id = m.posting_id WHERE o.day <= '${DAY}' AND m.to_location IS NOT NULL AND m.from_location IS NULL
      UNION ALL
     SELECT m.item_id, m.lot, m.serial, m.from_owner, m.from_owner_id, -m.value
       FROM movement m JOIN posting o ON o.id = m.posting_id WHERE o.day <= '${DAY}' AND m.from_location IS NOT NULL AND m.to_location IS NULL)
    GROUP BY 1, 2, 3, 4, 5`,
];
const floor = async () => {
  for (const sql of SUMS)
    await new Promise<unknown[]>((resolve, reject) =>
      bare.all(sql, (error, rows) => (error ? reject(error) : resolve(rows))),
    );
};
const ours = () => read(store, (ctx) => stockPlaces(ctx, { day: DAY, search: "", limit: 100 }));
const { total } = await ours();
if (total < ITEMS / 2) throw new Error(`${total} items were found`);
const ok = report([await against(`stock at a past day of ${MOVEMENTS} movements`, RUNS, ours, floor)], MOST);
await store.close();
bare.close();
rmSync(folder, { recursive: true });
process.exit(ok ? 0 : 1);
