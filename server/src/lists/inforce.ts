import type { Day } from "@yosegi/core";
import { asJson, type Reading } from "../db/index.ts";

/**
 * SQL for the revision of a list that is in force on a day: the newest locked one whose start has come; while none is
 * locked, the newest draft. A part has run out when nothing of it is free any more, as of $today.
 */
export const inForce = (list: string, day = "$today"): string => `(
  SELECT v.id FROM revision v
   WHERE v.list_id = ${list} AND (v.state = 'draft' OR v.state = 'locked' AND (v.starts = 'at once'
      OR v.starts = 'day' AND v.starts_on <= ${day}
      OR v.starts = 'run out'
         AND (SELECT COALESCE(SUM(quantity), 0) FROM usable_stock
               WHERE item_id = v.starts_after AND (expiry IS NULL OR expiry >= $today))
          <= (SELECT COALESCE(SUM(quantity), 0) FROM reserved WHERE item_id = v.starts_after)))
   ORDER BY v.state = 'locked' DESC, v.number DESC LIMIT 1)`;

/** SQL for the revision in force of a product's main list. */
export const mainInForce = (product: string, day = "$today"): string =>
  inForce(`(SELECT id FROM parts_list WHERE product_id = ${product} AND main = 1)`, day);

/** Which revision of their main list products are built by on a day. */
export async function revisionsInForce(
  ctx: Reading,
  products: Iterable<number>,
  day: Day = ctx.today,
): Promise<Map<number, number>> {
  const rows = await ctx.sql.all<{ product: number; revision: number | null }>(
    `SELECT ids.value AS product, ${mainInForce("ids.value", "$day")} AS revision FROM json_each($ids) ids`,
    { ids: asJson(new Set(products)), today: ctx.today, day },
  );
  return new Map(
    rows.flatMap(({ product, revision }) => (revision === null ? [] : [[product, revision] as const])),
  );
}

/** The days to come on which another revision of a product's main list takes effect, the first one first. */
export async function startsAfter(
  ctx: Reading,
  products: Iterable<number>,
): Promise<{ product: number; day: Day }[]> {
  const all = await ctx.memoOfCatalog(`starts after ${ctx.today}`, () =>
    ctx.sql.all<{ product: number; day: Day }>(
      `SELECT DISTINCT l.product_id AS product, r.starts_on AS day
         FROM revision r JOIN parts_list l ON l.id = r.list_id AND l.main = 1
        WHERE r.state = 'locked' AND r.starts = 'day' AND r.starts_on > $today ORDER BY day`,
      { today: ctx.today },
    ),
  );
  const wanted = new Set(products);
  return all.filter(({ product }) => wanted.has(product));
}

export async function revisionInForce(
  ctx: Reading,
  list: number,
  day: Day = ctx.today,
): Promise<number | null> {
  const row = await ctx.sql.one<{ id: number | null }>(`SELECT ${inForce("$list", "$day")} AS id`, {
    list,
    today: ctx.today,
    day,
  });
  return row?.id ?? null;
}
