import { type Decimal, type Rate, tooManyDecimals, type Unit, type Units } from "../amounts/index.ts";
import { codeKey } from "../keys.ts";
import { type Checked, checkEach, type Report } from "../problems.ts";
import type { ItemKind, ItemState, Tracking } from "./item.ts";
import { type Pack, pricedQuantity } from "./packs.ts";

/** An item as it is typed or read from a row. `row` is its number in the file, or 0 for a form. */
export interface ItemInput {
  row: number;
  code: string;
  name: string;
  kind: ItemKind;
  unit: string;
  tracking: Tracking;
  /** Name of its group; "" for none. */
  group: string;
  barcode: string;
  /** Standard cost and price; null where not given. */
  cost: Decimal | null;
  price: Decimal | null;
  /** The unit or pack of the item that cost and price are for; "" for its stock unit. */
  costPer: string;
  pricePer: string;
  store: string;
  bin: string;
  reorderLevel: Decimal | null;
  /** Calendar days that a build takes; days until a finished lot expires; months of warranty. */
  buildDays: number | null;
  shelfLife: number | null;
  warrantyMonths: number | null;
  maker: string;
  makerNumber: string;
  lotPattern: string;
  state: ItemState;
  notStockTracked: boolean;
  /** It is offered on no order. */
  notForSale: boolean;
  /** Orders for it are built, whatever is in stock. */
  alwaysBuild: boolean;
  /** Shipping it finishes the builds that are for the order. */
  finishWhenShipped: boolean;
  /** A picker takes the suggested lot, and another only with a reason. */
  lotFixed: boolean;
  /** Percent; null: the company's. */
  taxRate: Decimal | null;
  packs: readonly Pack[];
  notes: string;
}

/** What later rows must know of an item, whether it is in the catalog or comes in the same import. */
export interface KnownItem {
  code: string;
  kind: ItemKind;
  tracking: Tracking;
  unit: string;
  barcode: string;
  state: ItemState;
  notStockTracked: boolean;
  cost: Rate | null;
  packs: readonly Pack[];
  /** Whether any movement of it is on the books that was not undone. */
  hasStock: boolean;
  /** What keeps kind, unit, tracking and counting as they are, in words; null where nothing does. */
  inUse: string | null;
  /** Keys of the parts on its lists; null where it has no list. */
  parts: readonly string[] | null;
}

/** Known items by `codeKey`. */
export type KnownItems = ReadonlyMap<string, KnownItem>;

/** Checks items of a form or a file, new or changed: an item that is there already is among the known ones. */
export function checkItems(rows: readonly ItemInput[], known: KnownItems, units: Units): Checked<ItemInput> {
  const owners = new Map<string, string>();
  for (const [key, { barcode }] of known) if (barcode !== "") owners.set(barcode, key);
  return checkEach(
    rows,
    "code",
    (row) => row.code,
    (row, report) => {
      checkItem(row, known, units, report);
      const key = codeKey(row.code);
      const owner = owners.get(row.barcode);
      if (owner !== undefined && owner !== key)
        report("barcode", row.barcode, "barcode-taken", { code: known.get(owner)?.code ?? owner });
      else if (row.barcode !== "") owners.set(row.barcode, key);
    },
  );
}

function checkItem(row: ItemInput, known: KnownItems, units: Units, report: Report): void {
  const unit = units.get(row.unit);
  if (!unit) report("unit", row.unit, "unit-unknown", { units: [...units.keys()].join(", ") });
  if (row.tracking !== "none" && (row.kind === "service" || row.kind === "kit"))
    report("tracking", row.tracking, row.kind === "kit" ? "kit-no-tracking" : "service-no-tracking");
  else if (row.tracking !== "none" && row.notStockTracked)
    report("tracking", row.tracking, "not-stock-tracked-tracking");
  else if (row.tracking === "serial" && unit && unit.decimals > 0)
    report("unit", row.unit, "serial-unit", { unit: unit.code });
  if (row.kind === "kit" && unit && unit.decimals > 0)
    report("unit", row.unit, "kit-unit", { unit: unit.code });
  if (row.bin !== "" && row.store === "") report("bin", row.bin, "bin-without-store");
  if (unit && row.reorderLevel) checkDecimals("reorderLevel", row.reorderLevel, unit, report);
  checkPacks(row.packs, unit, report);
  for (const field of ["costPer", "pricePer"] as const)
    if (unit && pricedQuantity(row[field], unit, units.values(), row.packs) === null)
      report(field, row[field], "price-unit", { code: row.code, per: row[field] });
  const before = known.get(codeKey(row.code));
  if (!before?.inUse) return;
  for (const field of ["kind", "unit", "tracking", "notStockTracked"] as const)
    if (row[field] !== before[field])
      report(field, String(row[field]), "in-use", {
        code: before.code,
        what: before.inUse,
        field: FIELD_WORDS[field],
      });
}

const FIELD_WORDS = {
  kind: "kind",
  unit: "unit",
  tracking: "tracking",
  notStockTracked: "counting",
} as const;

function checkPacks(packs: readonly Pack[], unit: Unit | undefined, report: Report): void {
  const names = packs.map((pack) => codeKey(pack.name));
  for (const [i, pack] of packs.entries()) {
    if (names.indexOf(codeKey(pack.name)) !== i)
      report(`packs.${i}.name`, pack.name, "pack-repeated", { name: pack.name });
    if (unit) checkDecimals(`packs.${i}.quantity`, pack.quantity, unit, report);
  }
}

/** A quantity may have no more decimals than its unit allows; it is never rounded instead. */
export function checkDecimals(
  field: string,
  quantity: Decimal,
  unit: Pick<Unit, "code" | "decimals">,
  report: Report,
): void {
  if (tooManyDecimals(quantity, unit) !== null)
    report(field, quantity.toFixed(), "decimals", { unit: unit.code, allowed: unit.decimals });
}

/** All that lists and kits are checked against. Stores and people by `codeKey` of their names. */
export interface Facts {
  items: KnownItems;
  units: Units;
  stores: ReadonlySet<string>;
  people: ReadonlySet<string>;
}
