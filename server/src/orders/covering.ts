import { proposedCover, quantityToScaled, reasonNotSelectable } from "@yosegi/core";
import { linkedOf, linkFree, NOT_LINKED, trimLinks } from "../allocations/index.ts";
import type { Writing } from "../db/index.ts";
import { buildForLinks } from "./building.ts";
import type { CheckedLine } from "./lines.ts";
import { linesOf, type OrderTableRow } from "./rows.ts";

/**
 * Covers lines of built items by builds that are for them, as typed or as proposed; the rest is from stock. What is to be built
 * beyond what is linked comes of builds for nobody, else of an open draft or a new one. Gives the builds that were made or added to.
 */
export async function coverLines(
  ctx: Writing,
  order: OrderTableRow,
  lines: readonly (CheckedLine & { id: number })[],
): Promise<number[]> {
  const asked = lines.filter(({ toBuild, proposeBuild, sold }) => {
    const buildable = reasonNotSelectable("product", sold) === null;
    return buildable && (toBuild !== null || proposeBuild);
  });
  if (asked.length === 0) return [];
  const wanted = await wantedOf(ctx, order.id, asked);
  const before = await linkedOf(ctx, wanted.keys());
  // What was made for a line and left stays linked to it.
  const most = new Map(
    [...wanted].map(([line, toBuild]) => [line, toBuild + (before.get(line) ?? NOT_LINKED).shipped]),
  );
  await trimLinks(ctx, wanted.keys(), most);
  const builds: number[] = [];
  for (const { id: line, item } of asked) {
    const linked = (await linkedOf(ctx, [line])).get(line) ?? NOT_LINKED;
    let more = (wanted.get(line) ?? 0) - linked.left;
    for (const drafts of [false, true])
      if (more > 0) more -= await linkFree(ctx, [{ line, item, quantity: more, drafts }]);
    if (more > 0) builds.push(await buildForLinks(ctx, item, [{ line, quantity: more }], [order.due]));
  }
  return [...new Set(builds)];
}

/** How much of each line is to come from builds for it: as typed, else all where its item says so, else what nothing covers. */
async function wantedOf(
  ctx: Writing,
  order: number,
  asked: readonly (CheckedLine & { id: number })[],
): Promise<Map<number, number>> {
  const saved = new Map((await linesOf(ctx, [order])).map((line) => [line.id, line]));
  return new Map(
    asked.map(({ id, item, toBuild, sold }) => {
      if (toBuild !== null) return [id, quantityToScaled(toBuild)];
      const component = saved.get(id)?.components.find((own) => own.item === item);
      if (!component) return [id, 0];
      const made = component.builds.reduce((n, build) => n + build.made, 0);
      const ask = { open: component.open, made, shipped: component.shipped };
      return [id, proposedCover(ask, component, sold.alwaysBuild).toBuild];
    }),
  );
}
