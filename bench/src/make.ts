import { searchText } from "@yosegi/core";
import { change, openStore, type Store, setUp, type Writing } from "@yosegi/server";

/** How large a company the measurements are made on. */
export interface Size {
  items: number;
  /** Of the items, how many are built and have a parts list. */
  lists: number;
  linesEach: number;
  balances: number;
}

export const LARGE: Size = { items: 50_000, lists: 5_000, linesEach: 8, balances: 60_000 };

const STUFF = ["oak", "ash", "brass", "steel", "linen", "glass", "cork", "wax", "birch", "copper"];
const THINGS = ["strip", "plate", "hinge", "screw", "cover", "frame", "ring", "tray", "label", "handle"];
const CHUNK = 10_000;

/** Makes a company of that size in a new database file. Everything follows from the numbers: two runs make the same. */
export async function makeCompany(file: string, size: Size): Promise<Store> {
  const store = await openStore(file);
  await change(store, null, (ctx) =>
    setUp(ctx, {
      ...{ name: "Large company", currency: "EUR", timeZone: "UTC", store: "Store", person: "Bench" },
    }),
  );
  await change(store, 1, async (ctx) => {
    await makeItems(ctx, size);
    await makeLists(ctx, size);
    await makeStock(ctx, size);
  });
  await store.db.query("ANALYZE");
  return store;
}

async function insert(ctx: Writing, sql: string, count: number, row: (i: number) => unknown[]) {
  for (let from = 0; from < count; from += CHUNK) {
    const rows = Array.from({ length: Math.min(CHUNK, count - from) }, (_, i) => row(from + i));
    await ctx.sql.run(sql, { rows: JSON.stringify(rows) });
  }
}

/** Items that are built stand first: an item's id is its place plus one. */
async function makeItems(ctx: Writing, { items, lists }: Size): Promise<void> {
  await insert(
    ctx,
    `INSERT INTO item (code, code_key, name, search, kind, unit, tracking, standard_cost, price, home_place_id, home_bin)
     SELECT value ->> 0, value ->> 0, value ->> 1, value ->> 2, value ->> 3, 'pc', 'none', value ->> 4, value ->> 5, 1, ''
       FROM json_each($rows)`,
    items,
    (i) => {
      const code = `${i < lists ? "PRD" : "PRT"}-${String(i).padStart(6, "0")}`;
      const name = `${STUFF[i % 10]} ${THINGS[Math.floor(i / 10) % 10]} ${i % 977} mm`;
      const cost = i < lists ? null : 1000 + (i % 5000);
      return [code, name, searchText(code, name), i < lists ? "built" : "bought", cost, 50_000 + (i % 9000)];
    },
  );
}

async function makeLists(ctx: Writing, { items, lists, linesEach }: Size): Promise<void> {
  await insert(
    ctx,
    "INSERT INTO parts_list (product_id, name, name_key, main) SELECT value ->> 0, 'Main', 'MAIN', 1 FROM json_each($rows)",
    lists,
    (i) => [i + 1],
  );
  await insert(
    ctx,
    `INSERT INTO revision (list_id, number, state, makes, usual, overhead, extra, yield, starts, lock_note)
     SELECT value ->> 0, 1, 'locked', 1000000, 10000000, 0, 0, 100000000, 'at once', '' FROM json_each($rows)`,
    lists,
    (i) => [i + 1],
  );
  const bought = items - lists;
  await insert(
    ctx,
    `INSERT INTO revision_line (revision_id, line, item_id, quantity, unit, waste, once, optional, drawn_at, note)
     SELECT value ->> 0, value ->> 1, value ->> 2, value ->> 3, 'pc', 0, 0, 0, 'pick', '' FROM json_each($rows)`,
    lists * linesEach,
    (i) => {
      const list = Math.floor(i / linesEach);
      const line = i % linesEach;
      // The first line of every fifth list is one common part; the others are spread over all parts.
      const part = line === 0 && list % 5 === 0 ? 0 : (list * 7919 + line * 104_729) % bought;
      return [list + 1, line + 1, lists + part + 1, 1_000_000 * (1 + (i % 4))];
    },
  );
}

async function makeStock(ctx: Writing, { items, balances }: Size): Promise<void> {
  await insert(
    ctx,
    `INSERT INTO balance (item_id, lot, serial, place_id, bin, quantity)
     SELECT value ->> 0, '', '', 1, value ->> 1, value ->> 2 FROM json_each($rows)`,
    balances,
    (i) => [(i % items) + 1, `A-${Math.floor(i / items)}`, 1_000_000 * (1 + (i % 90))],
  );
  await ctx.sql.run(
    `INSERT INTO pool (item_id, lot, serial, quantity, value)
     SELECT item_id, '', '', SUM(quantity), SUM(quantity) / 100 FROM balance GROUP BY item_id`,
  );
}
