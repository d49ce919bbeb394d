import { convertible, type Decimal, type Rate, tooManyDecimals, type Unit } from "../amounts/index.ts";
import type { Problem, ProblemCode } from "../problems.ts";
import { codeKey, type DrawnAt, type ItemKind, type ItemState, type Tracking } from "./item.ts";
import type { Swap } from "./kit.ts";
import { type Pack, pricedQuantity } from "./packs.ts";
import { findCycle } from "./partslist.ts";

/** Units by their code, exactly as written: mL and ML are not the same to a chemist. */
export type Units = ReadonlyMap<string, Unit>;

/** An item as it is typed or read from a row. `row` is its number in the file, or 0 for a form. */
export interface ItemRow {
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
  notCounted: boolean;
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
  notCounted: boolean;
  cost: Rate | null;
  packs: readonly Pack[];
  /** Whether any movement of it is on the books. */
  hasStock: boolean;
  /** What keeps kind, unit, tracking and counting as they are, in words; null where nothing does. */
  inUse: string | null;
  /** Keys of the parts on its lists; null where it has no list. */
  parts: readonly string[] | null;
}

/** Known items by `codeKey`. */
export type KnownItems = ReadonlyMap<string, KnownItem>;

export type Report = (field: string, value: string, code: ProblemCode, params?: Problem["params"]) => void;

/** Collects the problems of one row; the row is good while there are none. */
export function reporter(row: number, problems: Problem[]): Report {
  return (field, value, code, params = {}) => problems.push({ row, field, value, code, params });
}

/** Rows without a problem, and the problems of the others. */
export interface Checked<Row> {
  good: Row[];
  problems: Problem[];
}

/** Checks each row by itself, and that no two rows have the same key. */
export function checkEach<Row extends { row: number }>(
  rows: readonly Row[],
  field: string,
  textOf: (row: Row) => string,
  check: (row: Row, report: Report) => void,
): Checked<Row> {
  const problems: Problem[] = [];
  const seen = new Map<string, number>();
  const good = rows.filter((row) => {
    const before = problems.length;
    const report = reporter(row.row, problems);
    const key = codeKey(textOf(row));
    const earlier = seen.get(key);
    if (earlier !== undefined) report(field, textOf(row), "code-repeated", { row: earlier });
    else seen.set(key, row.row);
    check(row, report);
    return problems.length === before;
  });
  return { good, problems };
}

/** Checks items of a form or a file, new or changed: an item that is there already is among the known ones. */
export function checkItems(rows: readonly ItemRow[], known: KnownItems, units: Units): Checked<ItemRow> {
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

function checkItem(row: ItemRow, known: KnownItems, units: Units, report: Report): void {
  const unit = units.get(row.unit);
  if (!unit) report("unit", row.unit, "unit-unknown", { units: [...units.keys()].join(", ") });
  if (row.tracking !== "none" && (row.kind === "service" || row.kind === "kit"))
    report("tracking", row.tracking, row.kind === "kit" ? "kit-no-tracking" : "service-no-tracking");
  else if (row.tracking !== "none" && row.notCounted)
    report("tracking", row.tracking, "not-counted-tracking");
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
  for (const field of ["kind", "unit", "tracking", "notCounted"] as const)
    if (row[field] !== before[field])
      report(field, String(row[field]), "in-use", {
        code: before.code,
        what: before.inUse,
        field: FIELD_WORDS[field],
      });
}

const FIELD_WORDS = { kind: "kind", unit: "unit", tracking: "tracking", notCounted: "counting" } as const;

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

/** One line of a parts list as typed or read from a row; `row` is its number in the file or its index in the form. */
export interface PartRow {
  row: number;
  part: string;
  quantity: Decimal;
  unit: string;
  waste: Decimal;
  oncePerBuild: boolean;
  optional: boolean;
  drawnAt: DrawnAt;
  /** Name of the store it is taken from; "" for its home store. */
  store: string;
  note: string;
  share: Decimal | null;
  /** Name of the person; "" for anybody. */
  person: string;
  substitutes: readonly { item: string; quantity: Decimal }[];
}

/** A parts list as typed, or gathered from the rows of one product. */
export interface ListDraft {
  product: string;
  makes: Decimal;
  usual: Decimal;
  overhead: Decimal;
  extra: Decimal;
  yield: Decimal;
  lines: readonly PartRow[];
}

/** All that lists and kits are checked against. Stores and people by `codeKey` of their names. */
export interface Facts {
  items: KnownItems;
  units: Units;
  stores: ReadonlySet<string>;
  people: ReadonlySet<string>;
}

/** Checks the lines of one list; problems carry each line's `row`. */
export function checkLines(list: Pick<ListDraft, "product" | "lines">, facts: Facts): Problem[] {
  const problems: Problem[] = [];
  for (const line of list.lines) {
    const report = reporter(line.row, problems);
    const part = checkPart("part", line.part, list.product, facts, report);
    const unit = facts.units.get(line.unit);
    const stockUnit = part && facts.units.get(part.unit);
    if (!unit) report("unit", line.unit, "unit-unknown", { units: [...facts.units.keys()].join(", ") });
    else if (part && stockUnit && !convertible(unit, stockUnit))
      report("unit", line.unit, "unit-dimension", {
        unit: unit.code,
        part: part.code,
        stockUnit: stockUnit.code,
      });
    else checkDecimals("quantity", line.quantity, unit, report);
    if (line.store !== "" && !facts.stores.has(codeKey(line.store)))
      report("store", line.store, "store-unknown", { store: line.store });
    if (line.person !== "" && !facts.people.has(codeKey(line.person)))
      report("person", line.person, "person-unknown", { name: line.person });
    else if (line.person !== "" && part && part.kind !== "service")
      report("person", line.person, "person-for-work", { part: part.code });
    for (const [i, substitute] of line.substitutes.entries()) {
      const field = `substitutes.${i}.item`;
      const item = checkPart(field, substitute.item, list.product, facts, report);
      if (item && codeKey(substitute.item) === codeKey(line.part))
        report(field, substitute.item, "substitute-same", { code: item.code });
      else if (item && part && (item.kind === "service") !== (part.kind === "service"))
        report(field, substitute.item, "not-stocked", { code: item.code, kind: item.kind });
    }
  }
  problems.push(...checkShares(list.lines));
  return problems;
}

/** A part must be known, usable, and lead back to its product by no list. */
function checkPart(
  field: string,
  code: string,
  product: string,
  facts: Facts,
  report: Report,
): KnownItem | undefined {
  const key = codeKey(code);
  const part = facts.items.get(key);
  if (!part) report(field, code, "item-unknown", { code });
  else if (key === codeKey(product)) report(field, code, "part-is-product", { code: part.code });
  else if (part.kind === "kit") report(field, code, "part-is-kit", { code: part.code });
  else if (part.state === "archived") report(field, code, "archived", { code: part.code });
  else {
    const path = findCycle(codeKey(product), key, (k) => facts.items.get(k)?.parts ?? []);
    if (path)
      report(field, code, "parts-circle", {
        path: path.map((k) => facts.items.get(k)?.code ?? k).join(" → "),
      });
    else return part;
  }
  return undefined;
}

/** Recovery shares are set for all that comes back, or not at all: they add up to 100 %. */
function checkShares(lines: readonly PartRow[]): Problem[] {
  const shared = lines.filter((line) => line.share !== null);
  const [first] = shared;
  if (!first) return [];
  const total = shared.reduce((sum, line) => (line.share ? sum.plus(line.share) : sum), first.waste.times(0));
  if (total.eq(100)) return [];
  const problems: Problem[] = [];
  reporter(first.row, problems)("share", first.share?.toFixed() ?? "", "shares-sum", {
    total: total.toFixed(),
  });
  return problems;
}

/** Checks what a list says of its product: that it is built, and its quantities in the product's unit. */
export function checkHead(
  list: Pick<ListDraft, "product" | "makes" | "usual">,
  facts: Facts,
  report: Report,
): void {
  const product = facts.items.get(codeKey(list.product));
  const unit = product && facts.units.get(product.unit);
  if (!product) report("product", list.product, "item-unknown", { code: list.product });
  else if (product.kind !== "built")
    report("product", list.product, "not-built", { code: product.code, kind: product.kind });
  else if (unit) {
    checkDecimals("makes", list.makes, unit, report);
    checkDecimals("usual", list.usual, unit, report);
  }
}

/** One content of a kit as typed or read. */
export interface ContentRow {
  row: number;
  item: string;
  quantity: Decimal;
  swap: Swap;
  swaps: readonly string[];
  quantityMayChange: boolean;
  mayBeLeftOut: boolean;
}

/** Where a kit's price comes from: its own, or the sum of its contents less `discount` percent. */
export const PRICE_RULES = ["own", "sum"] as const;
export type PriceRule = (typeof PRICE_RULES)[number];

/** A kit as typed, or gathered from the rows of one. */
export interface KitDraft {
  kit: string;
  contentsShown: boolean;
  mayBeAddedTo: boolean;
  priceRule: PriceRule;
  discount: Decimal;
  contents: readonly ContentRow[];
}

/** Checks a kit; problems carry each content's `row`, those of the kit itself `headRow`. */
export function checkKit(kit: KitDraft, headRow: number, facts: Facts): Problem[] {
  const problems: Problem[] = [];
  const known = facts.items.get(codeKey(kit.kit));
  const head = reporter(headRow, problems);
  if (!known) head("kit", kit.kit, "item-unknown", { code: kit.kit });
  else if (known.kind !== "kit") head("kit", kit.kit, "not-kit", { code: known.code });
  for (const content of kit.contents) {
    const report = reporter(content.row, problems);
    const item = checkContent("item", content.item, facts, report);
    const unit = item && facts.units.get(item.unit);
    if (unit) checkDecimals("quantity", content.quantity, unit, report);
    if (content.swap === "listed" && content.swaps.length === 0)
      report("swaps", "", "swaps-needed", { code: item?.code ?? content.item });
    if (content.swap !== "listed" && content.swaps.length > 0)
      report("swaps", content.swaps.join("; "), "swaps-not-listed");
    for (const [i, swap] of content.swaps.entries()) {
      const other = checkContent(`swaps.${i}`, swap, facts, report);
      if (other && item && other.unit !== item.unit)
        report(`swaps.${i}`, swap, "swap-unit", { code: other.code, unit: other.unit, wanted: item.unit });
    }
  }
  return problems;
}

function checkContent(field: string, code: string, facts: Facts, report: Report): KnownItem | undefined {
  const item = facts.items.get(codeKey(code));
  if (!item) report(field, code, "item-unknown", { code });
  else if (item.kind === "kit") report(field, code, "part-is-kit", { code: item.code });
  else if (item.kind === "service") report(field, code, "not-stocked", { code: item.code, kind: item.kind });
  else if (item.state === "archived") report(field, code, "archived", { code: item.code });
  else return item;
  return undefined;
}

/** What one supplier asks for an item. Quantities are in the item's stock unit. */
export interface SupplierRow {
  row: number;
  item: string;
  supplier: string;
  theirCode: string;
  price: Decimal | null;
  /** The unit or pack of the item that the price is for; "" for its stock unit. */
  pricePer: string;
  leadDays: number | null;
  minimum: Decimal | null;
  multiple: Decimal | null;
  web: string;
  preferred: boolean;
}

/** Checks what suppliers ask for items; `suppliers` by `codeKey` of their codes. */
export function checkSuppliers(
  rows: readonly SupplierRow[],
  facts: Facts,
  suppliers: ReadonlySet<string>,
): Checked<SupplierRow> {
  const preferred = new Map<string, number>();
  return checkEach(
    rows,
    "supplier",
    // Two codes stand apart by a character that neither of them can have.
    (row) => `${row.item}\n${row.supplier}`,
    (row, report) => {
      const item = facts.items.get(codeKey(row.item));
      const unit = item && facts.units.get(item.unit);
      if (!item) report("item", row.item, "item-unknown", { code: row.item });
      else if (item.kind === "kit") report("item", row.item, "kit-not-bought", { code: item.code });
      if (!suppliers.has(codeKey(row.supplier)))
        report("supplier", row.supplier, "supplier-unknown", { code: row.supplier });
      if (item && unit && pricedQuantity(row.pricePer, unit, facts.units.values(), item.packs) === null)
        report("pricePer", row.pricePer, "price-unit", { code: item.code, per: row.pricePer });
      for (const field of ["minimum", "multiple"] as const) {
        const quantity = row[field];
        if (unit && quantity) checkDecimals(field, quantity, unit, report);
      }
      const earlier = preferred.get(codeKey(row.item));
      if (row.preferred && earlier !== undefined)
        report("preferred", "yes", "preferred-twice", { row: earlier });
      else if (row.preferred) preferred.set(codeKey(row.item), row.row);
    },
  );
}
