import { type Decimal, decimal, ONE, ZERO } from "../amounts/index.ts";
import type { Problem } from "../problems.ts";
import {
  type ContentRow,
  checkHead,
  checkKit,
  checkLines,
  type Facts,
  type KitDraft,
  type ListDraft,
  type PartRow,
  type PriceRule,
  reporter,
} from "./checking.ts";
import { codeKey } from "./item.ts";

const HUNDRED = decimal(100);

/** What concerns the product stands on its first row and may be left out (null) on the others. */
const LIST_HEAD = ["makes", "usual", "overhead", "extra", "yield"] as const;

/** A row of a parts-lists file. */
export interface ListRow extends PartRow, Record<(typeof LIST_HEAD)[number], Decimal | null> {
  product: string;
  /** Name of the list among the product's; "" for its main list. */
  list: string;
}

/** A list read from a file, with its name and the row it begins at. */
export interface FileList extends ListDraft {
  list: string;
  row: number;
}

/**
 * Gathers rows into lists and checks each. A list with one wrong row is held back whole, for a list that misses a part
 * would make every later figure wrong. `broken` has the keys of lists with rows that could not even be read.
 */
export function checkLists(
  rows: readonly ListRow[],
  broken: ReadonlySet<string>,
  facts: Facts,
): { good: FileList[]; problems: Problem[] } {
  const problems: Problem[] = [];
  const good: FileList[] = [];
  // Lists of the same file count for one another's circles, in the order of the file.
  const growing = new Map(facts.items);
  for (const [key, lines] of gather(rows, (row) => listKey(row.product, row.list))) {
    const [first] = lines;
    if (!first) continue;
    const found: Problem[] = [];
    const makes = first.makes ?? ONE;
    const draft: FileList = {
      product: first.product,
      list: first.list,
      row: first.row,
      makes,
      usual: first.usual ?? makes,
      overhead: first.overhead ?? ZERO,
      extra: first.extra ?? ZERO,
      yield: first.yield ?? HUNDRED,
      lines,
    };
    const now = { ...facts, items: growing };
    checkHead(draft, now, reporter(first.row, found));
    for (const line of lines.slice(1)) checkSame(first, line, LIST_HEAD, found);
    found.push(...checkLines(draft, now));
    if (found.length === 0 && broken.has(key))
      reporter(first.row, found)("product", first.product, "list-held", { code: first.product });
    problems.push(...found);
    const product = growing.get(codeKey(first.product));
    if (found.length > 0 || !product) continue;
    good.push(draft);
    const parts = lines.flatMap((l) => [l.part, ...l.substitutes.map((s) => s.item)]).map(codeKey);
    growing.set(codeKey(first.product), { ...product, parts: [...(product.parts ?? []), ...parts] });
  }
  return { good, problems };
}

/** What makes two rows rows of the same list. */
export const listKey = (product: string, list: string): string => `${codeKey(product)}\n${codeKey(list)}`;

const KIT_HEAD = ["contentsShown", "mayBeAddedTo", "priceRule", "discount"] as const;

/** A row of a kits file. */
export interface KitRow extends ContentRow {
  kit: string;
  contentsShown: boolean | null;
  mayBeAddedTo: boolean | null;
  priceRule: PriceRule | null;
  discount: Decimal | null;
}

/** A kit read from a file, with the row it begins at. */
export interface FileKit extends KitDraft {
  row: number;
}

/** Gathers rows into kits and checks each; a kit with one wrong row is held back whole. */
export function checkKits(
  rows: readonly KitRow[],
  broken: ReadonlySet<string>,
  facts: Facts,
): { good: FileKit[]; problems: Problem[] } {
  const problems: Problem[] = [];
  const good: FileKit[] = [];
  for (const [key, contents] of gather(rows, (row) => codeKey(row.kit))) {
    const [first] = contents;
    if (!first) continue;
    const draft: FileKit = {
      kit: first.kit,
      row: first.row,
      contentsShown: first.contentsShown ?? true,
      mayBeAddedTo: first.mayBeAddedTo ?? false,
      priceRule: first.priceRule ?? "own",
      discount: first.discount ?? ZERO,
      contents,
    };
    const found = checkKit(draft, first.row, facts);
    for (const row of contents.slice(1)) checkSame(first, row, KIT_HEAD, found);
    if (found.length === 0 && broken.has(key))
      reporter(first.row, found)("kit", first.kit, "list-held", { code: first.kit });
    problems.push(...found);
    if (found.length === 0) good.push(draft);
  }
  return { good, problems };
}

function gather<Row>(rows: readonly Row[], keyOf: (row: Row) => string): Map<string, Row[]> {
  const groups = new Map<string, Row[]>();
  for (const row of rows) {
    const group = groups.get(keyOf(row));
    if (group) group.push(row);
    else groups.set(keyOf(row), [row]);
  }
  return groups;
}

/** What concerns the whole may be told on every row, but not in two ways. */
function checkSame<Field extends string>(
  first: { row: number } & { [Name in Field]: Decimal | string | boolean | null },
  other: { row: number } & { [Name in Field]: Decimal | string | boolean | null },
  fields: readonly Field[],
  problems: Problem[],
): void {
  for (const field of fields) {
    if (other[field] === null) continue;
    const [here, there] = [text(other[field]), text(first[field])];
    if (here !== there)
      reporter(other.row, problems)(field, here, "list-differs", { row: first.row, value: there });
  }
}

function text(value: Decimal | string | boolean | null): string {
  if (value === null) return "";
  if (typeof value === "boolean") return value ? "yes" : "no";
  return typeof value === "string" ? value : value.toFixed();
}
