import { Refusal } from "@yosegi/contract";
import {
  added,
  type Decimal,
  lost,
  type Movement,
  moneyToScaled,
  type PostingEntry,
  quantityToScaled,
  type SourceLine,
  type Spot,
  ZERO,
} from "@yosegi/core";
import { nextNumber, type Reading, type Writing } from "../db/index.ts";
import { ensureBins, record, undo } from "../ledger/index.ts";
import { noteDecision, undoDecision } from "../returns/index.ts";
import { type PlannedTakeApart, planTakeApart, type TakeApartInput } from "./plan.ts";
import { TAKE_APART, TAKE_APART_PART, type TakeApartTableRow } from "./tables.ts";

/** A take-apart that must be there. */
export async function takeApartById(ctx: Reading, id: number): Promise<TakeApartTableRow> {
  const row = await ctx.model(TAKE_APART).findByPk(id);
  if (!row) throw new Refusal("not-found", { what: "take-apart", id });
  return row.get({ plain: true });
}

/** Takes units apart: they leave, and the good parts come back to stock at their share of the value. Gives its id. */
export async function newTakeApart(ctx: Writing, body: TakeApartInput): Promise<number> {
  const plan = await planTakeApart(ctx, body);
  const number = await nextNumber(ctx, "T");
  const id = await write(ctx, number, body, plan);
  const movements = movementsOf(id, body, plan);
  await ensureBins(
    ctx,
    movements.flatMap(({ to }) => (to ? [to] : [])),
  );
  const posting = await record(ctx, {
    kind: "take-apart",
    document: number,
    day: body.day,
    reason: body.reason,
    costTag: body.costTag,
    movements,
    entries: entriesOf(plan, body.reason),
    lots: body.parts.flatMap(({ item, lot }) => (lot === "" ? [] : [{ item, lot, expiry: null }])),
  });
  await ctx.model(TAKE_APART).update({ posting_id: posting.id }, { where: { id } });
  if (body.returnLine) await noteDecision(ctx, body.returnLine, "take apart", body.quantity, posting.id);
  return id;
}

/** The units leave first; then each good part comes back, and a damaged one with a number of its own leaves again. */
function movementsOf(
  id: number,
  { parts }: TakeApartInput,
  { from, out, to, recovery }: PlannedTakeApart,
): Movement[] {
  const source = (line: number): SourceLine => ({ document: "take-apart", id, line });
  const back = parts.flatMap(({ item, lot, serial, good, damaged }, i): Movement[] => {
    const found = recovery.parts[i];
    if (!found) throw new Error("Each part has its share of the value");
    const piece = { source: source(i + 1), item, lot, serial };
    const into = (spot: Spot, quantity: Decimal, value: Decimal): Movement => ({
      ...piece,
      purpose: "recovered",
      quantity,
      from: null,
      to: spot,
      value,
    });
    const place = to[i];
    const gone: Movement = { ...piece, purpose: "scrapped", quantity: damaged, from, to: null, value: null };
    return [
      ...(place ? [into(place, good, found.recovered)] : []),
      ...(serial !== "" && damaged.gt(0) ? [into(from, damaged, found.damaged), gone] : []),
    ];
  });
  return [{ ...out, source: source(0) }, ...back];
}

/** The time spent comes to the posting from outside the books, and is lost in it: no part takes it back. */
const entriesOf = ({ recovery, work }: PlannedTakeApart, reason: string): PostingEntry[] => [
  ...added("take-apart work", work, reason),
  ...lost("damaged", recovery.damaged, reason),
  ...lost("missing", recovery.missing, reason),
  ...lost("work put in", recovery.workPutIn.plus(work), reason),
];

async function write(
  ctx: Writing,
  number: string,
  body: TakeApartInput,
  { from, to, valueOut, recovery, work, charged }: PlannedTakeApart,
): Promise<number> {
  const [id = 0] = await ctx.sql.insert(TAKE_APART, [
    {
      number,
      item_id: body.item,
      lot: body.lot,
      serial: body.serial,
      quantity: quantityToScaled(body.quantity),
      location_id: from.location,
      bin: from.bin,
      build_id: body.build,
      revision_id: body.revision,
      return_id: body.returnLine?.id ?? null,
      return_line: body.returnLine?.line ?? null,
      posting_id: null,
      day: body.day,
      person_id: ctx.person.id,
      moment: ctx.moment,
      reason: body.reason,
      value_out: moneyToScaled(valueOut),
      damaged: moneyToScaled(recovery.damaged),
      missing: moneyToScaled(recovery.missing),
      work_put_in: moneyToScaled(recovery.workPutIn),
      work_item_id: body.work,
      minutes: quantityToScaled(body.minutes),
      work: moneyToScaled(work),
      charged: moneyToScaled(charged),
    },
  ]);
  await ctx.sql.insert(
    TAKE_APART_PART,
    body.parts.map((part, i) => ({
      take_apart_id: id,
      line: i + 1,
      item_id: part.item,
      lot: part.lot,
      serial: part.serial,
      expected: quantityToScaled(part.expected),
      good: quantityToScaled(part.good),
      damaged: quantityToScaled(part.damaged),
      missing: quantityToScaled(part.missing),
      location_id: to[i]?.location ?? null,
      bin: to[i]?.bin ?? "",
      allotted: moneyToScaled(recovery.parts[i]?.allotted ?? ZERO),
      recovered: moneyToScaled(recovery.parts[i]?.recovered ?? ZERO),
    })),
  );
  return id;
}

/** Undoes a take-apart, exactly mirrored; refused with the reason where parts have moved on. */
export async function undoTakeApart(ctx: Writing, id: number): Promise<void> {
  const { number, posting_id, undone_at, return_id } = await takeApartById(ctx, id);
  if (undone_at !== null) throw new Refusal("document-undone", { document: number });
  if (posting_id === null) throw new Error(`${number} was recorded and has no posting`);
  await undo(ctx, { kind: "take-apart", document: number, reason: "", undoes: posting_id });
  await ctx.model(TAKE_APART).update({ undone_by: ctx.person.id, undone_at: ctx.moment }, { where: { id } });
  if (return_id !== null) await undoDecision(ctx, return_id, posting_id);
}
