import { Refusal } from "@yosegi/contract";
import { type Decimal, moneyFromScaled, moneyToScaled } from "@yosegi/core";
import { asJson, type Reading, type Writing } from "../db/index.ts";
import { checkCurrency, itemById } from "../items/index.ts";
import { SERIAL_PRICE } from "./tables.ts";

/** A unit in stock whose serial number has a price of its own. */
export interface PricedSerial {
  item: number;
  serial: string;
  price: Decimal;
}

/** The units of items in usable stock whose serial number has a price of its own. */
export async function pricedSerials(ctx: Reading, items: Iterable<number>): Promise<PricedSerial[]> {
  const rows = await ctx.sql.all<{ item: number; serial: string; price: number }>(
    `SELECT p.item_id AS item, p.serial, p.price FROM json_each($items) ids JOIN serial_price p ON p.item_id = ids.value
      WHERE EXISTS (SELECT 1 FROM usable_stock u WHERE u.item_id = p.item_id AND u.serial = p.serial) ORDER BY p.item_id, p.serial`,
    { items: asJson(new Set(items)) },
  );
  return rows.map(({ price, ...row }) => ({ ...row, price: moneyFromScaled(price) }));
}

/** The price of its own that one unit has; null without one. */
export async function serialPrice(ctx: Reading, item: number, serial: string): Promise<Decimal | null> {
  const row = await ctx.sql.one<{ price: number }>(
    "SELECT price FROM serial_price WHERE item_id = $item AND serial = $serial",
    { item, serial },
  );
  return row ? moneyFromScaled(row.price) : null;
}

/** Gives one unit a price of its own, as after a rework; null takes it away. */
export async function setSerialPrice(
  ctx: Writing,
  id: number,
  serial: string,
  price: Decimal | null,
): Promise<void> {
  const { code } = await itemById(ctx, id);
  const known = await ctx.sql.one("SELECT 1 FROM serial_head WHERE item_id = $id AND code = $serial", {
    id,
    serial,
  });
  if (!known) throw new Refusal("not-found", { what: "serial number", id: `${serial} of ${code}` });
  if (price === null) {
    await ctx.model(SERIAL_PRICE).destroy({ where: { item_id: id, serial } });
    return;
  }
  checkCurrency(ctx, "price", price);
  await ctx.sql.upsert(
    SERIAL_PRICE,
    ["item_id", "serial"],
    [{ item_id: id, serial, price: moneyToScaled(price) }],
  );
}
