import { type ParsedBody, Refusal, type routes } from "@yosegi/contract";
import {
  type Counted,
  checkDecimals,
  countEntries,
  countMovements,
  isStocked,
  type Problem,
  post,
  type Rate,
  rateOf,
  reporter,
  type StockState,
  spotKey,
  sum,
  ZERO,
} from "@yosegi/core";
import { asJson, nextNumber, type Reading, type Writing } from "../db/index.ts";
import { briefs, loadUnits, unitNamed } from "../items/index.ts";
import { ensureBins, loadBooks, record, serialsElsewhere, storeIds } from "../ledger/index.ts";
import { currentCosts } from "../lists/index.ts";
import { refuseProblems } from "../problems.ts";
import { refuseTracking } from "./tracking.ts";

type CountBody = Omit<ParsedBody<typeof routes.count>, "day">;

interface CountGiven {
  /** Where in what was sent a count's field stands, for whoever is told what is wrong with it. */
  at: (count: number, field: string) => string;
  unitCost: (item: number) => Rate | null;
  stock: StockState;
}

/** What was counted, as the core takes it; refuses what can't have been. */
export async function countsOf(
  ctx: Reading,
  counts: readonly CountBody[],
  { at: fieldOf, unitCost, stock }: CountGiven,
): Promise<Counted[]> {
  if (counts.length === 0) return [];
  const units = await loadUnits(ctx);
  const stores = await storeIds(ctx);
  const lots = await ctx.sql.all<{ item: number; lot: string; expiry: string | null }>(
    "SELECT item_id AS item, code AS lot, expiry FROM lot_head WHERE item_id IN (SELECT value FROM json_each($ids))",
    { ids: asJson(new Set(counts.map((count) => count.item))) },
  );
  const brief = await briefs(
    ctx,
    counts.map((count) => count.item),
  );
  const known = await ctx.sql.all<{ location: number; code: string }>(
    "SELECT location_id AS location, code FROM bin_head",
  );
  const bins = new Set(known.map(({ location, code }) => `${location} ${code}`));
  const serials = counts.filter((count) => count.serial !== "");
  const elsewhere = await serialsElsewhere(ctx, serials, "counted");
  return counts.map((count, i) => {
    const at = (field: string) => fieldOf(i, field);
    const { code, tracking, unit } = brief(count.item);
    const location = stores(count.store);
    if (location === null) throw Refusal.at(at("store"), "store-unknown", { store: count.store });
    if (!count.newBin && count.bin !== "" && !bins.has(`${location} ${count.bin}`))
      throw Refusal.at(at("bin"), "bin-unknown", { store: count.store, bin: count.bin });
    const problems: Problem[] = [];
    checkDecimals(at("there"), count.there, unitNamed(units, unit), reporter(0, problems));
    refuseProblems(problems, (p) => p.field);
    const known = lots.find((l) => l.item === count.item && l.lot === count.lot);
    if (tracking === "lot" && !known) throw Refusal.at(at("lot"), "lot-needed", { code });
    refuseTracking(at, count, { code, tracking });
    if (tracking === "serial" && count.there.gt(1))
      throw Refusal.at(at("there"), "serial-one", { serial: count.serial });
    const { item, lot, serial } = count;
    const books =
      stock.balances.get(spotKey({ item, lot, serial, location, bin: count.bin }))?.quantity ?? ZERO;
    // A unit that is elsewhere can't be found here, unless it is counted away there in the same step.
    const moved = counts.some((c) => c !== count && c.serial === serial && c.there.eq(0));
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

/** Puts the stock of an item in one bin right. Gives the number of the count, and what the books gained by it. */
export async function count(
  ctx: Writing,
  { day, ...body }: ParsedBody<typeof routes.count>,
): Promise<{ document: string; difference: string }> {
  if (day > ctx.today) throw Refusal.at("day", "day-future");
  const { code, kind, notStockTracked, unit } = (await briefs(ctx, [body.item]))(body.item);
  if (!isStocked({ kind, notStockTracked })) throw Refusal.at("item", "not-stocked", { code, kind });
  const { stock } = await loadBooks(ctx, [body.item]);
  const unitCost = await currentCosts(ctx, [body.item]);
  const counts = await countsOf(ctx, [body], { at: (_, field) => field, unitCost, stock });
  const movements = countMovements(stock, counts);
  if (movements.length === 0)
    throw Refusal.at("there", "count-same", { quantity: `${body.there.toFixed()} ${unit}` });
  await ensureBins(
    ctx,
    counts.map(({ at }) => at),
  );
  const document = await nextNumber(ctx, "C");
  const posted = post(stock, movements);
  await record(ctx, {
    kind: "count",
    document,
    day,
    reason: body.reason,
    movements,
    // What can't be posted is refused where it is recorded.
    entries: posted.ok ? countEntries(posted.movements) : [],
    lots: [],
    books: stock,
    posted,
  });
  const difference = sum(movements.map(({ to, quantity }) => (to ? quantity : ZERO.minus(quantity))));
  return { document, difference: difference.toFixed() };
}
