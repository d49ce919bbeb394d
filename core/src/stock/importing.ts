import { type Day, type Decimal, ONE, type Rate, rateOf, type Units } from "../amounts/index.ts";
import { checkDecimals, isStocked, type KnownItem, type KnownItems, pricedQuantity } from "../items/index.ts";
import { codeKey } from "../keys.ts";
import { type Problem, type Report, reporter } from "../problems.ts";

/** Stock that comes in: a row of an opening file, or a receipt typed by hand (`row` 0). */
export interface StockRow {
  row: number;
  item: string;
  store: string;
  bin: string;
  /** In the item's stock unit, above zero. */
  quantity: Decimal;
  /** What it costs, for one `costPer` of the item ("" for its stock unit); null takes the item's standard cost. */
  unitCost: Decimal | null;
  costPer: string;
  lot: string;
  expiry: Day | null;
  serial: string;
}

/** A checked row, with what it costs as it is calculated with. */
export interface ValuedRow extends Omit<StockRow, "unitCost" | "costPer"> {
  unitCost: Rate;
}

/** What is known of the lots and serials that are there already. */
export interface KnownStock {
  /** Expiry of a lot: undefined where the lot is new, null where it never expires. */
  expiryOf: (itemKey: string, lot: string) => Day | null | undefined;
  /** Where a serial number is that may not come in; null where it may. */
  serialAt: (itemKey: string, serial: string) => string | null;
}

/**
 * Rows that may come in. Opening stock (`opening`) is refused for an item that has movements already: a file sent twice
 * would double the books.
 */
export function checkStock(
  rows: readonly StockRow[],
  known: KnownItems,
  units: Units,
  there: KnownStock,
  opening: boolean,
): { good: ValuedRow[]; problems: Problem[] } {
  const problems: Problem[] = [];
  const lots = new Map<string, Day | null>();
  const serials = new Set<string>();
  const good: ValuedRow[] = [];
  for (const row of rows) {
    const before = problems.length;
    const report = reporter(row.row, problems);
    const key = codeKey(row.item);
    const item = known.get(key);
    if (!item) {
      report("item", row.item, "item-unknown", { code: row.item });
      continue;
    }
    if (!isStocked(item)) report("item", row.item, "not-stocked", { code: item.code, kind: item.kind });
    if (opening && item.hasStock) report("item", row.item, "has-stock", { code: item.code });
    const unit = units.get(item.unit);
    if (unit) checkDecimals("quantity", row.quantity, unit, report);
    checkLot(row, key, item, lots, there, report);
    checkSerial(row, key, item, serials, there, report);
    const per = pricedQuantity(row.costPer, unit, units.values(), item.packs);
    if (per === null) report("cost_per", row.costPer, "price-unit", { code: item.code, per: row.costPer });
    const unitCost = row.unitCost === null || per === null ? item.cost : rateOf(row.unitCost, per);
    const { costPer: _, ...checked } = row;
    if (unitCost === null) report("unit_cost", "", "cost-needed", { code: item.code });
    else if (problems.length === before) good.push({ ...checked, unitCost });
  }
  return { good, problems };
}

function checkLot(
  row: StockRow,
  key: string,
  item: KnownItem,
  lots: Map<string, Day | null>,
  there: KnownStock,
  report: Report,
): void {
  if (row.lot === "") {
    if (item.tracking === "lot") report("lot", "", "lot-needed", { code: item.code });
    // A unit with a serial number may have a day of its own.
    if (row.expiry !== null && row.serial === "") report("expiry", row.expiry, "expiry-without-lot");
    return;
  }
  if (item.tracking !== "lot") {
    report("lot", row.lot, "lot-not-tracked", { code: item.code });
    return;
  }
  const lotKey = JSON.stringify([key, row.lot]);
  const earlier = lots.has(lotKey) ? lots.get(lotKey) : there.expiryOf(key, row.lot);
  if (earlier !== undefined && earlier !== row.expiry)
    report("expiry", row.expiry ?? "", "expiry-differs", { lot: row.lot, expiry: earlier ?? "none" });
  else lots.set(lotKey, row.expiry);
}

function checkSerial(
  row: StockRow,
  key: string,
  item: KnownItem,
  serials: Set<string>,
  there: KnownStock,
  report: Report,
): void {
  if (row.serial === "") {
    if (item.tracking === "serial") report("serial", "", "serial-needed", { code: item.code });
    return;
  }
  if (item.tracking !== "serial") {
    report("serial", row.serial, "serial-not-tracked", { code: item.code });
    return;
  }
  if (!row.quantity.eq(ONE)) report("quantity", row.quantity.toFixed(), "serial-one", { serial: row.serial });
  const serialKey = JSON.stringify([key, row.serial]);
  const where = serials.has(serialKey) ? "named twice here" : there.serialAt(key, row.serial);
  if (where !== null) report("serial", row.serial, "serial-taken", { serial: row.serial, where });
  serials.add(serialKey);
}
