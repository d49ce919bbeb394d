import {
  added,
  type Decimal,
  lost,
  type Movement,
  moneyFromScaled,
  type PostingEntry,
  post,
  quantityFromScaled,
  type Recovery,
  reworkOwner,
  type Spot,
  type StockState,
  sum,
  valuesOut,
  ZERO,
} from "@yosegi/core";
import type { Reading } from "../db/index.ts";
import { currentCosts } from "../lists/index.ts";
import { recoveryBy } from "../takeaparts/index.ts";
import type { FinishInput, Leaving } from "./leaving.ts";
import { costOf, unitOwner } from "./rows.ts";
import type { ReworkPartRow, ReworkStepRow, ReworkTableRow } from "./tables.ts";

/** What leaves: the parts that went in, then each unit as what it was. */
export function goingOf(
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

export interface Put {
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
export async function valued(
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
export function entriesOf(
  { theirs, reason }: ReworkTableRow,
  steps: readonly ReworkStepRow[],
  parts: readonly ReworkPartRow[],
  put: readonly Put[],
): PostingEntry[] {
  const all = (outcome: FinishInput["units"][number]["outcome"]) =>
    put.filter(({ unit }) => unit.typed.outcome === outcome);
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
