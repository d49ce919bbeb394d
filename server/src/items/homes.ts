import type { Spot } from "@yosegi/core";
import { asJson, type Reading, type Writing } from "../db/index.ts";
import { ITEM } from "./tables.ts";

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

/** Items whose home is a bin have it in another from now on. */
export async function moveHomes(ctx: Writing, location: number, bin: string, to: string): Promise<void> {
  await ctx.model(ITEM).update({ home_bin: to }, { where: { home_location_id: location, home_bin: bin } });
}
