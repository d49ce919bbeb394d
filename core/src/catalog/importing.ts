import { convertible, type Decimal, tooManyDecimals, type Unit } from "../amounts/index.ts";
import type { Problem, ProblemCode } from "../problems.ts";
import { codeKey, type ItemKind, type Tracking } from "./item.ts";
import { circle } from "./partslist.ts";

/** Units by their code, exactly as written: mL and ML are not the same to a chemist. */
export type Units = ReadonlyMap<string, Unit>;

/** A new item as it is typed or read from a row. `row` is its number in the file, or 0 for a form. */
export interface ItemRow {
  row: number;
  code: string;
  name: string;
  kind: ItemKind;
  unit: string;
  tracking: Tracking;
  /** Standard cost and price; null where not given. */
  cost: Decimal | null;
  price: Decimal | null;
  store: string;
  bin: string;
}

/** What later rows must know of an item, whether it is in the catalog or comes in the same import. */
export interface KnownItem {
  code: string;
  kind: ItemKind;
  tracking: Tracking;
  unit: string;
  cost: Decimal | null;
  /** Whether any movement of it is on the books. */
  hasStock: boolean;
  /** Keys of the parts on its list; null where it has no list. */
  parts: readonly string[] | null;
}

/** Known items by `codeKey`. */
export type KnownItems = ReadonlyMap<string, KnownItem>;

export type Report = (field: string, value: string, code: ProblemCode, params?: Problem["params"]) => void;

/** Collects the problems of one row; the row is good while there are none. */
export function reporter(row: number, problems: Problem[]): Report {
  return (field, value, code, params = {}) => problems.push({ row, field, value, code, params });
}

/** New items that may be made, and what is wrong with the others. */
export function checkItems(
  rows: readonly ItemRow[],
  known: KnownItems,
  units: Units,
): { good: ItemRow[]; problems: Problem[] } {
  const problems: Problem[] = [];
  const seen = new Map<string, number>();
  const good = rows.filter((row) => {
    const before = problems.length;
    const report = reporter(row.row, problems);
    const key = codeKey(row.code);
    const taken = known.get(key);
    const earlier = seen.get(key);
    if (taken) report("code", row.code, "code-taken", { code: taken.code });
    else if (earlier !== undefined) report("code", row.code, "code-repeated", { row: earlier });
    else seen.set(key, row.row);
    checkItem(row, units, report);
    return problems.length === before;
  });
  return { good, problems };
}

/** What must hold for an item by itself, new or changed. */
export function checkItem(row: Omit<ItemRow, "row" | "code">, units: Units, report: Report): void {
  const unit = units.get(row.unit);
  if (!unit) report("unit", row.unit, "unit-unknown", { units: [...units.keys()].join(", ") });
  if (row.kind === "service" && row.tracking !== "none")
    report("tracking", row.tracking, "service-no-tracking");
  else if (row.tracking === "serial" && unit && unit.decimals > 0)
    report("unit", row.unit, "serial-unit", { unit: unit.code });
  if (row.bin !== "" && row.store === "") report("bin", row.bin, "bin-without-store");
}

/** One line of a parts list as typed or read from a row; `row` is its number in the file or its index in the form. */
export interface PartRow {
  row: number;
  part: string;
  quantity: Decimal;
  unit: string;
  waste: Decimal;
  oncePerBuild: boolean;
}

/** A parts list as typed, or gathered from the rows of one product. */
export interface ListDraft {
  product: string;
  makes: Decimal;
  usual: Decimal;
  overhead: Decimal;
  lines: readonly PartRow[];
}

/** Checks the lines of one list against the catalog; problems carry each line's `row`. */
export function checkLines(
  list: Pick<ListDraft, "product" | "lines">,
  known: KnownItems,
  units: Units,
): Problem[] {
  const problems: Problem[] = [];
  const product = codeKey(list.product);
  for (const line of list.lines) {
    const report = reporter(line.row, problems);
    const part = known.get(codeKey(line.part));
    if (!part) report("part", line.part, "item-unknown", { code: line.part });
    else if (codeKey(line.part) === product)
      report("part", line.part, "part-is-product", { code: part.code });
    else {
      const path = circle(product, codeKey(line.part), (key) => known.get(key)?.parts ?? []);
      if (path)
        report("part", line.part, "parts-circle", {
          path: path.map((k) => known.get(k)?.code ?? k).join(" → "),
        });
    }
    const unit = units.get(line.unit);
    const stockUnit = part && units.get(part.unit);
    if (!unit) report("unit", line.unit, "unit-unknown", { units: [...units.keys()].join(", ") });
    else if (part && stockUnit && !convertible(unit, stockUnit))
      report("unit", line.unit, "unit-dimension", {
        unit: unit.code,
        part: part.code,
        stockUnit: stockUnit.code,
      });
    else checkDecimals("quantity", line.quantity, unit, report);
  }
  return problems;
}

/** A quantity may have no more decimals than its unit allows; it is never rounded instead. */
export function checkDecimals(field: string, quantity: Decimal, unit: Unit, report: Report): void {
  if (tooManyDecimals(quantity, unit) !== null)
    report(field, quantity.toFixed(), "decimals", { unit: unit.code, allowed: unit.decimals });
}

/** Checks what a list says of its product: that it is built, and its quantities in the product's unit. */
export function checkHead(
  list: Pick<ListDraft, "product" | "makes" | "usual">,
  known: KnownItems,
  units: Units,
  report: Report,
): void {
  const product = known.get(codeKey(list.product));
  const unit = product && units.get(product.unit);
  if (!product) report("product", list.product, "item-unknown", { code: list.product });
  else if (product.kind !== "built")
    report("product", list.product, "not-built", { code: product.code, kind: product.kind });
  else if (unit) {
    checkDecimals("makes", list.makes, unit, report);
    checkDecimals("usual", list.usual, unit, report);
  }
}

/** A row of a parts-lists file. What concerns the product stands on its first row and may be left out on the others. */
export interface ListRow extends PartRow {
  product: string;
  makes: Decimal | null;
  usual: Decimal | null;
  overhead: Decimal | null;
}

/**
 * Gathers rows into lists and checks each. A list with one wrong row is held back whole, for a list that misses a part
 * would make every later figure wrong.
 */
export function checkLists(
  rows: readonly ListRow[],
  broken: ReadonlySet<string>,
  known: KnownItems,
  units: Units,
  one: Decimal,
): { good: ListDraft[]; problems: Problem[] } {
  const byProduct = new Map<string, ListRow[]>();
  for (const row of rows) {
    const key = codeKey(row.product);
    byProduct.set(key, [...(byProduct.get(key) ?? []), row]);
  }
  const problems: Problem[] = [];
  const good: ListDraft[] = [];
  // Lists of the same file count for one another's circles, in the order of the file.
  const growing = new Map(known);
  for (const [key, lines] of byProduct) {
    const first = lines[0];
    if (!first) continue;
    const found: Problem[] = [];
    const report = reporter(first.row, found);
    const makes = first.makes ?? one;
    const draft = {
      product: first.product,
      makes,
      usual: first.usual ?? makes,
      overhead: first.overhead ?? one.minus(one),
      lines,
    };
    checkHead(draft, growing, units, report);
    if (growing.get(key)?.parts) report("product", first.product, "list-exists", { code: first.product });
    for (const line of lines.slice(1)) checkSame(first, line, found);
    found.push(...checkLines(draft, growing, units));
    if (found.length === 0 && broken.has(key))
      report("product", first.product, "list-held", { code: first.product });
    problems.push(...found);
    const product = growing.get(key);
    if (found.length > 0 || !product) continue;
    good.push(draft);
    growing.set(key, { ...product, parts: lines.map((line) => codeKey(line.part)) });
  }
  return { good, problems };
}

function checkSame(first: ListRow, line: ListRow, problems: Problem[]): void {
  const report = reporter(line.row, problems);
  for (const field of ["makes", "usual", "overhead"] as const) {
    const here = line[field];
    const there = first[field];
    if (here !== null && (there === null || !here.eq(there)))
      report(field, here.toFixed(), "list-differs", { row: first.row, value: there?.toFixed() ?? "" });
  }
}
