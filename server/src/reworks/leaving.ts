import { type ParsedBody, Refusal, type routes } from "@yosegi/contract";
import { isStocked, type Spot } from "@yosegi/core";
import type { Reading } from "../db/index.ts";
import { briefs, checkCurrency } from "../items/index.ts";
import { storeId } from "../ledger/index.ts";
import { refuseTracking } from "../stock/index.ts";
import { unitsOf } from "./rows.ts";
import type { ReworkTableRow, ReworkUnitRow } from "./tables.ts";

export type FinishInput = ParsedBody<typeof routes.finishRework>;
type UnitInput = FinishInput["units"][number];

/** A unit with what becomes of it. */
export interface Leaving {
  row: ReworkUnitRow;
  typed: UnitInput;
  /** What it is when it comes out. */
  item: number;
  /** Where it goes; null where it is scrapped, or goes back to its customer. */
  to: Spot | null;
  /** Where its good parts go. */
  places: Spot[];
}

/** Checks what is said of each unit; all of them are named. */
export async function leavingOf(
  ctx: Reading,
  rework: ReworkTableRow,
  { units }: FinishInput,
): Promise<Leaving[]> {
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
