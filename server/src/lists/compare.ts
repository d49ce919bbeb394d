import { type ComparisonAnswer, Refusal } from "@yosegi/contract";
import { compareRevisions, type FullLine } from "@yosegi/core";
import type { Reading } from "../db/index.ts";
import { briefs } from "../items/index.ts";
import { lineAnswers, listAnswer } from "./answer.ts";
import { currentCosts } from "./costs.ts";
import { loadRevisions } from "./lists.ts";
import { revisionById } from "./locking.ts";

/** What changed from `other` to a revision of the same product, with the effect on cost as it is today. */
export async function compare(ctx: Reading, id: number, other: number): Promise<ComparisonAnswer> {
  const [to, from] = [await revisionById(ctx, id), await revisionById(ctx, other)];
  if (to.product !== from.product) throw new Refusal("not-found", { what: "revision", id: other });
  const lists = await loadRevisions(ctx, [id, other]);
  const [before, after] = [lists.get(other), lists.get(id)];
  if (!before || !after) throw new Refusal("not-found", { what: "revision", id });
  const items = [...before.lines, ...after.lines].map((line) => line.item);
  const unitCost = await currentCosts(ctx, items);
  const brief = await briefs(ctx, items);
  const found = compareRevisions(before, after, unitCost);
  const answers = async (lines: (FullLine | null)[]) => {
    const answers = await lineAnswers(
      ctx,
      lines.filter((line) => line !== null),
      unitCost,
    );
    return lines.map((line) => (line === null ? null : (answers.shift() ?? null)));
  };
  const [olds, news] = [
    await answers(found.lines.map((line) => line.before)),
    await answers(found.lines.map((line) => line.after)),
  ];
  return {
    before: await listAnswer(ctx, other),
    after: await listAnswer(ctx, id),
    head: found.head,
    instructions: before.instructions !== after.instructions,
    lines: found.lines.map((line, i) => ({
      part: brief(line.item),
      before: olds[i] ?? null,
      after: news[i] ?? null,
      fields: line.fields,
      costBefore: line.costBefore?.toFixed(4) ?? null,
      costAfter: line.costAfter?.toFixed(4) ?? null,
    })),
  };
}
