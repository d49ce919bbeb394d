import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { change, openStore, read, trace } from "@yosegi/server";
import sqlite3 from "sqlite3";
import { BUSY, makeCompany } from "./make.ts";
import { against, report } from "./measure.ts";

/** Most times the bare SQL that finds the same pieces that a trace may take. */
const MOST = 3;
const RUNS = 20;
const BUILDS = 2_000;
/** The part whose lot went into all of them, and the product that they made, each a lot of its own that was shipped. */
const [PART, PRODUCT] = [20_000, 1];
const LOT = "L-17";

const folder = mkdtempSync(join(tmpdir(), "yosegi-bench-"));
const file = join(folder, "trace.db");
console.log(`Making ${BUSY.items} items, ${BUSY.balances} balances, a lot that went into ${BUILDS} builds …`);
const made = await makeCompany(file, BUSY);
await change(made, 1, async (ctx) => {
  const bind = { builds: BUILDS, part: PART, product: PRODUCT, lot: LOT };
  const numbers = "WITH RECURSIVE n (i) AS (SELECT 1 UNION ALL SELECT i + 1 FROM n WHERE i < $builds)";
  await ctx.sql.run(
    `${numbers} INSERT INTO posting (kind, document, person_id, day, moment, reason)
     SELECT 'finish', 'T-' || i, 1, '2026-01-01', '2026-01-01T00:00:00.000Z', '' FROM n
      UNION ALL SELECT 'shipment', 'TS-' || i, 1, '2026-01-01', '2026-01-01T00:00:00.000Z', '' FROM n`,
    { builds: BUILDS },
  );
  await ctx.sql.run(
    "INSERT INTO lot (item_id, code, code_key, received) VALUES ($part, $lot, $lot, '2026-01-01')",
    { part: PART, lot: LOT },
  );
  const columns = `posting_id, item_id, quantity, value, from_location, from_bin, from_owner, from_owner_id, to_location, to_bin, to_owner,
                   to_owner_id, lot, serial, purpose, source, source_id, source_line, reason`;
  const gone = "1, 'A-0', 'company', 0, NULL, '', '', 0";
  await ctx.sql.run(
    `${numbers} INSERT INTO movement (${columns})
     SELECT o.id, $part, 1000000, 10, ${gone}, $lot, '', 'used', 'build', n.i, 1, '' FROM n JOIN posting o ON o.document = 'T-' || n.i
      UNION ALL
     SELECT o.id, $product, 1000000, 10, NULL, '', '', 0, 1, 'A-0', 'company', 0, 'P-' || n.i, '', 'built', 'build', n.i, 0, ''
       FROM n JOIN posting o ON o.document = 'T-' || n.i
      UNION ALL
     SELECT o.id, $product, 1000000, 10, ${gone}, 'P-' || n.i, '', 'shipped', 'order', 1, 1, '' FROM n JOIN posting o ON o.document = 'TS-' || n.i`,
    bind,
  );
});
await made.db.query("ANALYZE");
await made.close();
const store = await openStore(file, () => new Date("2026-01-01T09:00:00Z"));

const bare = new sqlite3.Database(file);
/** The same pieces and the same facts of each step, by one question. */
const BARE = `
WITH RECURSIVE piece (item, lot) AS (
  SELECT ${PART}, '${LOT}'
   UNION
  SELECT b.item_id, b.lot FROM piece p JOIN movement u ON u.item_id = p.item AND u.lot = p.lot AND u.lot <> '' AND u.purpose = 'used'
    JOIN movement b ON b.posting_id = u.posting_id AND b.purpose = 'built')
SELECT p.item, p.lot, m.purpose, m.quantity, o.document, o.day, o.moment, n.name AS person, l.name, m.from_bin, m.source, m.source_id,
       d.number AS build, s.number AS shipment, f.code, f.name AS firm
  FROM piece p JOIN movement m ON m.item_id = p.item AND m.lot = p.lot AND m.lot <> '' AND m.to_location IS NULL
  JOIN posting o ON o.id = m.posting_id AND o.undoes IS NULL AND NOT EXISTS (SELECT 1 FROM posting x WHERE x.undoes = o.id)
  JOIN person n ON n.id = o.person_id LEFT JOIN location l ON l.id = m.from_location
  LEFT JOIN build d ON m.source = 'build' AND d.id = m.source_id LEFT JOIN shipment s ON s.posting_id = o.id
  LEFT JOIN sales_order so ON m.source = 'order' AND so.id = m.source_id LEFT JOIN firm f ON f.id = so.customer_id`;
const floor = () =>
  new Promise<unknown[]>((resolve, reject) =>
    bare.all(BARE, (error, rows) => (error ? reject(error) : resolve(rows))),
  );
const ours = () => read(store, (ctx) => trace(ctx, { item: PART, lot: LOT, serial: "" }, "forward"));
const [rows, traced] = [await floor(), await ours()];
if (rows.length !== 2 * BUILDS || traced.pieces.length !== BUILDS + 1)
  throw new Error(`${rows.length} rows and ${traced.pieces.length} pieces were found`);
const ok = report([await against(`tracing a lot of ${BUILDS} builds`, RUNS, ours, floor)], MOST);
await store.close();
bare.close();
rmSync(folder, { recursive: true });
process.exit(ok ? 0 : 1);
