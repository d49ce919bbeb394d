import { Refusal } from "@yosegi/contract";
import {
  type Day,
  type DayChange,
  type Decimal,
  firstDayFor,
  type Movement,
  quantityFromScaled,
  type Spot,
  spotKey,
  ZERO,
} from "@yosegi/core";
import { asJson, groupBy, type Reading } from "../db/index.ts";
import { spotColumns } from "./owners.ts";

/** What a posting takes from one spot, less what it brings there. */
interface Draw {
  movement: Movement;
  from: Spot;
  quantity: Decimal;
}

/**
 * Refuses a posting that is dated back to before its stock was there (docs/rules.md § 9): at the end of no day since may a
 * balance that it draws from have been too small. The refusal tells the earliest day that works.
 */
export async function refuseTooEarly(ctx: Reading, day: Day, movements: readonly Movement[]): Promise<void> {
  if (day >= ctx.today) return;
  const draws = drawsOf(movements);
  if (draws.length === 0) return;
  const changes = await changesOf(ctx, draws);
  let [first, item] = [day, 0];
  for (const [i, { movement, quantity }] of draws.entries()) {
    const works = firstDayFor(changes.get(i) ?? [], quantity, day);
    if (works > first) [first, item] = [works, movement.item];
  }
  if (first === day) return;
  const row = await ctx.sql.one<{ code: string }>("SELECT code FROM item_head WHERE id = $item", { item });
  throw Refusal.at("day", "too-early", { code: row?.code ?? "", day, first });
}

function drawsOf(movements: readonly Movement[]): Draw[] {
  const draws = new Map<string, Draw>();
  const add = (movement: Movement, spot: Spot | null, change: Decimal) => {
    if (spot === null) return;
    const key = spotKey({ ...movement, ...spot });
    const draw = draws.get(key) ?? { movement, from: spot, quantity: ZERO };
    draws.set(key, { ...draw, quantity: draw.quantity.plus(change) });
  };
  for (const movement of movements) {
    add(movement, movement.from, movement.quantity);
    add(movement, movement.to, ZERO.minus(movement.quantity));
  }
  return [...draws.values()].filter((draw) => draw.quantity.gt(0));
}

/** What happened at the spots of the draws, day by day. */
async function changesOf(ctx: Reading, draws: readonly Draw[]): Promise<Map<number, DayChange[]>> {
  const spots = draws.map(({ movement: { item, lot, serial }, from }) => ({
    item,
    lot,
    serial,
    ...spotColumns(from),
  }));
  const end = (name: "from" | "to", sign: string) => `
    SELECT d.key, o.day, ${sign}m.quantity AS change FROM json_each($spots) d
      JOIN movement m ON m.item_id = d.value ->> 'item' AND m.lot = d.value ->> 'lot' AND m.serial = d.value ->> 'serial'
       AND m.${name}_location = d.value ->> 'location' AND m.${name}_bin = d.value ->> 'bin'
       AND m.${name}_owner = d.value ->> 'owner' AND m.${name}_owner_id = d.value ->> 'owner_id'
      JOIN posting o ON o.id = m.posting_id`;
  const rows = await ctx.sql.all<{ key: number; day: Day; change: number }>(
    `SELECT key, day, SUM(change) AS change FROM (${end("to", "")} UNION ALL ${end("from", "-")}) GROUP BY key, day`,
    { spots: asJson(spots) },
  );
  const changes = rows.map((row) => ({ ...row, change: quantityFromScaled(row.change) }));
  return groupBy(changes, (row) => row.key);
}
