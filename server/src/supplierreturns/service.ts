import { type ParsedBody, Refusal, type routes } from "@yosegi/contract";
import {
  type Movement,
  moneyToScaled,
  quantityFromScaled,
  quantityToScaled,
  type Spot,
  sum,
} from "@yosegi/core";
import { newPurchase } from "../buying/index.ts";
import { groupBy, nextNumber, type Reading, type Writing } from "../db/index.ts";
import { refuseFirm } from "../firms/index.ts";
import { briefs, checkCurrency } from "../items/index.ts";
import { loadBooks, record, undo } from "../ledger/index.ts";
import { noteDecision, openReturnLine, undoDecision } from "../returns/index.ts";
import { checkLines, refuseTracking } from "../stock/index.ts";
import { SUPPLIER_RETURN, SUPPLIER_RETURN_LINE, type SupplierReturnTableRow } from "./tables.ts";

type SupplierReturnInput = ParsedBody<typeof routes.newSupplierReturn>;

/** A return to a supplier that must be there. */
export async function supplierReturnById(ctx: Reading, id: number): Promise<SupplierReturnTableRow> {
  const row = await ctx.model(SUPPLIER_RETURN).findByPk(id);
  if (!row) throw new Refusal("not-found", { what: "return to a supplier", id });
  return row.get({ plain: true });
}

async function standing(ctx: Reading, id: number): Promise<SupplierReturnTableRow> {
  const row = await supplierReturnById(ctx, id);
  if (row.undone_at !== null) throw new Refusal("document-undone", { document: row.number });
  return row;
}

/** Where each line is taken from: a bin of a store, or what is still to be inspected of a customer's return. */
async function placesOf(ctx: Reading, { lines }: SupplierReturnInput): Promise<(Spot | undefined)[]> {
  const brief = await briefs(
    ctx,
    lines.map((line) => line.item),
  );
  const found: (Spot | undefined)[] = [];
  for (const [i, line] of lines.entries()) {
    refuseTracking((field) => `lines.${i}.${field}`, line, brief(line.item));
    found.push(
      line.returnLine
        ? await openReturnLine(ctx, line.returnLine, line, (field) => `lines.${i}.${field}`)
        : undefined,
    );
  }
  return found;
}

/** Sends goods back to a supplier: they leave at their pool's value. Gives the id. */
export async function newSupplierReturn(ctx: Writing, body: SupplierReturnInput): Promise<number> {
  const { supplier, day, reason, note, credit, costTag, lines } = body;
  if (day > ctx.today) throw Refusal.at("day", "day-future");
  checkCurrency(ctx, "credit", credit);
  await refuseFirm(ctx, "supplier", "supplier", { id: supplier });
  const spots = await placesOf(ctx, body);
  const { stock } = await loadBooks(
    ctx,
    lines.map((line) => line.item),
  );
  const taken = await checkLines(
    ctx,
    lines.map((line, i) => ({ ...line, from: spots[i] })),
    stock,
  );
  const number = await nextNumber(ctx, "RS");
  const [id = 0] = await ctx.sql.insert(SUPPLIER_RETURN, [
    {
      number,
      supplier_id: supplier,
      posting_id: null,
      day,
      person_id: ctx.person.id,
      moment: ctx.moment,
      reason,
      note,
      credit: moneyToScaled(credit),
    },
  ]);
  await ctx.sql.insert(
    SUPPLIER_RETURN_LINE,
    taken.map(({ item, lot, serial, quantity, from }, i) => ({
      supplier_return_id: id,
      line: i + 1,
      item_id: item,
      lot,
      serial,
      quantity: quantityToScaled(quantity),
      location_id: from.location,
      bin: from.bin,
      return_id: lines[i]?.returnLine?.id ?? null,
      return_line: lines[i]?.returnLine?.line ?? null,
    })),
  );
  const movements = taken.map(
    ({ item, lot, serial, quantity, from }, i): Movement => ({
      purpose: "sent back",
      source: { document: "supplier-return", id, line: i + 1 },
      item,
      lot,
      serial,
      quantity,
      from,
      to: null,
      value: null,
    }),
  );
  const posting = await record(ctx, {
    kind: "return to supplier",
    document: number,
    day,
    reason,
    costTag,
    movements,
    lots: [],
    books: stock,
  });
  await ctx.model(SUPPLIER_RETURN).update({ posting_id: posting.id }, { where: { id } });
  for (const { returnLine, quantity } of lines)
    if (returnLine) await noteDecision(ctx, returnLine, "supplier", quantity, posting.id);
  return id;
}

/** Orders again from the supplier what went back to it. */
export async function replaceSupplierReturn(ctx: Writing, id: number): Promise<void> {
  const { number, supplier_id, purchase_id, reason } = await standing(ctx, id);
  if (purchase_id !== null) throw new Refusal("supplier-return-replaced", { number });
  const rows = await linesOf(ctx, id);
  const purchase = await newPurchase(ctx, {
    supplier: supplier_id,
    note: `Replaces what went back with ${number}: ${reason}`.slice(0, 500),
    lines: [...groupBy(rows, (row) => row.item_id)].map(([item, own]) => ({
      id: null,
      item,
      pack: "",
      note: "",
      quantity: sum(own.map((row) => quantityFromScaled(row.quantity))),
      price: null,
      pricePer: "",
      expected: null,
      costTag: "",
    })),
  });
  await ctx.model(SUPPLIER_RETURN).update({ purchase_id: purchase }, { where: { id } });
}

export async function linesOf(ctx: Reading, id: number) {
  const found = await ctx
    .model(SUPPLIER_RETURN_LINE)
    .findAll({ where: { supplier_return_id: id }, order: ["line"] });
  return found.map((line) => line.get({ plain: true }));
}

/** Undoes a return to a supplier, exactly mirrored: the goods are where they were taken from. */
export async function undoSupplierReturn(ctx: Writing, id: number): Promise<void> {
  const { number, posting_id, purchase_id } = await standing(ctx, id);
  if (purchase_id !== null) throw new Refusal("supplier-return-replaced", { number });
  if (posting_id === null) throw new Error(`${number} was recorded and has no posting`);
  await undo(ctx, { kind: "return to supplier", document: number, reason: "", undoes: posting_id });
  await ctx
    .model(SUPPLIER_RETURN)
    .update({ undone_by: ctx.person.id, undone_at: ctx.moment }, { where: { id } });
  for (const { return_id } of await linesOf(ctx, id))
    if (return_id !== null) await undoDecision(ctx, return_id, posting_id);
}
