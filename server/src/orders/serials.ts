import { type ItemRow, Refusal } from "@yosegi/contract";
import { type Decimal, ONE } from "@yosegi/core";
import { asJson, type Reading } from "../db/index.ts";
import { OPEN } from "./rows.ts";

/** A line that asks for one unit by its serial number. */
interface SerialLine {
  id: number | null;
  item: number;
  serial: string;
  quantity: Decimal;
}

/**
 * Refuses serial numbers that lines of an order can't ask for: of an item without such, of more than one unit, of a unit that is not in
 * stock, or that another line asks for. `staying` says whether the line at a place is saved with the same item and number.
 */
export async function refuseSerials(
  ctx: Reading,
  lines: readonly (SerialLine & { sold: Pick<ItemRow, "code" | "tracking"> })[],
  staying: (at: number) => boolean,
): Promise<void> {
  const named = lines.flatMap((line, at) => (line.serial === "" ? [] : [{ ...line, at }]));
  if (named.length === 0) return;
  const inStock = await ctx.sql.all<{ item: number; serial: string }>(
    `SELECT item_id AS item, serial FROM usable_stock WHERE item_id IN (SELECT value FROM json_each($items)) AND serial <> ''`,
    { items: asJson(new Set(named.map((line) => line.item))) },
  );
  const here = new Set(inStock.map(keyOf));
  const asked = await askedFor(
    ctx,
    named.map((line) => line.item),
    lines.flatMap((line) => line.id ?? []),
  );
  const seen = new Set<string>();
  for (const { at, sold, serial, quantity, ...line } of named) {
    const field = `lines.${at}.serial`;
    const key = keyOf({ item: line.item, serial });
    if (sold.tracking !== "serial") throw Refusal.at(field, "serial-not-tracked", { code: sold.code });
    if (!quantity.eq(ONE)) throw Refusal.at(`lines.${at}.quantity`, "serial-one");
    if (!here.has(key) && !staying(at)) throw Refusal.at(field, "serial-not-in-stock", { serial });
    const other = asked.get(key);
    if (other !== undefined) throw Refusal.at(field, "serial-ordered", { serial, number: other });
    if (seen.has(key)) throw Refusal.at(field, "serial-twice", { serial });
    seen.add(key);
  }
}

const keyOf = ({ item, serial }: { item: number; serial: string }) => `${item} ${serial}`;

/** Numbers of the open orders that ask for units by their serial number, besides the lines named. */
export async function askedFor(
  ctx: Reading,
  items: Iterable<number>,
  besides: Iterable<number>,
): Promise<Map<string, string>> {
  const rows = await ctx.sql.all<{ item: number; serial: string; number: string }>(
    `SELECT l.item_id AS item, l.serial, o.number FROM sales_line l JOIN sales_order o ON o.id = l.order_id
      WHERE o.stage IN (${OPEN}) AND l.serial <> '' AND l.item_id IN (SELECT value FROM json_each($items))
        AND l.id NOT IN (SELECT value FROM json_each($besides))`,
    { items: asJson(new Set(items)), besides: asJson(besides) },
  );
  return new Map(rows.map((row) => [keyOf(row), row.number]));
}
