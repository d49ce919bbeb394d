import type { Spot } from "@yosegi/core";
import { asJson, type Reading } from "../db/index.ts";

/** Home bins of items: the first store where one names none. */
export async function homeOf(ctx: Reading, items: Iterable<number>): Promise<(item: number) => Spot> {
  const rows = await ctx.sql.all<{ id: number; location: number; bin: string }>(
    `SELECT h.item_id AS id, h.location_id AS location, h.bin FROM json_each($ids) ids JOIN item_home h ON h.item_id = ids.value`,
    { ids: asJson(new Set(items)) },
  );
  const spots = new Map(rows.map(({ id, ...spot }) => [id, spot]));
  return (item) => {
    const spot = spots.get(item);
    if (!spot) throw new Error(`Item ${item} is in stock and is not there`);
    return spot;
  };
}
