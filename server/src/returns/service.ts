import { Refusal } from "@yosegi/contract";
import { type Movement, moneyToScaled, quantityToScaled, type Spot } from "@yosegi/core";
import { nextNumber, type Reading, type Writing } from "../db/index.ts";
import { record, returnsLocation, undo } from "../ledger/index.ts";
import { planReturn, type ReturnInput } from "./plan.ts";
import { RETURN, RETURN_LINE, type ReturnTableRow } from "./tables.ts";

/** A return that must be there. */
export async function returnById(ctx: Reading, id: number): Promise<ReturnTableRow> {
  const row = await ctx.model(RETURN).findByPk(id);
  if (!row) throw new Refusal("not-found", { what: "return", id });
  return row.get({ plain: true });
}

/** A return that stands. */
export async function standingReturn(ctx: Reading, id: number): Promise<ReturnTableRow> {
  const row = await returnById(ctx, id);
  if (row.undone_at !== null) throw new Refusal("return-undone", { number: row.number });
  return row;
}

/** Receives what a customer sent back: it is held in returns, in a bin of its own, until it is inspected. Gives its id. */
export async function newReturn(ctx: Writing, body: ReturnInput): Promise<number> {
  const { customer, shipment, lines } = await planReturn(ctx, body);
  const number = await nextNumber(ctx, "R");
  const { day, reason, note, costTag, fee } = body;
  const [id = 0] = await ctx.sql.insert(RETURN, [
    {
      number,
      customer_id: customer,
      shipment_id: shipment?.id ?? null,
      posting_id: null,
      day,
      person_id: ctx.person.id,
      moment: ctx.moment,
      reason,
      note,
      fee: moneyToScaled(fee),
    },
  ]);
  await ctx.sql.insert(
    RETURN_LINE,
    lines.map(({ orderLine, item, lot, serial, quantity, credit, taxRate }, i) => ({
      return_id: id,
      line: i + 1,
      order_line_id: orderLine,
      item_id: item,
      lot,
      serial,
      quantity: quantityToScaled(quantity),
      credit: moneyToScaled(credit),
      tax_rate: quantityToScaled(taxRate),
    })),
  );
  const to = { location: await returnsLocation(ctx), bin: number };
  const movements = lines.map(
    ({ item, lot, serial, quantity, value }, i): Movement => ({
      purpose: "returned",
      source: { document: "return", id, line: i + 1 },
      item,
      lot,
      serial,
      quantity,
      from: null,
      to,
      value,
    }),
  );
  const lots = lines.flatMap(({ item, lot }) => (lot === "" ? [] : [{ item, lot, expiry: null }]));
  const posting = await record(ctx, {
    kind: "return",
    document: number,
    day,
    reason,
    costTag,
    movements,
    lots,
  });
  await ctx.model(RETURN).update({ posting_id: posting.id }, { where: { id } });
  return id;
}

/** Where the goods of a return lie. */
export async function returnsSpot(ctx: Reading, number: string): Promise<Spot> {
  const row = await ctx.sql.one<{ id: number }>(
    "SELECT id FROM location_head WHERE kind = 'returns' ORDER BY id LIMIT 1",
    {},
  );
  if (!row) throw new Error(`${number} was received somewhere`);
  return { location: row.id, bin: number };
}

/** Undoes a return of which nothing is inspected: it is with the customer again. */
export async function undoReturn(ctx: Writing, id: number): Promise<void> {
  const { number, posting_id, replacement_id } = await standingReturn(ctx, id);
  const begun = await ctx.model(RETURN_LINE).findAll({ where: { return_id: id } });
  if (begun.some((line) => line.get({ plain: true }).inspected > 0))
    throw new Refusal("return-inspected", { number });
  if (replacement_id !== null)
    throw new Refusal("return-replaced", await replacedBy(ctx, number, replacement_id));
  if (posting_id === null) throw new Error(`${number} was received and has no posting`);
  await undo(ctx, { kind: "return", document: number, reason: "", undoes: posting_id });
  await ctx.model(RETURN).update({ undone_by: ctx.person.id, undone_at: ctx.moment }, { where: { id } });
}

/** What a refusal says of the order that replaces a return. */
export async function replacedBy(ctx: Reading, number: string, order: number) {
  const row = await ctx.sql.one<{ number: string }>("SELECT number FROM order_head WHERE id = $order", {
    order,
  });
  return { number, order: row?.number ?? "" };
}
