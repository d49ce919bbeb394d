import { ZERO } from "../amounts/index.ts";
import type { Facts } from "../items/index.ts";
import { codeKey } from "../keys.ts";
import { type ContentRow, checkKit, type KitDraft, type KitTerms } from "../kits/index.ts";
import { type Problem, reporter } from "../problems.ts";
import { checkSame, gather } from "./gathering.ts";

const KIT_HEAD = ["contentsShown", "mayBeAddedTo", "priceRule", "discount"] as const;

/** A row of a kits file; the terms of the kit may stand on its first row only. */
export type KitRow = ContentRow & { kit: string } & { [Term in keyof KitTerms]: KitTerms[Term] | null };

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
