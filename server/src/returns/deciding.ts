import { Refusal } from "@yosegi/contract";
import { type Decimal, quantityFromScaled, quantityToScaled, type Spot } from "@yosegi/core";
import type { Reading, Writing } from "../db/index.ts";
import { briefs } from "../items/index.ts";
import { returnsSpot, standingReturn } from "./service.ts";
import { RETURN_INSPECTION, RETURN_LINE, type ReturnLineRow } from "./tables.ts";

interface LineRef {
  id: number;
  line: number;
}

interface Wanted {
  item: number;
  lot: string;
  serial: string;
  quantity: Decimal;
}

async function lineOf(ctx: Reading, { id, line }: LineRef): Promise<ReturnLineRow> {
  const row = await ctx.model(RETURN_LINE).findOne({ where: { return_id: id, line } });
  if (!row) throw Refusal.at("returnLine", "not-found", { what: "line of a return", id: line });
  return row.get({ plain: true });
}

/** Where the goods of a line of a return lie; refused where they are others, or fewer are still to be inspected; `at` gives the field of the body. */
export async function openReturnLine(
  ctx: Reading,
  ref: LineRef,
  wanted: Wanted,
  at: (field: "returnLine" | "quantity") => string = (field) => field,
): Promise<Spot> {
  const { number } = await standingReturn(ctx, ref.id);
  const row = await lineOf(ctx, ref);
  const { code, unit } = (await briefs(ctx, [wanted.item]))(wanted.item);
  const piece = [code, wanted.serial || wanted.lot].filter(Boolean).join(" ");
  if (row.item_id !== wanted.item || row.lot !== wanted.lot || row.serial !== wanted.serial)
    throw Refusal.at(at("returnLine"), "not-found", { what: `${piece} in ${number}`, id: ref.line });
  const open = quantityFromScaled(row.quantity - row.inspected);
  if (wanted.quantity.gt(open))
    throw Refusal.at(at("quantity"), "return-inspect-too-many", { open: open.toFixed(), unit, piece });
  return returnsSpot(ctx, number);
}

/** Notes that so much of a line was taken apart, sent back to its supplier, or put into a rework, by a posting of that document. */
export async function noteDecision(
  ctx: Writing,
  ref: LineRef,
  outcome: "take apart" | "supplier" | "rework",
  quantity: Decimal,
  posting: number,
): Promise<void> {
  await ctx.sql.insert(RETURN_INSPECTION, [
    {
      return_id: ref.id,
      line: ref.line,
      posting_id: posting,
      outcome,
      quantity: quantityToScaled(quantity),
      location_id: null,
      bin: "",
      reason: "",
    },
  ]);
  await addInspected(ctx, ref, quantityToScaled(quantity));
}

/** Notes that such a posting was undone: the goods are to be inspected again. */
export async function undoDecision(ctx: Writing, id: number, posting: number): Promise<void> {
  const found = await ctx
    .model(RETURN_INSPECTION)
    .findAll({ where: { return_id: id, posting_id: posting, undone_at: null } });
  for (const row of found) {
    const { id: inspection, line, quantity } = row.get({ plain: true });
    await ctx
      .model(RETURN_INSPECTION)
      .update({ undone_by: ctx.person.id, undone_at: ctx.moment }, { where: { id: inspection } });
    await addInspected(ctx, { id, line }, -quantity);
  }
}

async function addInspected(ctx: Writing, ref: LineRef, quantity: number): Promise<void> {
  const { inspected } = await lineOf(ctx, ref);
  await ctx.sql.update(
    RETURN_LINE,
    ["return_id", "line"],
    [{ return_id: ref.id, line: ref.line, inspected: inspected + quantity }],
  );
}
