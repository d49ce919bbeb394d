import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { findItems, type ItemQuery, read, whereUsed } from "@yosegi/server";
import sqlite3 from "sqlite3";
import { LARGE, makeCompany } from "./make.ts";
import { against, report } from "./measure.ts";

/** Most times the bare SQL that a question about the catalog may take. */
const MOST = 3;
const RUNS = 40;

const folder = mkdtempSync(join(tmpdir(), "yosegi-bench-"));
const file = join(folder, "large.db");
console.log(`Making ${LARGE.items} items and ${LARGE.lists} parts lists …`);
const store = await makeCompany(file, LARGE);
const bare = new sqlite3.Database(file);
const sql = (text: string, values: Record<string, unknown> = {}) =>
  new Promise<unknown[]>((resolve, reject) =>
    bare.all(text, values, (error, rows) => (error ? reject(error) : resolve(rows))),
  );

// What a row of the list shows, of the items that a condition and an order give: as one statement would have it.
const page = (where: string, order: string) => `
  SELECT i.id, i.code, i.name, i.kind, i.tracking, i.unit, u.decimals, i.state, i.not_stock_tracked, i.picture_id, i.price,
         i.standard_cost, g.name AS "group", r.id AS revision, s.supplier_id,
         (SELECT SUM(b.quantity) FROM balance b JOIN location p ON p.id = b.location_id WHERE b.item_id = i.id AND p.kind = 'store') AS on_hand,
         (SELECT SUM(b.quantity) FROM balance b JOIN location p ON p.id = b.location_id JOIN lot l ON l.item_id = b.item_id AND l.code = b.lot
           WHERE b.item_id = i.id AND p.kind = 'store' AND l.expiry < '2026-01-01') AS expired,
         (SELECT SUM(open) FROM build_line WHERE item_id = i.id AND open > 0) AS reserved,
         (SELECT SUM(quantity) FROM pool WHERE item_id = i.id) AS pool, (SELECT SUM(value) FROM pool WHERE item_id = i.id) AS value,
         (SELECT group_concat(name || quantity) FROM pack WHERE item_id = i.id) AS packs
    FROM item i JOIN unit u ON u.code = i.unit LEFT JOIN item_group g ON g.id = i.group_id
    LEFT JOIN parts_list t ON t.product_id = i.id AND t.main = 1 LEFT JOIN revision r ON r.list_id = t.id AND r.state = 'locked'
    LEFT JOIN item_supplier s ON s.item_id = i.id AND s.preferred = 1
   WHERE i.state <> 'archived' AND ${where} ORDER BY ${order} LIMIT 100`;
const count = (where: string) => `SELECT COUNT(*) FROM item i WHERE i.state <> 'archived' AND ${where}`;

const ask = (query: Partial<ItemQuery>) =>
  read(store, (ctx) => findItems(ctx, { search: "", sort: "code", descending: false, limit: 100, ...query }));
const after = (place: number) => JSON.stringify([0, `PRT-${String(place).padStart(6, "0")}`]);
const measured = [];
for (const [typed, words] of [
  ["b", ["b"]],
  ["bra", ["bra"]],
  ["brass hi", ["brass", "hi"]],
  ["prt-0312", ["prt-0312"]],
] as const) {
  const where = words.map((word) => `instr(i.search, '${word}') > 0`).join(" AND ");
  measured.push(
    await against(
      `search “${typed}”`,
      RUNS,
      () => ask({ search: typed }),
      async () => {
        await sql(page(where, `instr(i.search, '${words[0]}') <> 1, i.code_key`));
        await sql(count(where));
      },
    ),
  );
}
for (const place of [0, 25_000, 49_800])
  measured.push(
    await against(
      `page of the list after item ${place}`,
      RUNS,
      () => ask({ after: after(place) }),
      () => sql(page(`i.code_key > 'PRT-${String(place).padStart(6, "0")}'`, "i.code_key")),
    ),
  );
// Which revision of a list is in force is part of the question: the newest locked one whose start has come, else a draft.
const used = `
  SELECT p.product_id, i.code, i.name, p.name AS list, r.number, r.state, l.quantity, l.unit
    FROM revision_line l JOIN revision r ON r.id = l.revision_id JOIN parts_list p ON p.id = r.list_id JOIN item i ON i.id = p.product_id
   WHERE l.item_id = $item AND (r.state = 'draft' OR r.id = (
         SELECT v.id FROM revision v WHERE v.list_id = p.id AND (v.state = 'draft' OR v.state = 'locked' AND (v.starts = 'at once'
             OR v.starts = 'day' AND v.starts_on <= '2026-01-01' OR v.starts = 'run out' AND NOT EXISTS
                (SELECT 1 FROM balance WHERE item_id = v.starts_after AND quantity > 0)))
          ORDER BY v.state = 'locked' DESC, v.number DESC LIMIT 1))
  UNION ALL SELECT p.product_id, i.code, i.name, p.name, r.number, r.state, s.quantity, '' FROM line_substitute s
    JOIN revision r ON r.id = s.revision_id JOIN parts_list p ON p.id = r.list_id JOIN item i ON i.id = p.product_id WHERE s.item_id = $item
  UNION ALL SELECT k.id, k.code, k.name, '', 0, '', c.quantity, '' FROM kit_content c JOIN item k ON k.id = c.kit_id WHERE c.item_id = $item
  UNION ALL SELECT k.id, k.code, k.name, '', 0, '', 0, '' FROM kit_swap c JOIN item k ON k.id = c.kit_id WHERE c.item_id = $item
  UNION ALL SELECT b.id, b.number, '', '', 0, b.stage, l.open, '' FROM build_line l JOIN build b ON b.id = l.build_id WHERE l.item_id = $item
   ORDER BY 2`;
for (const [what, item] of [
  ["a part of 1000 lists", LARGE.lists + 1],
  ["a part of a few lists", LARGE.lists + 7_920],
] as const)
  measured.push(
    await against(
      `where ${what} is used`,
      RUNS,
      () => read(store, (ctx) => whereUsed(ctx, item)),
      () => sql(used, { $item: item }),
    ),
  );
console.log(`${"".padEnd(46)} ${"use case".padStart(12)} ${"bare SQL".padStart(12)}`);
const within = report(measured, MOST);
const [first, , last] = measured.filter(({ what }) => what.startsWith("page"));
if (first && last)
  console.log(`The last page against the first: ratio ${(last.ours / first.ours).toFixed(2)}`);
bare.close();
await store.close();
rmSync(folder, { recursive: true });
process.exitCode = within ? 0 : 1;
