import { type LocationKind, quantityFromScaled } from "@yosegi/core";
import type { Reading } from "../db/index.ts";

/** What lies where of an item. */
export async function stockByBin(ctx: Reading, item: number) {
  const rows = await ctx.sql.all<{
    kind: LocationKind;
    store: string;
    bin: string;
    lot: string;
    serial: string;
    expiry: string | null;
    quantity: number;
  }>(
    `SELECT p.kind, p.name AS store, COALESCE(o.number, b.bin) AS bin, b.lot, b.serial, l.expiry, b.quantity
       FROM stock_balance b LEFT JOIN build_head o ON b.owner = 'build' AND o.id = b.owner_id JOIN location_head p ON p.id = b.location_id LEFT JOIN lot_head l ON l.item_id = b.item_id AND l.code = b.lot
      WHERE b.item_id = $item AND b.quantity > 0
      ORDER BY l.expiry IS NULL, l.expiry, b.lot, p.name, b.bin, b.serial`,
    { item },
  );
  return rows.map((row) => ({
    ...row,
    expired: row.expiry !== null && row.expiry < ctx.today,
    quantity: quantityFromScaled(row.quantity).toFixed(),
  }));
}
