import { AmountTooLarge, LARGEST_STORED } from "@yosegi/core";
import { asJson, type Writing } from "../db/index.ts";
import { IDS } from "./figures.ts";

/**
 * Refuses what would make the sum of all that is reserved, incoming or on drafts of an item too large to be kept exactly:
 * so no document can make a page fail that adds them up.
 */
export async function refuseTooMuch(ctx: Writing, items: Iterable<number>): Promise<void> {
  const row = await ctx.sql.one<{ most: number | null }>(
    `SELECT MAX(total) AS most FROM (
       SELECT SUM(quantity) AS total FROM (
         SELECT item_id, quantity FROM reserved WHERE item_id IN (${IDS})
         UNION ALL SELECT item_id, quantity FROM incoming WHERE item_id IN (${IDS})
         UNION ALL SELECT item_id, quantity FROM on_draft WHERE item_id IN (${IDS})) GROUP BY item_id)`,
    { ids: asJson(new Set(items)) },
  );
  if ((row?.most ?? 0) > LARGEST_STORED)
    throw new AmountTooLarge("The sum of all that is open grows too large");
}
