import type { ReplacementPreview } from "@yosegi/contract";
import { type Day, type FullLine, listCost, withOptions } from "@yosegi/core";
import { asJson, type Reading } from "../db/index.ts";
import { briefs } from "../items/index.ts";
import type { StoredKit } from "../kits/index.ts";
import { currentCosts, type FullList } from "../lists/index.ts";
import { planReplacement, type ReplacementBody } from "./plan.ts";

/** What replacing a part by its successor would change in every list in force and every kit. */
export async function previewReplacement(ctx: Reading, body: ReplacementBody): Promise<ReplacementPreview> {
  const { lists, kits, replacement } = await planReplacement(ctx, body);
  const items = [...lists.flatMap((l) => [...l.before.lines, ...l.after.lines].map((line) => line.item))];
  const others = kits.flatMap((k) => [...k.before.contents, ...k.after.contents].map((c) => c.item));
  const unitCost = await currentCosts(ctx, items);
  const brief = await briefs(ctx, [
    ...items,
    ...others,
    ...lists.map((l) => l.product),
    ...kits.map((k) => k.kit),
    replacement.part,
    replacement.successor,
  ]);
  const pending = await pendingRevisions(
    ctx,
    lists.map((l) => l.list),
  );
  const cost = (list: FullList) =>
    listCost(withOptions(list, new Set()), list.usual, unitCost).each.toFixed(4);
  const words = (lines: readonly FullLine[]) =>
    lines.map((line) => `${line.quantity.toFixed()} ${line.unit.code} ${brief(line.item).code}`);
  return {
    lists: lists.map(({ list, product, name, before, after, problem }) => {
      const changed = before.lines.map((line, i) => line !== after.lines[i]);
      const there = before.lines.some((line) => line.item === replacement.successor);
      return {
        list,
        product: brief(product),
        name,
        before: words(before.lines.filter((_, i) => changed[i])),
        after: words(after.lines.filter((_, i) => changed[i])),
        costBefore: cost(before),
        costAfter: cost(after),
        problem,
        warning: warningOf(brief(replacement.successor).code, there, pending.get(list)),
      };
    }),
    kits: kits.map(({ kit, before, after, problem }) => ({
      kit: brief(kit),
      before: kitWords(before, after, brief),
      after: kitWords(after, before, brief),
      problem,
    })),
  };
}

/** What is worth knowing before a part is replaced on a list; null where nothing is. */
function warningOf(
  successor: string,
  there: boolean,
  pending: { number: number; day: Day } | undefined,
): string | null {
  const words = [
    there && `${successor} is on this list already.`,
    pending &&
      `Revision ${pending.number}, locked for ${pending.day}, will never be used: the new one comes after it.`,
  ].filter((word) => word !== undefined && word !== false);
  return words.length === 0 ? null : words.join(" ");
}

/** Revisions that were locked for a day to come, by list; the last one of each. */
async function pendingRevisions(
  ctx: Reading,
  lists: readonly number[],
): Promise<Map<number, { number: number; day: Day }>> {
  const rows = await ctx.sql.all<{ list: number; number: number; day: Day }>(
    `SELECT r.list_id AS list, r.number, r.starts_on AS day FROM json_each($ids) ids JOIN revision r ON r.list_id = ids.value
      WHERE r.state = 'locked' AND r.starts = 'day' AND r.starts_on > $today ORDER BY r.number`,
    { ids: asJson(lists), today: ctx.today },
  );
  return new Map(rows.map(({ list, ...pending }) => [list, pending]));
}

function kitWords(kit: StoredKit, other: StoredKit, brief: (item: number) => { code: string; unit: string }) {
  return kit.contents
    .filter((content, i) => content !== other.contents[i])
    .map(({ item, quantity }) => `${quantity.toFixed()} ${brief(item).unit} ${brief(item).code}`);
}
