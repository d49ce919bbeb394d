import { type ParsedBody, Refusal, type routes } from "@yosegi/contract";
import {
  added,
  type Day,
  type Decimal,
  isStocked,
  lost,
  type Movement,
  moneyFromScaled,
  moneyToScaled,
  type PostingEntry,
  post,
  quantityFromScaled,
  quantityToScaled,
  type Recovery,
  reworkOwner,
  type Spot,
  type StockState,
  sum,
  valuesOut,
  ZERO,
} from "@yosegi/core";
import { asJson, type Reading, type Writing } from "../db/index.ts";
import { briefs, checkCurrency } from "../items/index.ts";
import { ensureBins, loadBooks, record, storeId, undo } from "../ledger/index.ts";
import { currentCosts } from "../lists/index.ts";
import { serialPrice, setSerialPrice } from "../prices/index.ts";
import { refuseTracking } from "../stock/index.ts";
import { recoveryBy } from "../takeaparts/index.ts";
import { openRework, partsOf, reworkById, reworkSpot, stepsOf, unitOwner, unitsOf } from "./rows.ts";
import {
  REWORK,
  REWORK_RECOVERED,
  REWORK_UNIT,
  type ReworkPartRow,
  type ReworkStepRow,
  type ReworkTableRow,
  type ReworkUnitRow,
} from "./tables.ts";

export type FinishInput = ParsedBody<typeof routes.finishRework>;
type UnitInput = FinishInput["units"][number];

/** A unit with what becomes of it. */
interface Leaving {
  row: ReworkUnitRow;
  typed: UnitInput;
  /** What it is when it comes out. */
  item: number;
  /** Where it goes; null where it is scrapped, or goes back to its customer. */
  to: Spot | null;
  /** Where its good parts go. */
  places: Spot[];
}

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
    units: units.flatMap(({ item, to, row }) =>
      to && row.serial !== "" ? [{ item, serial: row.serial, ...known(row) }] : [],
    ),
    books: stock,
  });
  await writeOut(ctx, rework, body, posting.id, put);
}

interface Dates {
  madeOn: Day | null;
  expiry: Day | null;
}

/** When each unit was made and by when it is to be used, which another item keeps. */
async function knownOf(
  ctx: Reading,
  { item_id }: ReworkTableRow,
  units: readonly Leaving[],
): Promise<(row: ReworkUnitRow) => Dates> {
  const rows = await ctx.sql.all<Dates & { code: string }>(
    `SELECT code, made_on AS madeOn, expiry FROM lot_head WHERE item_id = $item AND code IN (SELECT value FROM json_each($lots))
      UNION ALL
     SELECT code, made_on, expiry FROM serial_head WHERE item_id = $item AND code IN (SELECT value FROM json_each($serials))`,
    {
      item: item_id,
      lots: asJson(units.map(({ row }) => row.lot)),
      serials: asJson(units.map(({ row }) => row.serial)),
    },
  );
  const byCode = new Map(rows.map(({ code, ...dates }) => [code, dates]));
  return ({ lot, serial }) => byCode.get(serial || lot) ?? { madeOn: null, expiry: null };
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

/** Checks what is said of each unit; all of them are named. */
async function leavingOf(ctx: Reading, rework: ReworkTableRow, { units }: FinishInput): Promise<Leaving[]> {
  const rows = await unitsOf(ctx, rework.id);
  const brief = await briefs(ctx, [
    rework.item_id,
    ...units.flatMap(({ item, parts }) => [item ?? rework.item_id, ...parts.map((part) => part.item)]),
  ]);
  const leaving: Leaving[] = [];
  for (const [i, typed] of units.entries()) {
    const at = (field: string) => `units.${i}.${field}`;
    const row = rows.find(({ unit }) => unit === typed.unit);
    if (!row)
      throw Refusal.at(at("unit"), "rework-unit-unknown", { number: rework.number, unit: typed.unit });
    const item = typed.item ?? rework.item_id;
    if (rework.theirs === 1) refuseNotBack(typed, at);
    else checkOutcome(typed, brief(rework.item_id), brief(item), at);
    if (typed.outcome !== "parts" && typed.parts.length > 0)
      throw Refusal.at(at("parts"), "rework-parts-only");
    if (typed.price !== null) checkCurrency(ctx, at("price"), typed.price);
    const places: Spot[] = [];
    for (const [j, part] of typed.parts.entries()) {
      const { code, kind, notStockTracked, tracking } = brief(part.item);
      if (!isStocked({ kind, notStockTracked }))
        throw Refusal.at(at(`parts.${j}.item`), "not-stocked", { code, kind });
      refuseTracking((field) => at(`parts.${j}.${field}`), part, { code, tracking });
      places.push({ location: await storeId(ctx, at(`parts.${j}.store`), part.store), bin: part.bin });
    }
    const to =
      rework.theirs === 0 && typed.outcome === "good"
        ? { location: await storeId(ctx, at("store"), typed.store), bin: typed.bin }
        : null;
    leaving.push({ row, typed, item, to, places });
  }
  if (leaving.length !== rows.length)
    throw Refusal.at("units", "rework-units-all", { count: rows.length, number: rework.number });
  return leaving.sort((a, b) => a.row.unit - b.row.unit);
}

function refuseNotBack({ outcome, store, item, price }: UnitInput, at: (field: string) => string): void {
  if (outcome !== "good" || store !== "" || item !== null || price !== null)
    throw Refusal.at(at("outcome"), "rework-theirs-back");
}

type Brief = Awaited<ReturnType<typeof briefs>> extends (id: number) => infer B ? B : never;

function checkOutcome(typed: UnitInput, was: Brief, is: Brief, at: (field: string) => string): void {
  if (typed.outcome === "scrap" && typed.reason === "") throw Refusal.at(at("reason"), "rework-scrap-reason");
  if (typed.outcome === "parts" && typed.parts.length === 0)
    throw Refusal.at(at("parts"), "rework-parts-none");
  const { code, kind, notStockTracked, tracking, unit } = is;
  if (!isStocked({ kind, notStockTracked })) throw Refusal.at(at("item"), "not-stocked", { code, kind });
  if (tracking !== was.tracking)
    throw Refusal.at(at("item"), "rework-other-tracking", {
      code,
      tracking: tracking === "none" ? "without numbers" : `by ${tracking}`,
    });
  if (unit !== was.unit) throw Refusal.at(at("item"), "rework-other-unit", { code, unit });
}

/** What leaves: the parts that went in, then each unit as what it was. */
function goingOf(
  rework: ReworkTableRow,
  spot: Spot,
  parts: readonly ReworkPartRow[],
  units: readonly Leaving[],
): Movement[] {
  const source = (line: number) => ({ document: "rework" as const, id: rework.id, line });
  const used = parts.flatMap(({ id, item_id, posting_id, lot, serial, quantity }): Movement[] =>
    item_id === null || posting_id === null
      ? []
      : [
          {
            // What went into a customer's own unit is with them, and a trace finds it there.
            purpose: rework.theirs === 1 ? "shipped" : "used",
            source: source(id),
            item: item_id,
            lot,
            serial,
            quantity: quantityFromScaled(quantity),
            from: { ...spot, owner: reworkOwner(rework.id) },
            to: null,
            value: null,
          },
        ],
  );
  const leaving = units.map(
    ({ row, typed }): Movement => ({
      purpose: rework.theirs === 1 ? "shipped" : LEAVES_AS[typed.outcome],
      source: source(0),
      item: rework.item_id,
      lot: row.lot,
      serial: row.serial,
      quantity: quantityFromScaled(row.quantity),
      from: { ...spot, owner: unitOwner(rework) },
      to: null,
      value: rework.theirs === 1 ? ZERO : null,
    }),
  );
  return [...used, ...leaving];
}

const LEAVES_AS = { good: "converted", scrap: "scrapped", parts: "taken apart" } as const;

interface Put {
  unit: Leaving;
  value: Decimal;
  recovery: Recovery | null;
  movements: Movement[];
}

interface Gathered {
  going: readonly Movement[];
  parts: readonly ReworkPartRow[];
  steps: readonly ReworkStepRow[];
  units: readonly Leaving[];
  stock: StockState;
}

/** What each unit carries when it leaves, and what comes in for it. */
async function valued(
  ctx: Reading,
  rework: ReworkTableRow,
  { going, parts, steps, units, stock }: Gathered,
): Promise<Put[]> {
  const posted = post(stock, going);
  if (!posted.ok) throw new Error(`What lies with ${rework.number} is not all there`);
  const worth = posted.movements.map(({ value }) => value);
  const used = parts.filter(({ posting_id }) => posting_id !== null);
  const at = (unit: number | null) =>
    unit === null ? null : units.findIndex(({ row }) => row.unit === unit);
  const values = valuesOut(
    units.map(({ row }, i) => ({
      quantity: quantityFromScaled(row.quantity),
      valueIn: worth[used.length + i] ?? ZERO,
    })),
    [
      ...used.map(({ unit }, i) => ({ unit: at(unit), value: worth[i] ?? ZERO })),
      ...textsOf(parts).map(({ unit, value }) => ({ unit: at(unit), value: moneyFromScaled(value) })),
      ...steps.map((step) => ({ unit: at(step.unit), value: costOf(step) })),
    ],
  );
  const costs = await currentCosts(
    ctx,
    units.flatMap(({ typed }) => typed.parts.map((part) => part.item)),
  );
  return units.map((unit, i): Put => {
    const value = values[i] ?? ZERO;
    const recovery =
      unit.typed.outcome === "parts" ? recoveryBy(value, goodParts(unit), costs, new Map()) : null;
    return { unit, value, recovery, movements: comingOf(rework, unit, value, recovery) };
  });
}

const textsOf = (parts: readonly ReworkPartRow[]) => parts.filter(({ item_id }) => item_id === null);

/** What a step cost, as planned where nothing else is known. */
export const costOf = ({ actual, planned }: ReworkStepRow): Decimal => moneyFromScaled(actual ?? planned);

const goodParts = ({ typed }: Leaving) =>
  typed.parts.map(({ item, quantity }) => ({
    item,
    expected: quantity,
    good: quantity,
    damaged: ZERO,
    missing: ZERO,
  }));

function comingOf(
  rework: ReworkTableRow,
  unit: Leaving,
  value: Decimal,
  recovery: Recovery | null,
): Movement[] {
  const source = { document: "rework" as const, id: rework.id, line: 0 };
  const { row, typed, item, to, places } = unit;
  if (to)
    return [
      {
        purpose: "converted",
        source,
        item,
        lot: row.lot,
        serial: row.serial,
        quantity: quantityFromScaled(row.quantity),
        from: null,
        to,
        value,
      },
    ];
  return typed.outcome !== "parts"
    ? []
    : typed.parts.map(
        (part, i): Movement => ({
          purpose: "recovered",
          source,
          item: part.item,
          lot: part.lot,
          serial: part.serial,
          quantity: part.quantity,
          from: null,
          to: places[i] ?? null,
          value: recovery?.parts[i]?.recovered ?? ZERO,
        }),
      );
}

/** Steps and lines of text cost; what is scrapped is lost, and the work on a customer's own unit goes out with it. */
function entriesOf(
  { theirs, reason }: ReworkTableRow,
  steps: readonly ReworkStepRow[],
  parts: readonly ReworkPartRow[],
  put: readonly Put[],
): PostingEntry[] {
  const all = (outcome: UnitInput["outcome"]) => put.filter(({ unit }) => unit.typed.outcome === outcome);
  const stepCost = sum(steps.map(costOf));
  const texts = sum(textsOf(parts).map(({ value }) => moneyFromScaled(value)));
  const work = stepCost.plus(texts);
  return [
    ...added("rework step", stepCost, reason),
    ...added("rework line", texts, reason),
    ...all("scrap").flatMap(({ value, unit }) => lost("scrapped", value, unit.typed.reason)),
    ...all("parts").flatMap(({ value, recovery, unit }) =>
      lost("work put in", value.minus(recovery?.recovered ?? ZERO), unit.typed.reason),
    ),
    ...(theirs === 1 ? lost("given back to a customer", work, reason) : []),
  ];
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
  const { number, out_posting_id, undone_at } = await reworkById(ctx, id);
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
