import { type ParsedBody, Refusal, type routes } from "@yosegi/contract";
import {
  checkDecimals,
  type Decimal,
  isStocked,
  type Movement,
  moneyToScaled,
  type Problem,
  quantityFromScaled,
  quantityToScaled,
  reporter,
  reworkOwner,
  type Substitute,
  substituteFor,
  ZERO,
} from "@yosegi/core";
import type { Reading, Writing } from "../db/index.ts";
import { briefs, checkCurrency } from "../items/index.ts";
import { loadBooks, record, undo } from "../ledger/index.ts";
import { loadLists } from "../lists/index.ts";
import { refuseProblems } from "../problems.ts";
import { checkLines, refuseTracking } from "../stock/index.ts";
import { changingRework, reworkSpot, unitsOf } from "./rows.ts";
import { REWORK_PART, REWORK_STEP, type ReworkPartRow, type ReworkTableRow } from "./tables.ts";

type PartInput = ParsedBody<typeof routes.addReworkPart>;
type Place = Omit<ParsedBody<typeof routes.takeReworkPart>, "substitute">;

/** Refuses a unit that the rework does not have; null is all of them. */
export async function checkUnit(
  ctx: Writing,
  { id, number }: ReworkTableRow,
  unit: number | null,
): Promise<void> {
  if (unit !== null && !(await unitsOf(ctx, id)).some((own) => own.unit === unit))
    throw Refusal.at("unit", "rework-unit-unknown", { number, unit });
}

/** Adds a part to a rework, taken from a bin or planned, or a line of text with an amount. */
export async function addPart(ctx: Writing, id: number, body: PartInput): Promise<void> {
  const rework = await changingRework(ctx, id);
  await checkUnit(ctx, rework, body.unit);
  if (body.charge !== null) checkCurrency(ctx, "charge", body.charge);
  if (
    body.step !== null &&
    !(await ctx.model(REWORK_STEP).findOne({ where: { id: body.step, rework_id: id } }))
  )
    throw Refusal.at("step", "not-found", { what: "step", id: body.step });
  if (body.item !== null) await checkPart(ctx, body.item, body);
  const [part = 0] = await ctx.sql.insert(REWORK_PART, [
    {
      rework_id: id,
      unit: body.unit,
      step_id: body.step,
      item_id: body.item,
      text: body.text,
      quantity: quantityToScaled(body.quantity),
      lot: "",
      serial: "",
      location_id: null,
      bin: "",
      posting_id: null,
      value: body.item === null ? moneyToScaled(body.amount) : 0,
      charge: body.charge === null ? null : moneyToScaled(body.charge),
    },
  ]);
  if (body.item !== null && body.store !== "") await take(ctx, rework, part, body.item, body.quantity, body);
}

async function checkPart(ctx: Writing, item: number, { quantity }: { quantity: Decimal }): Promise<void> {
  const { code, kind, notStockTracked, unit, decimals } = (await briefs(ctx, [item]))(item);
  if (!isStocked({ kind, notStockTracked })) throw Refusal.at("item", "not-stocked", { code, kind });
  const problems: Problem[] = [];
  checkDecimals("quantity", quantity, { code: unit, decimals }, reporter(0, problems));
  refuseProblems(problems, (p) => p.field);
}

async function partById(ctx: Writing, id: number, part: number): Promise<ReworkPartRow> {
  const row = await ctx.model(REWORK_PART).findOne({ where: { id: part, rework_id: id } });
  if (!row) throw new Refusal("not-found", { what: "part of a rework", id: part });
  return row.get({ plain: true });
}

/** Takes a planned part from a bin, or so much of a substitute that the item's parts list allows in its place. */
export async function takePart(
  ctx: Writing,
  id: number,
  part: number,
  { substitute, ...place }: ParsedBody<typeof routes.takeReworkPart>,
): Promise<void> {
  const rework = await changingRework(ctx, id);
  const { item_id, posting_id, quantity: stored } = await partById(ctx, id, part);
  if (item_id === null || posting_id !== null) throw new Refusal("rework-part-taken");
  const quantity = quantityFromScaled(stored);
  if (substitute === null) return take(ctx, rework, part, item_id, quantity, place);
  const brief = await briefs(ctx, [item_id, substitute]);
  const { code, decimals } = brief(substitute);
  const allowed = (await substitutesIn(ctx, rework.item_id))(item_id).find(({ item }) => item === substitute);
  if (!allowed) throw Refusal.at("substitute", "not-substitute", { by: code, part: brief(item_id).code });
  const taken = substituteFor(quantity, allowed.quantity, decimals);
  await ctx
    .model(REWORK_PART)
    .update({ item_id: substitute, quantity: quantityToScaled(taken) }, { where: { id: part } });
  await take(ctx, rework, part, substitute, taken, place);
}

/** What the parts list in force of an item allows in the place of each of its parts. */
export async function substitutesIn(
  ctx: Reading,
  item: number,
): Promise<(part: number) => readonly Substitute[]> {
  const lines = (await loadLists(ctx, [item])).get(item)?.lines ?? [];
  return (part) => lines.find((line) => line.item === part)?.substitutes ?? [];
}

/** The part comes to lie with the rework, at what it carries. */
async function take(
  ctx: Writing,
  rework: ReworkTableRow,
  part: number,
  item: number,
  quantity: Decimal,
  { store, bin, lot, serial, day }: Place,
): Promise<void> {
  if (day > ctx.today) throw Refusal.at("day", "day-future");
  refuseTracking((field) => field, { lot, serial }, (await briefs(ctx, [item]))(item));
  const { stock } = await loadBooks(ctx, [item]);
  const line = { item, lot, serial, quantity, store, bin };
  const here = await checkLines(ctx, [line], stock, (_, field) => field);
  const to = { ...(await reworkSpot(ctx, rework)), owner: reworkOwner(rework.id) };
  const movements = here.map(
    ({ from, ...own }): Movement => ({
      ...own,
      purpose: "handed out",
      source: { document: "rework", id: rework.id, line: part },
      from,
      to,
      value: null,
    }),
  );
  const posting = await record(ctx, {
    kind: "rework",
    document: rework.number,
    day,
    reason: "",
    costTag: rework.cost_tag,
    movements,
    lots: [],
    books: stock,
  });
  const [from] = here;
  await ctx.model(REWORK_PART).update(
    {
      posting_id: posting.id,
      value: moneyToScaled(posting.movements[0]?.value ?? ZERO),
      lot,
      serial,
      location_id: from?.from.location ?? null,
      bin: from?.from.bin ?? "",
    },
    { where: { id: part } },
  );
}

/** Removes a part or a line of text; what was taken goes back to where it came from. */
export async function removePart(ctx: Writing, id: number, part: number): Promise<void> {
  const { number } = await changingRework(ctx, id);
  const { posting_id } = await partById(ctx, id, part);
  if (posting_id !== null)
    await undo(ctx, { kind: "rework", document: number, reason: "", undoes: posting_id });
  await ctx.model(REWORK_PART).destroy({ where: { id: part } });
}
