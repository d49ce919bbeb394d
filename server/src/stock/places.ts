import type { AnswerOf, QueryOf, routes } from "@yosegi/contract";
import {
  type Day,
  type Decimal,
  moneyFromScaled,
  placeValues,
  quantityFromScaled,
  sum,
  ZERO,
} from "@yosegi/core";
import { groupBy, pageOf, type Reading } from "../db/index.ts";
import { briefs } from "../items/index.ts";
import { locationNames } from "../ledger/index.ts";

interface QuantityRow {
  item: number;
  lot: string;
  serial: string;
  owner: string;
  owner_id: number;
  location: number;
  quantity: number;
}

interface ValueRow extends Omit<QuantityRow, "location" | "quantity"> {
  value: number;
}

/** What of an item is at one place. */
interface ItemAt {
  place: string;
  quantity: Decimal;
  value: Decimal;
}

/** Where everything was at the end of a day, by item, with its value (docs/rules.md § 14): the sums of movements with a day up to it. */
export async function stockPlaces(
  ctx: Reading,
  query: QueryOf<typeof routes.stockPlaces>,
): Promise<AnswerOf<typeof routes.stockPlaces>> {
  const day = query.day ?? ctx.today;
  const items = await itemsAt(ctx, day);
  for (const [item, quantity] of await withCustomers(ctx, day))
    items.set(item, [...(items.get(item) ?? []), { place: WITH_CUSTOMERS, quantity, value: ZERO }]);
  const brief = await briefs(ctx, items.keys());
  const rows = [...items]
    .map(([id, places]) => ({ id, item: brief(id), places }))
    .sort((a, b) => (a.item.code < b.item.code ? -1 : 1));
  const page = pageOf(rows, query, ({ item }) => `${item.code} ${item.name}`);
  const totals = new Map<string, Decimal>();
  for (const { place, value } of page.found.flatMap((row) => row.places))
    totals.set(place, (totals.get(place) ?? ZERO).plus(value));
  return {
    day,
    total: page.total,
    next: page.next,
    value: sum(totals.values()).toFixed(4),
    totals: [...totals]
      .filter(([place]) => place !== WITH_CUSTOMERS)
      .map(([place, value]) => ({ place, value: value.toFixed(4) })),
    items: page.rows.map(({ item, places }) => ({
      item,
      places: places.map(({ place, quantity, value }) => ({
        place,
        quantity: quantity.toFixed(),
        value: value.toFixed(4),
      })),
    })),
  };
}

/** What was shipped is no value of ours any more. */
const WITH_CUSTOMERS = "With customers";

/** How much of each item was shipped and did not come back until a day. A customer's own unit that is here never was ours, or is not there now. */
async function withCustomers(ctx: Reading, day: Day): Promise<Map<number, Decimal>> {
  const rows = await ctx.sql.allAtOnce<{ item: number; quantity: number }>(
    ["item", "quantity"],
    `SELECT item, SUM(quantity) AS quantity FROM (
       SELECT m.item_id AS item, SUM(CASE WHEN m.to_location IS NULL THEN m.quantity ELSE -m.quantity END) AS quantity
         FROM stock_movement m JOIN posting_head o ON o.id = m.posting_id
        WHERE o.day <= $day AND m.purpose IN ('shipped', 'returned')
          AND (m.serial <> '' OR 'customer' NOT IN (m.from_owner, m.to_owner))
        GROUP BY m.item_id, m.serial HAVING SUM(CASE WHEN m.to_location IS NULL THEN m.quantity ELSE -m.quantity END) > 0)
      GROUP BY item`,
    { day },
  );
  return new Map(rows.map((row) => [row.item, quantityFromScaled(row.quantity)]));
}

/** Value for which no pieces are left on that day. */
const REVALUED = "revalued by later entries";

/** Where each item was, with its value, place by place. */
export async function itemsAt(ctx: Reading, day: Day): Promise<Map<number, ItemAt[]>> {
  const quantities = groupBy(await quantitiesAt(ctx, day), poolOf);
  const values = await valuesAt(ctx, day);
  const names = await placeNames(ctx);
  const found = new Map<number, Map<string, ItemAt>>();
  const add = (item: number, { place, quantity, value }: ItemAt) => {
    const places = found.get(item) ?? new Map<string, ItemAt>();
    found.set(item, places);
    const before = places.get(place);
    places.set(place, {
      place,
      quantity: before ? before.quantity.plus(quantity) : quantity,
      value: before ? before.value.plus(value) : value,
    });
  };
  const worth = new Map(values.map((row) => [poolOf(row), row]));
  for (const [pool, rows] of quantities) {
    const [first] = rows;
    if (!first) continue;
    const { at, revalued } = placeValues(
      moneyFromScaled(worth.get(pool)?.value ?? 0),
      rows.map((row) => ({ place: names(row), quantity: quantityFromScaled(row.quantity) })),
    );
    for (const one of at) add(first.item, one);
    if (!revalued.eq(0)) add(first.item, { place: REVALUED, quantity: ZERO, value: revalued });
  }
  for (const { item, ...row } of values)
    if (row.value !== 0 && !quantities.has(poolOf({ item, ...row })))
      add(item, { place: REVALUED, quantity: ZERO, value: moneyFromScaled(row.value) });
  return new Map([...found].map(([item, places]) => [item, [...places.values()]]));
}

const poolOf = ({ item, lot, serial, owner, owner_id }: Omit<ValueRow, "value">): string =>
  JSON.stringify([item, lot, serial, owner, owner_id]);

const POOL = ["item", "lot", "serial", "owner", "owner_id"] as const;

/** What of each pool was at each location. */
function quantitiesAt(ctx: Reading, day: Day): Promise<QuantityRow[]> {
  const end = (name: "from" | "to", sign: string) => `
    SELECT m.item_id AS item, m.lot, m.serial, m.${name}_owner AS owner, m.${name}_owner_id AS owner_id, m.${name}_location AS location, ${sign}m.quantity AS quantity
      FROM stock_movement m JOIN posting_head o ON o.id = m.posting_id WHERE o.day <= $day AND m.${name}_location IS NOT NULL`;
  return ctx.sql.allAtOnce<QuantityRow>(
    [...POOL, "location", "quantity"],
    `SELECT item, lot, serial, owner, owner_id, location, SUM(quantity) AS quantity FROM (${end("to", "")} UNION ALL ${end("from", "-")})
      GROUP BY 1, 2, 3, 4, 5, 6 HAVING SUM(quantity) <> 0`,
    { day },
  );
}

/** What each pool was worth: what came to its owner less what left. */
function valuesAt(ctx: Reading, day: Day): Promise<ValueRow[]> {
  const end = (name: "from" | "to", sign: string) => `
    SELECT m.item_id AS item, m.lot, m.serial, m.${name}_owner AS owner, m.${name}_owner_id AS owner_id, ${sign}m.value AS value
      FROM stock_movement m JOIN posting_head o ON o.id = m.posting_id
     WHERE o.day <= $day AND m.value <> 0 AND m.${name}_location IS NOT NULL
       AND (m.from_location IS NULL OR m.to_location IS NULL OR m.from_owner <> m.to_owner OR m.from_owner_id <> m.to_owner_id)`;
  return ctx.sql.allAtOnce<ValueRow>(
    [...POOL, "value"],
    `SELECT item, lot, serial, owner, owner_id, SUM(value) AS value FROM (${end("to", "")} UNION ALL ${end("from", "-")})
      GROUP BY 1, 2, 3, 4, 5 HAVING SUM(value) <> 0`,
    { day },
  );
}

/** What a place is called: a store, a bench, a subcontractor, or packed. */
async function placeNames(ctx: Reading): Promise<(row: QuantityRow) => string> {
  const names = await locationNames(ctx);
  return ({ location }) => names.get(location) ?? "";
}
