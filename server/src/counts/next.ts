import type { BinToCountAnswer } from "@yosegi/contract";
import { addDays, binsToCount, dayIn, moneyFromScaled, quantityFromScaled } from "@yosegi/core";
import type { Reading } from "../db/index.ts";
import { locationNames } from "../ledger/index.ts";

/** Only what moved in so many days tells how likely the books are wrong now. */
const LATELY_DAYS = 90;

interface Row {
  item: number;
  lot: string;
  serial: string;
  location: number;
  bin: string;
  quantity: number;
  pool_quantity: number;
  pool_value: number;
  moves: number;
  counted: string | null;
}

/** Which bins to count next, without those on a sheet under way, the one that would tell most first (docs/rules.md § 15). */
export async function countNext(ctx: Reading, most: number): Promise<BinToCountAnswer[]> {
  const rows = await ctx.sql.allAtOnce<Row>(
    [
      "item",
      "lot",
      "serial",
      "location",
      "bin",
      "quantity",
      "pool_quantity",
      "pool_value",
      "moves",
      "counted",
    ],
    `WITH last AS (
       SELECT l.item_id, l.lot, l.serial, l.location_id, l.bin, MAX(l.moment) AS moment
         FROM count_line l JOIN count_sheet c ON c.id = l.sheet_id WHERE l.counted IS NOT NULL AND c.state = 'posted'
          AND NOT EXISTS (SELECT 1 FROM posting_head o JOIN posting_head u ON u.undoes = o.id WHERE o.document = c.number AND o.kind = 'count')
        GROUP BY 1, 2, 3, 4, 5),
     moved AS (
       SELECT x.item_id, x.lot, x.serial, x.location_id, x.bin, COUNT(*) AS moves FROM (
         SELECT m.item_id, m.lot, m.serial, m.from_location AS location_id, m.from_bin AS bin, o.moment
           FROM posting_head o JOIN stock_movement m ON m.posting_id = o.id WHERE o.day >= $since AND m.from_location IS NOT NULL
          UNION ALL
         SELECT m.item_id, m.lot, m.serial, m.to_location, m.to_bin, o.moment
           FROM posting_head o JOIN stock_movement m ON m.posting_id = o.id WHERE o.day >= $since AND m.to_location IS NOT NULL) x
         LEFT JOIN last t USING (item_id, lot, serial, location_id, bin)
        WHERE t.moment IS NULL OR x.moment > t.moment GROUP BY 1, 2, 3, 4, 5),
     spot AS (
       SELECT b.*, COALESCE(v.moves, 0) AS moves, t.moment AS counted
         FROM stock_balance b JOIN location_head p ON p.id = b.location_id AND p.kind = 'store'
         LEFT JOIN moved v USING (item_id, lot, serial, location_id, bin)
         LEFT JOIN last t USING (item_id, lot, serial, location_id, bin)
        WHERE b.quantity > 0 AND b.owner = 'company'),
     -- Only the bins that may come first are weighed exactly: as real numbers their order is near enough to choose them.
     likely AS (
       SELECT location_id, bin FROM spot
        WHERE NOT EXISTS (SELECT 1 FROM count_line l JOIN count_sheet c ON c.id = l.sheet_id
                           WHERE c.state = 'open' AND l.location_id = spot.location_id AND l.bin = spot.bin)
        GROUP BY 1, 2
        ORDER BY SUM(moves * 1.0 * pool_value * quantity / pool_quantity) DESC, MIN(COALESCE(counted, '')), SUM(1.0 * pool_value * quantity / pool_quantity) DESC
        LIMIT $likely)
     SELECT s.item_id AS item, s.lot, s.serial, s.location_id AS location, s.bin, s.quantity, s.pool_quantity, s.pool_value, s.moves, s.counted
       FROM likely k JOIN spot s ON s.location_id = k.location_id AND s.bin = k.bin`,
    { since: addDays(ctx.today, -LATELY_DAYS), likely: 2 * most },
  );
  const names = await locationNames(ctx);
  return binsToCount(
    rows.map(({ location, bin, quantity, pool_quantity, pool_value, counted, ...row }) => ({
      ...row,
      from: { location, bin },
      quantity: quantityFromScaled(quantity),
      poolQuantity: quantityFromScaled(pool_quantity),
      poolValue: moneyFromScaled(pool_value),
      lastCounted: counted === null ? null : dayIn(ctx.company?.time_zone ?? "UTC", counted),
    })),
  )
    .slice(0, most)
    .map(({ location, bin, items, value, moves, lastCounted }) => ({
      location,
      store: names.get(location) ?? "",
      bin,
      items,
      value: value.toFixed(4),
      moves,
      lastCounted,
    }));
}
