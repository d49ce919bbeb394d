import { Refusal } from "@yosegi/contract";
import { type Day, moneyFromScaled, moneyToScaled, quantityToScaled, ZERO } from "@yosegi/core";
import { copyCustomValues, removeCustomValues } from "../customfields/index.ts";
import { asJson, groupBy, type Reading, type Writing } from "../db/index.ts";
import { briefs } from "../items/index.ts";
import { describeUnits, ensureBins, loadBooks, record, undo } from "../ledger/index.ts";
import { serialPrice, setSerialPrice } from "../prices/index.ts";
import { fixCharges, releaseCharges } from "./agreement.ts";
import { type FinishInput, type Leaving, leavingOf } from "./leaving.ts";
import { entriesOf, goingOf, type Put, valued } from "./outcome.ts";
import { openRework, partsOf, reworkById, reworkSpot, stepsOf, unitsOf } from "./rows.ts";
import {
  REWORK,
  REWORK_RECOVERED,
  REWORK_UNIT,
  type ReworkPartRow,
  type ReworkStepRow,
  type ReworkTableRow,
  type ReworkUnitRow,
} from "./tables.ts";

/** Finishes a rework in one posting: its parts go in, and each unit comes out at value in + parts + steps, is scrapped, or gives its good parts. */
export async function finishRework(ctx: Writing, id: number, body: FinishInput): Promise<void> {
  const rework = await openRework(ctx, id);
  if (body.day > ctx.today) throw Refusal.at("day", "day-future");
  if (body.day < rework.day) throw Refusal.at("day", "day-before-rework", { day: rework.day });
  const [parts, steps] = [await partsOf(ctx, id), await stepsOf(ctx, id)];
  await refuseUnready(ctx, rework, parts, steps);
  const units = await leavingOf(ctx, rework, body);
  const { stock } = await loadBooks(ctx, [
    rework.item_id,
    ...parts.flatMap(({ item_id }) => item_id ?? []),
    ...units.flatMap(({ item, typed }) => [item, ...typed.parts.map((part) => part.item)]),
  ]);
  const known = await knownOf(ctx, rework, units);
  const spot = await reworkSpot(ctx, rework);
  const going = goingOf(rework, spot, parts, units);
  const put = await valued(ctx, rework, { going, parts, steps, units, stock });
  const movements = [...going, ...put.flatMap((own) => own.movements)];
  await ensureBins(
    ctx,
    movements.flatMap(({ to }) => (to ? [to] : [])),
  );
  const posting = await record(ctx, {
    kind: "rework",
    document: rework.number,
    day: body.day,
    reason: rework.reason,
    costTag: rework.cost_tag,
    movements,
    entries: entriesOf(rework, steps, parts, put),
    lots: units.flatMap(({ item, to, row, typed }) => [
      ...(to && row.lot !== "" ? [{ item, lot: row.lot, ...known(row) }] : []),
      ...typed.parts.flatMap((part) =>
        part.lot === "" ? [] : [{ item: part.item, lot: part.lot, expiry: null }],
      ),
    ]),
    books: stock,
  });
  // A number is one live record: what is known of it is what was known last, also where it is an earlier item again.
  await describeUnits(
    ctx,
    units.flatMap(({ item, to, row }) =>
      to && row.serial !== "" ? [{ item, serial: row.serial, ...known(row) }] : [],
    ),
  );
  await keepCustomValues(ctx, rework, units);
  if (rework.customer_id !== null) await fixCharges(ctx, id);
  await writeOut(ctx, rework, body, posting.id, put);
}

interface Known {
  madeOn: Day | null;
  expiry: Day | null;
  makerNumber: string;
}

/** When each unit was made, by when it is to be used, and its maker's number, which another item keeps. */
async function knownOf(
  ctx: Reading,
  { item_id }: ReworkTableRow,
  units: readonly Leaving[],
): Promise<(row: ReworkUnitRow) => Known> {
  const rows = await ctx.sql.all<Known & { code: string }>(
    `SELECT code, made_on AS madeOn, expiry, maker_number AS makerNumber FROM lot_head WHERE item_id = $item AND code IN (SELECT value FROM json_each($lots))
      UNION ALL
     SELECT code, made_on, expiry, maker_number FROM serial_head WHERE item_id = $item AND code IN (SELECT value FROM json_each($serials))`,
    {
      item: item_id,
      lots: asJson(units.map(({ row }) => row.lot)),
      serials: asJson(units.map(({ row }) => row.serial)),
    },
  );
  const byCode = new Map(rows.map(({ code, ...known }) => [code, known]));
  return ({ lot, serial }) => byCode.get(serial || lot) ?? { madeOn: null, expiry: null, makerNumber: "" };
}

/** What is filled in for a unit stays with it as another item. */
async function keepCustomValues(
  ctx: Writing,
  { item_id: from }: ReworkTableRow,
  units: readonly Leaving[],
): Promise<void> {
  const others = groupBy(
    units.filter(({ item, to }) => to !== null && item !== from),
    ({ item }) => item,
  );
  for (const [to, own] of others) {
    const codes = (of: "lot" | "serial") => own.map(({ row }) => row[of]).filter(Boolean);
    await copyCustomValues(ctx, "lot", { from, to, codes: codes("lot") });
    await removeCustomValues(ctx, "serial", to, codes("serial"));
    await copyCustomValues(ctx, "serial", { from, to, codes: codes("serial") });
  }
}

async function refuseUnready(
  ctx: Reading,
  { number }: ReworkTableRow,
  parts: readonly ReworkPartRow[],
  steps: readonly ReworkStepRow[],
): Promise<void> {
  const waiting = steps.filter(({ state }) => state !== "done").map(({ what }) => what);
  if (waiting.length > 0) throw new Refusal("rework-steps-open", { number, steps: waiting.join(", ") });
  const planned = parts.flatMap(({ item_id, posting_id }) =>
    item_id !== null && posting_id === null ? [item_id] : [],
  );
  if (planned.length === 0) return;
  const brief = await briefs(ctx, planned);
  const codes = planned.map((item) => brief(item).code).join(", ");
  throw new Refusal("rework-parts-planned", { number, parts: codes });
}

async function writeOut(
  ctx: Writing,
  { id, theirs }: ReworkTableRow,
  { day }: FinishInput,
  posting: number,
  put: readonly Put[],
): Promise<void> {
  await ctx
    .model(REWORK)
    .update(
      { out_posting_id: posting, out_day: day, out_by: ctx.person.id, out_at: ctx.moment },
      { where: { id } },
    );
  await ctx.sql.update(
    REWORK_UNIT,
    ["rework_id", "unit"],
    put.map(({ unit: { row, typed, item, to }, value }) => ({
      rework_id: id,
      unit: row.unit,
      value_out: moneyToScaled(value),
      outcome: typed.outcome,
      item_id: item,
      out_location_id: to?.location ?? null,
      out_bin: to?.bin ?? "",
      reason: typed.reason,
      price: typed.price === null ? null : moneyToScaled(typed.price),
    })),
  );
  await ctx.sql.insert(
    REWORK_RECOVERED,
    put.flatMap(({ unit: { row, typed, places }, recovery }) =>
      typed.parts.map((part, i) => ({
        rework_id: id,
        unit: row.unit,
        line: i + 1,
        item_id: part.item,
        lot: part.lot,
        serial: part.serial,
        quantity: quantityToScaled(part.quantity),
        location_id: places[i]?.location ?? 0,
        bin: places[i]?.bin ?? "",
        value: moneyToScaled(recovery?.parts[i]?.recovered ?? ZERO),
      })),
    ),
  );
  if (theirs === 1) return;
  for (const { unit } of put) {
    const { row, item, to, typed } = unit;
    if (!to || row.serial === "" || typed.price === null) continue;
    const before = await serialPrice(ctx, item, row.serial);
    await setSerialPrice(ctx, item, row.serial, typed.price);
    await ctx
      .model(REWORK_UNIT)
      .update(
        { price_before: before === null ? null : moneyToScaled(before) },
        { where: { rework_id: id, unit: row.unit } },
      );
  }
}

/** Undoes the finish, exactly mirrored: units and parts lie with the rework again. */
export async function undoFinish(ctx: Writing, id: number): Promise<void> {
  const { number, out_posting_id, undone_at, agreed_at } = await reworkById(ctx, id);
  if (undone_at !== null) throw new Refusal("document-undone", { document: number });
  if (out_posting_id === null) throw new Refusal("rework-not-finished", { number });
  for (const { item_id, serial, price, price_before } of await unitsOf(ctx, id)) {
    if (item_id === null || serial === "" || price === null) continue;
    // A price that somebody has set since stays.
    const now = await serialPrice(ctx, item_id, serial);
    if (now?.eq(moneyFromScaled(price)))
      await setSerialPrice(
        ctx,
        item_id,
        serial,
        price_before === null ? null : moneyFromScaled(price_before),
      );
  }
  await undo(ctx, { kind: "rework", document: number, reason: "", undoes: out_posting_id });
  const none = { out_posting_id: null, out_day: null, out_by: null, out_at: null };
  await ctx.model(REWORK).update(none, { where: { id } });
  if (agreed_at === null) await releaseCharges(ctx, id);
  await ctx.model(REWORK_RECOVERED).destroy({ where: { rework_id: id } });
  await ctx.model(REWORK_UNIT).update(
    {
      outcome: null,
      item_id: null,
      out_location_id: null,
      out_bin: "",
      reason: "",
      price: null,
      price_before: null,
      value_out: 0,
    },
    { where: { rework_id: id } },
  );
}
