import { addDays, decimal, searchText } from "@yosegi/core";
import { change, openStore, type Store, setUp, type Writing } from "@yosegi/server";

/** How large a company the measurements are made on. */
export interface Size {
  items: number;
  /** Of the items, how many are built and have a parts list. */
  lists: number;
  linesEach: number;
  balances: number;
  /** Open builds, spread over so many of the products: a business builds some of its products again and again. */
  builds: number;
  productsBuilt: number;
  /** Lines of sent purchase orders. */
  purchaseLines: number;
}

export const LARGE: Size = {
  items: 50_000,
  lists: 5_000,
  linesEach: 8,
  balances: 60_000,
  builds: 0,
  productsBuilt: 0,
  purchaseLines: 0,
};
/** The same with everything in motion. */
export const BUSY: Size = {
  ...LARGE,
  balances: 200_000,
  builds: 10_000,
  productsBuilt: 100,
  purchaseLines: 2_000,
};

const STUFF = ["oak", "ash", "brass", "steel", "linen", "glass", "cork", "wax", "birch", "copper"];
const THINGS = ["strip", "plate", "hinge", "screw", "cover", "frame", "ring", "tray", "label", "handle"];
const CHUNK = 10_000;

/** Makes a company of that size in a new database file. Everything follows from the numbers: two runs make the same. */
export async function makeCompany(file: string, size: Size): Promise<Store> {
  const store = await openStore(file);
  await change(store, null, (ctx) =>
    setUp(ctx, {
      name: "Large company",
      currency: "EUR",
      timeZone: "UTC",
      taxRate: decimal("20"),
      store: "Store",
      person: "Bench",
    }),
  );
  await change(store, 1, async (ctx) => {
    await makeItems(ctx, size);
    await makeLists(ctx, size);
    await makeStock(ctx, size);
    await makeBuilds(ctx, size);
    await makePurchases(ctx, size);
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
    `INSERT INTO item (code, code_key, name, search, kind, unit, tracking, standard_cost, price, home_location_id, home_bin)
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
    `INSERT INTO balance (item_id, lot, serial, location_id, bin, owner, owner_id, quantity)
     SELECT value ->> 0, '', '', 1, value ->> 1, 'company', 0, value ->> 2 FROM json_each($rows)`,
    balances,
    (i) => [(i % items) + 1, `A-${Math.floor(i / items)}`, 1_000_000 * (1 + (i % 90))],
  );
  await ctx.sql.run(
    `INSERT INTO pool (item_id, lot, serial, owner, owner_id, quantity, value)
     SELECT item_id, '', '', 'company', 0, SUM(quantity), SUM(quantity) / 100 FROM balance GROUP BY item_id`,
  );
}

const FIRST_DUE = "2026-01-02";

/** Queued builds, each with a copy of its product's list; due over the coming half year, some on no day. */
async function makeBuilds(ctx: Writing, { builds, productsBuilt, linesEach }: Size): Promise<void> {
  if (builds === 0) return;
  await insert(
    ctx,
    `INSERT INTO build (id, number, product_id, quantity, wanted, good, rejected, stage, due, note, makes, overhead, extra, options,
                        list_id, revision_id, created_by, created_at, queued_by, queued_at)
     SELECT value ->> 0, 'B-' || (value ->> 0), value ->> 1, value ->> 2, value ->> 2, 0, 0, 'queued', value ->> 3, '', 1000000, 0, 0, '[]',
            value ->> 1, value ->> 1, 1, '2026-01-01T00:00:00.000Z', 1, '2026-01-01T00:00:00.000Z' FROM json_each($rows)`,
    builds,
    (i) => [
      i + 1,
      (i % productsBuilt) + 1,
      1_000_000 * (1 + (i % 6)),
      i % 17 === 0 ? null : addDays(FIRST_DUE, i % 180),
    ],
  );
  await ctx.sql.run(
    `INSERT INTO build_line (build_id, line, item_id, quantity, unit, waste, once, need, used, open, drawn_at, note)
     SELECT b.id, l.line, l.item_id, l.quantity, l.unit, 0, 0, l.quantity * b.quantity / 1000000, 0, l.quantity * b.quantity / 1000000, 'pick', ''
       FROM build b JOIN revision_line l ON l.revision_id = b.revision_id WHERE l.line <= $linesEach`,
    { linesEach },
  );
}

/** Sent orders of one supplier, of parts that builds take; and what that supplier asks for every bought item. */
async function makePurchases(
  ctx: Writing,
  { items, lists, purchaseLines, linesEach, productsBuilt }: Size,
): Promise<void> {
  if (purchaseLines === 0) return;
  await ctx.sql.run(
    `INSERT INTO firm (id, kind, code, code_key, name, search, address, contact, email, phone, terms)
     VALUES (1, 'supplier', 'SUP', 'SUP', 'Supplier', 'sup supplier', '', '', '', '', '')`,
  );
  await ctx.sql.run(
    `INSERT INTO item_supplier (item_id, supplier_id, their_code, price, lead_days, minimum, multiple, web, preferred)
     SELECT id, 1, '', 12000, 5 + id % 12, NULL, 5000000, '', 1 FROM item WHERE kind = 'bought'`,
  );
  await insert(
    ctx,
    "UPDATE item SET reorder_level = value ->> 1 FROM json_each($rows) WHERE item.id = value ->> 0",
    items - lists,
    (i) => [lists + i + 1, i % 4 === 0 ? 1_000_000 * (20 + (i % 60)) : null],
  );
  await ctx.sql.run(
    "INSERT INTO purchase (id, number, supplier_id, stage, note, created_by, created_at) VALUES (1, 'P-1', 1, 'sent', '', 1, '2026-01-01T00:00:00.000Z')",
  );
  await ctx.sql.run(
    `INSERT INTO purchase_line (purchase_id, position, item_id, quantity, pack, price, expected, cost_tag, note, received, open, closed)
     SELECT 1, ROW_NUMBER() OVER (), item_id, 40000000, '', 12000, date($first, '+' || (ROW_NUMBER() OVER () % 60) || ' days'), '', '', 0, 40000000, 0
       FROM revision_line, (VALUES (1), (2), (3)) WHERE revision_id <= $built AND line <= $linesEach LIMIT $count`,
    { first: FIRST_DUE, built: productsBuilt, linesEach, count: purchaseLines },
  );
}

/** Open orders of products, each line linked to one of the open builds of its product; due like these, some on no day. */
export async function makeOrders(
  ctx: Writing,
  { builds, productsBuilt }: Size,
  { orders, linesEach }: { orders: number; linesEach: number },
): Promise<void> {
  await ctx.sql.run(
    `INSERT INTO firm (id, kind, code, code_key, name, search, address, contact, email, phone, terms)
     VALUES (2, 'customer', 'CUS', 'CUS', 'Customer', 'cus customer', '', '', '', '', '')`,
  );
  await insert(
    ctx,
    `INSERT INTO sales_order (id, number, customer_id, stage, due, reference, note, created_by, created_at)
     SELECT value ->> 0, 'O-' || (value ->> 0), 2, 'open', value ->> 1, '', '', 1, '2026-01-01T00:00:00.000Z' FROM json_each($rows)`,
    orders,
    (i) => [i + 1, i % 13 === 0 ? null : addDays(FIRST_DUE, i % 150)],
  );
  const build = (i: number) => (i % builds) + 1;
  const product = (i: number) => ((build(i) - 1) % productsBuilt) + 1;
  const lines = orders * linesEach;
  await insert(
    ctx,
    `INSERT INTO sales_line (id, order_id, line, item_id, quantity, price)
     SELECT value ->> 0, value ->> 1, value ->> 2, value ->> 3, value ->> 4, 50000 FROM json_each($rows)`,
    lines,
    (i) => [i + 1, Math.floor(i / linesEach) + 1, (i % linesEach) + 1, product(i), 1_000_000 * (1 + (i % 3))],
  );
  await ctx.sql.run(
    "INSERT INTO order_component (line_id, item_id, per, open) SELECT id, item_id, 1000000, quantity FROM sales_line",
  );
  await insert(
    ctx,
    "INSERT INTO allocation (build_id, line_id, quantity) SELECT value ->> 0, value ->> 1, 1000000 FROM json_each($rows)",
    lines,
    (i) => [build(i), i + 1],
  );
}
