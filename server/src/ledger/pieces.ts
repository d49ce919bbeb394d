import { Refusal } from "@yosegi/contract";
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

/** Refuses a lot or unit that is to be made in the future, or was to be used before it was made. */
export function checkMade(
  { madeOn, expiry }: { madeOn: Day | null; expiry: Day | null },
  today: Day,
  fields: { madeOn: string; expiry: string } = { madeOn: "madeOn", expiry: "expiry" },
): void {
  if (madeOn === null) return;
  if (madeOn > today) throw Refusal.at(fields.madeOn, "day-future");
  if (expiry !== null && expiry < madeOn) throw Refusal.at(fields.expiry, "expiry-before-made");
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

/** Writes the same of units by their serial numbers, in the place of what was known of them. */
export async function describeUnits(
  ctx: Writing,
  units: readonly {
    item: number;
    serial: string;
    madeOn: Day | null;
    expiry: Day | null;
    makerNumber: string;
  }[],
): Promise<void> {
  await ctx.sql.update(
    SERIAL,
    ["item_id", "code"],
    units.map(({ item, serial, madeOn, expiry, makerNumber }) => ({
      item_id: item,
      code: serial,
      made_on: madeOn,
      expiry,
      maker_number: makerNumber,
    })),
  );
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
