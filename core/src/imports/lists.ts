import { type Decimal, HUNDRED, ONE, ZERO } from "../amounts/index.ts";
import type { Facts } from "../items/index.ts";
import { codeKey } from "../keys.ts";
import { checkHead, checkLines, type ListDraft, type PartRow } from "../lists/index.ts";
import { type Problem, reporter } from "../problems.ts";
import { checkSame, gather } from "./gathering.ts";

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
