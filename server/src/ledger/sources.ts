import { quantityFromScaled, type Source } from "@yosegi/core";
import type { Reading } from "../db/index.ts";

/** From where stock came that movements brought, the latest first; `from` is the movements as `m`, and which of them. */
export async function sourcesBy(
  ctx: Reading,
  from: string,
  bind: Record<string, string | number>,
): Promise<Source[]> {
  const rows = await ctx.sql.all<{
    item: number;
    lot: string;
    serial: string;
    location: number;
    bin: string;
    quantity: number;
  }>(
    `SELECT m.item_id AS item, m.lot, m.serial, m.from_location AS location, m.from_bin AS bin, m.quantity FROM ${from} ORDER BY m.id DESC`,
    bind,
  );
  return rows.map(({ location, bin, quantity, ...key }) => ({
    ...key,
    from: { location, bin },
    quantity: quantityFromScaled(quantity),
  }));
}
