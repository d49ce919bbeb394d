import type { Decimal } from "../amounts/index.ts";
import { checkDecimals, type Facts, type KnownItem } from "../items/index.ts";
import { codeKey } from "../keys.ts";
import { type Problem, type Report, reporter } from "../problems.ts";
import type { ContentRules, KitTerms } from "./kit.ts";

/** One content of a kit as typed or read. */
export interface ContentRow extends ContentRules {
  row: number;
  item: string;
  quantity: Decimal;
  swaps: readonly string[];
}

/** A kit as typed, or gathered from the rows of one. */
export interface KitDraft extends KitTerms {
  kit: string;
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
