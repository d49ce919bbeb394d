import { convertible, type Decimal } from "../amounts/index.ts";
import { checkDecimals, type DrawnAt, type Facts, type KnownItem } from "../items/index.ts";
import { codeKey } from "../keys.ts";
import { type Problem, type Report, reporter } from "../problems.ts";
import { findCycle } from "./partslist.ts";

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
