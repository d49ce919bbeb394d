import type { AnswerOf, ParsedBody, routes } from "@yosegi/contract";
import { compareDays, type Day, quantityFromScaled } from "@yosegi/core";
import { linkedBuilds, ordersOf } from "../allocations/index.ts";
import { buildById, cancelBuild, followPlan } from "../builds/index.ts";
import { groupBy, type Reading, type Writing } from "../db/index.ts";
import { itemById } from "../items/index.ts";
import { orderById, orderedLines, refuseNotOpen } from "./rows.ts";

type Offers = AnswerOf<typeof routes.newOrder>["offers"];

/** A build that lines of an order have units of. */
export type LinkedBuild = Awaited<ReturnType<typeof linkedBuilds>>[number];

/** The builds that are for an order. */
export async function buildsOfOrder(ctx: Reading, id: number): Promise<LinkedBuild[]> {
  const lines = await orderedLines(ctx, [id]);
  return linkedBuilds(
    ctx,
    lines.map((line) => line.id),
  );
}

/**
 * How builds could follow a change of their order: a draft makes fewer where lines no longer ask for them, and a draft or queued build
 * is due with the earliest that it is for. What is on the bench is not offered. `written` are builds that were changed with the order.
 */
export async function offersOf(
  ctx: Reading,
  id: number,
  before: readonly LinkedBuild[],
  written: readonly number[],
): Promise<Offers> {
  const after = groupBy(await buildsOfOrder(ctx, id), (link) => link.id);
  const open = [...groupBy(before, (link) => link.id)].filter(([build]) => !written.includes(build));
  const due = await ordersOf(
    ctx,
    open.map(([build]) => build),
  );
  const offers: Offers = [];
  for (const [build, links] of open) {
    const [first] = links;
    if (!first || (first.stage !== "draft" && first.stage !== "queued")) continue;
    const row = await buildById(ctx, build);
    const freed = linkedIn(links) - linkedIn(after.get(build) ?? []);
    const { unit } = await itemById(ctx, row.product_id);
    const wanted = quantityFromScaled(row.wanted);
    const quantity =
      first.stage === "draft" && freed > 0
        ? { from: wanted.toFixed(), to: wanted.minus(quantityFromScaled(freed)).toFixed(), unit }
        : null;
    const dueDay = dueOffer(
      row.due,
      due(build).map((order) => order.due),
    );
    if (quantity || dueDay)
      offers.push({ id: build, number: row.number, stage: first.stage, quantity, due: dueDay });
  }
  return offers;
}

const linkedIn = (links: readonly LinkedBuild[]): number => links.reduce((n, link) => n + link.linked, 0);

/** The earliest day that a build is for, where it is due on another. */
function dueOffer(from: Day | null, days: readonly (Day | null)[]): Offers[number]["due"] {
  const [to] = [...days].sort(compareDays);
  return to === undefined || to === null || to === from ? null : { from, to };
}

/** Changes a build as a change of its order offered; one of which nothing is asked any more is cancelled. */
export async function followOrder(
  ctx: Writing,
  id: number,
  build: number,
  { quantity, due }: ParsedBody<typeof routes.followOrder>,
): Promise<void> {
  refuseNotOpen(await orderById(ctx, id));
  if (quantity?.eq(0)) await cancelBuild(ctx, build);
  else await followPlan(ctx, build, { quantity, due });
}
