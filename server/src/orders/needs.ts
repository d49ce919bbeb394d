import {
  type Decimal,
  max,
  min,
  needsOfComponent,
  quantityFromScaled,
  sum,
  type ToBuildFirst,
  type ToBuy,
  ZERO,
} from "@yosegi/core";
import { asJson, groupBy, type Reading } from "../db/index.ts";
import type { Promises } from "../promises/index.ts";

/** A thing to buy for a line of an order. */
export interface LineNeed extends ToBuy {
  line: number;
}

/** What of an item is to be bought for an order, and the needs of its lines that it is for. */
export interface MissingItem {
  item: number;
  /** What no draft covers; may be zero. */
  quantity: Decimal;
  /** What drafts cover that are for no order. */
  onDrafts: Decimal;
  needs: LineNeed[];
}

/** All that is to be bought, or built first, so that an order can leave, or all of them (null); what lines are built of is not among it. */
export function needsOfOrders(
  { lines, promises }: Promises,
  id: number | null,
): { buy: LineNeed[]; build: ToBuildFirst[] } {
  const own = promises.filter((_, i) => id === null || lines[i]?.order.order === id);
  const needs = own.flatMap(({ line, components }) =>
    components.map((component) => ({ line, ...needsOfComponent(component) })),
  );
  return {
    buy: needs.flatMap(({ line, buy }) => buy.map((need) => ({ ...need, line }))),
    build: needs.flatMap(({ build }) => build),
  };
}

/** What of these needs is on no draft for their lines: a draft for a line serves that line, one for no order serves any. */
export async function missingToBuy(
  ctx: Reading,
  { factsOf }: Promises,
  needs: readonly LineNeed[],
): Promise<MissingItem[]> {
  if (needs.length === 0) return [];
  const ordered = await orderedOnDrafts(
    ctx,
    needs.map((need) => need.line),
  );
  return [...groupBy(needs, (need) => need.item)].flatMap(([item, own]) => {
    const onDrafts = sum(factsOf(item).drafts.map((draft) => draft.quantity));
    const linked = ordered.get(item) ?? { own: ZERO, all: ZERO };
    const needed = max(ZERO, sum(own.map((need) => need.quantity)).minus(linked.own));
    const served = min(needed, max(ZERO, onDrafts.minus(linked.all)));
    return needed.eq(0) ? [] : { item, quantity: needed.minus(served), onDrafts: served, needs: own };
  });
}

/** What is on drafts for lines of orders, of each item: for those named, and for all. */
async function orderedOnDrafts(
  ctx: Reading,
  lines: readonly number[],
): Promise<Map<number, { own: Decimal; all: Decimal }>> {
  const rows = await ctx.sql.all<{ item: number; own: number; quantity: number }>(
    `SELECT item_id AS item, SUM(quantity) AS quantity,
            SUM(CASE WHEN line_id IN (SELECT value FROM json_each($lines)) THEN quantity ELSE 0 END) AS own
       FROM ordered_for_line WHERE stage = 'draft' GROUP BY item_id`,
    { lines: asJson(new Set(lines)) },
  );
  return new Map(
    rows.map(({ item, own, quantity }) => [
      item,
      { own: quantityFromScaled(own), all: quantityFromScaled(quantity) },
    ]),
  );
}
