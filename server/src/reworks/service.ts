import { type ParsedBody, Refusal, type routes } from "@yosegi/contract";
import {
  checkDecimals,
  type Decimal,
  isStocked,
  type Movement,
  moneyToScaled,
  ONE,
  type Problem,
  quantityToScaled,
  reporter,
  type Spot,
  sum,
  ZERO,
} from "@yosegi/core";
import { nextNumber, type Reading, type Writing } from "../db/index.ts";
import { refuseFirm } from "../firms/index.ts";
import { briefs, checkCurrency } from "../items/index.ts";
import { loadBooks, record, undo } from "../ledger/index.ts";
import { checkPerson } from "../people/index.ts";
import { refuseProblems } from "../problems.ts";
import { noteDecision, openReturnLine, undoDecision } from "../returns/index.ts";
import { checkLines, refuseTracking } from "../stock/index.ts";
import { beginFrom } from "./plans.ts";
import { openRework, partsOf, reworkById, reworkSpot, unitOwner, unitsOf } from "./rows.ts";
import { REWORK, REWORK_UNIT } from "./tables.ts";

type ReworkInput = ParsedBody<typeof routes.newRework>;

/** Begins a rework: its units go in with what they carry; a customer's own are worth nothing to us. Gives its id. */
export async function newRework(ctx: Writing, body: ReworkInput): Promise<number> {
  if (body.day > ctx.today) throw Refusal.at("day", "day-future");
  await checkHead(ctx, body);
  const { code, kind, notStockTracked } = (await briefs(ctx, [body.item]))(body.item);
  if (!isStocked({ kind, notStockTracked })) throw Refusal.at("item", "not-stocked", { code, kind });
  if (body.isTheirs && body.customer === null) throw Refusal.at("customer", "rework-customer-needed");
  await checkUnits(ctx, body);
  const { stock } = await loadBooks(ctx, [body.item]);
  const from = body.isTheirs ? body.units.map(() => null) : await placesOf(ctx, body, stock);
  const number = await nextNumber(ctx, "W");
  const id = await write(ctx, number, body, from);
  const row = await reworkById(ctx, id);
  const to = { ...(await reworkSpot(ctx, row)), owner: unitOwner(row) };
  const movements = body.units.map(
    ({ lot, serial, quantity }, i): Movement => ({
      purpose: body.isTheirs ? "returned" : "handed out",
      source: { document: "rework", id, line: 0 },
      item: body.item,
      lot,
      serial,
      quantity,
      from: from[i] ?? null,
      to,
      value: body.isTheirs ? ZERO : null,
    }),
  );
  const posting = await record(ctx, {
    kind: "rework",
    document: number,
    day: body.day,
    reason: body.reason,
    costTag: body.costTag,
    movements,
    lots: body.units.flatMap(({ lot }) => (lot === "" ? [] : [{ item: body.item, lot, expiry: null }])),
    books: stock,
  });
  await ctx.model(REWORK).update({ posting_id: posting.id }, { where: { id } });
  await ctx.sql.update(
    REWORK_UNIT,
    ["rework_id", "unit"],
    posting.movements.map(({ value }, i) => ({ rework_id: id, unit: i + 1, value_in: moneyToScaled(value) })),
  );
  for (const { returnLine, quantity } of body.units)
    if (returnLine) await noteDecision(ctx, returnLine, "rework", quantity, posting.id);
  if (body.plan !== null)
    await beginFrom(ctx, id, body.plan, sum(body.units.map(({ quantity }) => quantity)));
  return id;
}

type Head = Pick<ReworkInput, "assigned"> & Partial<Pick<ReworkInput, "customer" | "at">>;

async function checkHead(ctx: Reading, { assigned, customer = null, at = null }: Head): Promise<void> {
  if (assigned !== null) await checkPerson(ctx, "assigned", assigned);
  if (customer !== null) await refuseFirm(ctx, "customer", "customer", { id: customer });
  if (at !== null) await refuseFirm(ctx, "at", "supplier", { id: at });
}

async function checkUnits(ctx: Reading, { item, isTheirs, units }: ReworkInput): Promise<void> {
  const { code, unit, decimals, tracking } = (await briefs(ctx, [item]))(item);
  for (const [i, { lot, serial, quantity, store, returnLine }] of units.entries()) {
    const at = (field: string) => `units.${i}.${field}`;
    if (!isTheirs && !returnLine && store === "") throw Refusal.at(at("store"), "rework-place-needed");
    const problems: Problem[] = [];
    checkDecimals("quantity", quantity, { code: unit, decimals }, reporter(i, problems));
    refuseProblems(problems, (p) => at(p.field));
    refuseTracking(at, { lot, serial }, { code, tracking });
    if (serial !== "" && !quantity.eq(ONE)) throw Refusal.at(at("quantity"), "serial-one", { serial });
    if (isTheirs && (store !== "" || returnLine))
      throw Refusal.at(at(returnLine ? "returnLine" : "store"), "rework-theirs-from");
  }
}

/** Where each unit is now: a bin of a store, or what is still to be inspected of a return. */
async function placesOf(
  ctx: Reading,
  { item, units }: ReworkInput,
  stock: Awaited<ReturnType<typeof loadBooks>>["stock"],
): Promise<Spot[]> {
  const lines: (ReworkInput["units"][number] & { item: number; from: Spot | undefined })[] = [];
  for (const [i, unit] of units.entries())
    lines.push({
      ...unit,
      item,
      from: unit.returnLine
        ? await openReturnLine(ctx, unit.returnLine, { item, ...unit }, (field) => `units.${i}.${field}`)
        : undefined,
    });
  return (await checkLines(ctx, lines, stock, (i, field) => `units.${i}.${field}`)).map(({ from }) => from);
}

async function write(
  ctx: Writing,
  number: string,
  body: ReworkInput,
  from: readonly (Spot | null)[],
): Promise<number> {
  const [id = 0] = await ctx.sql.insert(REWORK, [
    {
      number,
      item_id: body.item,
      customer_id: body.customer,
      theirs: body.isTheirs ? 1 : 0,
      subcontractor_id: body.at,
      due: body.due,
      assigned_id: body.assigned,
      reason: body.reason,
      cost_tag: body.costTag,
      posting_id: null,
      day: body.day,
      person_id: ctx.person.id,
      moment: ctx.moment,
    },
  ]);
  await ctx.sql.insert(
    REWORK_UNIT,
    body.units.map(({ lot, serial, quantity, returnLine }, i) => ({
      rework_id: id,
      unit: i + 1,
      lot,
      serial,
      quantity: quantityToScaled(quantity),
      location_id: from[i]?.location ?? null,
      bin: from[i]?.bin ?? "",
      return_id: returnLine?.id ?? null,
      return_line: returnLine?.line ?? null,
      value_in: 0,
      value_out: 0,
      out_bin: "",
      reason: "",
    })),
  );
  return id;
}

/** Changes when a rework is due, who does it, and what is wrong. */
export async function changeRework(
  ctx: Writing,
  id: number,
  { due, assigned, reason, costTag }: ParsedBody<typeof routes.changeRework>,
): Promise<void> {
  await openRework(ctx, id);
  await checkHead(ctx, { assigned });
  await ctx.model(REWORK).update(
    {
      due,
      assigned_id: assigned,
      reason,
      cost_tag: costTag,
    },
    { where: { id } },
  );
}

/** Says what the units of a rework are to be sold for, all together; it leaves what others change meanwhile. */
export async function priceRework(ctx: Writing, id: number, price: Decimal | null): Promise<void> {
  await openRework(ctx, id);
  if (price !== null) checkCurrency(ctx, "price", price);
  await ctx.model(REWORK).update({ price: price === null ? null : moneyToScaled(price) }, { where: { id } });
}

/** Undoes a rework that is not finished: parts taken for it go back where they were, then its units. */
export async function undoRework(ctx: Writing, id: number): Promise<void> {
  const { number, posting_id } = await openRework(ctx, id);
  if (posting_id === null) throw new Error(`${number} was recorded and has no posting`);
  for (const { posting_id: taken } of (await partsOf(ctx, id)).reverse())
    if (taken !== null) await undo(ctx, { kind: "rework", document: number, reason: "", undoes: taken });
  await undo(ctx, { kind: "rework", document: number, reason: "", undoes: posting_id });
  await ctx.model(REWORK).update({ undone_by: ctx.person.id, undone_at: ctx.moment }, { where: { id } });
  for (const { return_id } of await unitsOf(ctx, id))
    if (return_id !== null) await undoDecision(ctx, return_id, posting_id);
}
