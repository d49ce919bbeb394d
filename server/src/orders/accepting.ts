import { type AnswerOf, type ParsedBody, PLAIN_BUILD, type routes } from "@yosegi/contract";
import {
  compareTurns,
  type Day,
  type Decimal,
  max,
  min,
  type OrderTurn,
  quantityFromScaled,
  quantityToScaled,
  ZERO,
} from "@yosegi/core";
import { enlargeDraft, newBuild } from "../builds/index.ts";
import { buyNeeds } from "../buying/index.ts";
import { asJson, groupBy, type Reading, type Writing } from "../db/index.ts";
import { openPromises } from "../promises/index.ts";
import { buildForLinks, missingProducts } from "./building.ts";
import { type LineNeed, needsOfOrders } from "./needs.ts";
import type { OrderTableRow } from "./rows.ts";
import { forLines } from "./supply.ts";

/** What was accepted: builds by id, and drafts of purchase orders. */
export interface Accepted {
  builds: number[];
  purchases: AnswerOf<typeof routes.acceptSuggestions>["purchases"];
}

/**
 * Puts suggestions of the reorder view on drafts, linked to the open orders that lack what they bring, in their turn; what is beyond
 * that is for stock.
 */
export async function acceptSuggestions(
  ctx: Writing,
  { buy, build }: ParsedBody<typeof routes.acceptSuggestions>,
): Promise<Accepted> {
  const missing = await missingProducts(ctx);
  const inTurn = missing.sort((a, b) => compareTurns(turnOf(a.order), turnOf(b.order)));
  const lacking = groupBy(inTurn, ({ item }) => item.id);
  const builds: number[] = [];
  for (const { item, quantity, day } of build)
    builds.push(await acceptBuild(ctx, { item, quantity, day }, lacking.get(item) ?? []));
  if (buy.length === 0) return { builds, purchases: [] };
  const needs = groupBy(await unlinkedNeeds(ctx), (need) => need.item);
  const lines = buy.map((line) => ({ ...line, for: forLines(needs.get(line.item) ?? [], line.quantity) }));
  return { builds, purchases: (await buyNeeds(ctx, lines)).map(({ id, number }) => ({ id, number })) };
}

const turnOf = ({ id, due, precedence }: OrderTableRow): OrderTurn => ({ order: id, due, precedence });

/** Builds so many of a product: for the lines that lack it, in their turn, the rest to stock. Gives the draft. */
async function acceptBuild(
  ctx: Writing,
  { item, quantity, day }: { item: number; quantity: Decimal; day: Day | null },
  lacking: Awaited<ReturnType<typeof missingProducts>>,
): Promise<number> {
  let left = quantity;
  const served = lacking.flatMap(({ line, missing, order }) => {
    const own = min(left, missing);
    left = left.minus(own);
    return own.gt(0) ? [{ line, quantity: quantityToScaled(own), due: order.due }] : [];
  });
  if (served.length === 0) return newBuild(ctx, { ...PLAIN_BUILD, product: item, quantity, due: day });
  const draft = await buildForLinks(
    ctx,
    item,
    served.map(({ line, quantity: own }) => ({ line, quantity: own })),
    served.map(({ due }) => due),
  );
  if (left.gt(0)) await enlargeDraft(ctx, draft, { more: left, due: day });
  return draft;
}

/** What open orders need to be bought, in their turn, beyond what is on drafts for their lines already. */
async function unlinkedNeeds(ctx: Reading): Promise<LineNeed[]> {
  const { buy } = needsOfOrders(await openPromises(ctx), null);
  const rows = await ctx.sql.all<{ line: number; item: number; quantity: number }>(
    `SELECT line_id AS line, item_id AS item, SUM(quantity) AS quantity FROM ordered_for_line
      WHERE stage = 'draft' AND line_id IN (SELECT value FROM json_each($lines)) GROUP BY 1, 2`,
    { lines: asJson(new Set(buy.map((need) => need.line))) },
  );
  const linked = new Map(rows.map((row) => [`${row.line} ${row.item}`, quantityFromScaled(row.quantity)]));
  return buy.map((need) => {
    const key = `${need.line} ${need.item}`;
    const there = min(need.quantity, linked.get(key) ?? ZERO);
    linked.set(key, max(ZERO, (linked.get(key) ?? ZERO).minus(there)));
    return { ...need, quantity: need.quantity.minus(there) };
  });
}
