import { Refusal } from "@yosegi/contract";
import {
  type Counted,
  checkDecimals,
  type Problem,
  type Rate,
  rateOf,
  reporter,
  type StockState,
  spotKey,
  type Tracking,
  ZERO,
} from "@yosegi/core";
import { asJson, type Reading } from "../db/index.ts";
import { briefs } from "../items/index.ts";
import { serialsElsewhere, storeIds } from "../ledger/index.ts";
import { refuseProblems } from "../problems.ts";
import type { FinishFigures } from "./finishchecks.ts";
import type { StoredLine } from "./rows.ts";

/** What was counted, as the core takes it. */
export async function countsOf(
  ctx: Reading,
  body: FinishFigures,
  lines: readonly StoredLine[],
  unitCost: (item: number) => Rate | null,
  stock: StockState,
): Promise<Counted[]> {
  if (body.counts.length === 0) return [];
  const stores = await storeIds(ctx);
  const lots = await ctx.sql.all<{ item: number; lot: string; expiry: string | null }>(
    "SELECT item_id AS item, code AS lot, expiry FROM lot_head WHERE item_id IN (SELECT value FROM json_each($ids))",
    { ids: asJson(new Set(body.counts.map((count) => count.item))) },
  );
  const brief = await briefs(
    ctx,
    body.counts.map((count) => count.item),
  );
  const known = await ctx.sql.all<{ location: number; code: string }>(
    "SELECT location_id AS location, code FROM bin_head",
  );
  const bins = new Set(known.map(({ location, code }) => `${location} ${code}`));
  const serials = body.counts.filter((count) => count.serial !== "");
  const elsewhere = await serialsElsewhere(ctx, serials, "counted");
  return body.counts.map((count, i) => {
    const at = (field: string) => `counts.${i}.${field}`;
    const line = lines.find((l) => l.item === count.item && l.stocked);
    const { code, tracking } = brief(count.item);
    if (!line) throw Refusal.at(at("item"), "count-not-part", { code });
    const location = stores(count.store);
    if (location === null) throw Refusal.at(at("store"), "store-unknown", { store: count.store });
    if (!count.newBin && count.bin !== "" && !bins.has(`${location} ${count.bin}`))
      throw Refusal.at(at("bin"), "bin-unknown", { store: count.store, bin: count.bin });
    const problems: Problem[] = [];
    checkDecimals(at("there"), count.there, line.stockUnit, reporter(0, problems));
    refuseProblems(problems, (p) => p.field);
    const known = lots.find((l) => l.item === count.item && l.lot === count.lot);
    refuseTracking(at, count, { code, tracking, lotKnown: known !== undefined });
    const { item, lot, serial } = count;
    const books =
      stock.balances.get(spotKey({ item, lot, serial, location, bin: count.bin }))?.quantity ?? ZERO;
    // A unit that is elsewhere can't be found here, unless it is counted away there in the same step.
    const moved = body.counts.some((c) => c !== count && c.serial === serial && c.there.eq(0));
    const where = elsewhere({ item, serial });
    if (where !== null && !moved && count.there.gt(books))
      throw Refusal.at(at("serial"), "serial-elsewhere", { serial, where });
    const worth = count.cost === null ? unitCost(count.item) : rateOf(count.cost);
    if (worth === null) throw Refusal.at(at("cost"), "cost-needed", { code });
    return {
      item: count.item,
      lot: count.lot,
      serial: count.serial,
      at: { location, bin: count.bin },
      there: count.there,
      expiry: known?.expiry ?? null,
      unitCost: worth,
      reason: count.reason,
    };
  });
}

/** A count names a lot or a serial where its item has such, and only there. */
function refuseTracking(
  at: (field: string) => string,
  { lot, serial, there }: FinishFigures["counts"][number],
  { code, tracking, lotKnown }: { code: string; tracking: Tracking; lotKnown: boolean },
): void {
  if (tracking === "lot" && !lotKnown) throw Refusal.at(at("lot"), "lot-needed", { code });
  if (tracking !== "lot" && lot !== "") throw Refusal.at(at("lot"), "lot-not-tracked", { code });
  if (tracking === "serial" && serial === "") throw Refusal.at(at("serial"), "serial-needed", { code });
  if (tracking !== "serial" && serial !== "") throw Refusal.at(at("serial"), "serial-not-tracked", { code });
  if (tracking === "serial" && there.gt(1)) throw Refusal.at(at("there"), "serial-one", { serial });
}
