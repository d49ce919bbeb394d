import type { Day, Decimal } from "@yosegi/core";
import { quantityToScaled } from "@yosegi/core";
import type { Writing } from "../db/index.ts";
import { LOT, SERIAL, SERIAL_CONTENT } from "./tables.ts";

/** A lot of an item, or a unit by its serial number; one of the two is empty. */
export interface Piece {
  item: number;
  lot: string;
  serial: string;
}

/** Writes what is known of a lot or unit beside where it is. */
export async function describePiece(
  ctx: Writing,
  { item, lot, serial }: Piece,
  { madeOn, expiry, makerNumber }: { madeOn: Day | null; expiry: Day | null; makerNumber: string },
): Promise<void> {
  const columns = { made_on: madeOn, expiry, maker_number: makerNumber };
  if (serial !== "") await ctx.model(SERIAL).update(columns, { where: { item_id: item, code: serial } });
  else await ctx.model(LOT).update(columns, { where: { item_id: item, code: lot } });
}

/** Writes what is inside a unit, in the place of what was written before. */
export async function writeContents(
  ctx: Writing,
  { item, serial }: Pick<Piece, "item" | "serial">,
  contents: readonly { item: number; quantity: Decimal; lot: string; serial: string }[],
): Promise<void> {
  await ctx.model(SERIAL_CONTENT).destroy({ where: { item_id: item, serial } });
  await ctx.sql.insert(
    SERIAL_CONTENT,
    contents.map((part) => ({
      item_id: item,
      serial,
      part_id: part.item,
      quantity: quantityToScaled(part.quantity),
      part_lot: part.lot,
      part_serial: part.serial,
    })),
  );
}
