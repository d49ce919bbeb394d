import { PLAIN_BUILD } from "@yosegi/contract";
import {
  type Decimal,
  max,
  min,
  needsOfComponent,
  quantityFromScaled,
  quantityToOrder,
  sum,
  type ToBuy,
  ZERO,
} from "@yosegi/core";
import { enlargeDraft, newBuild, plainDraft } from "../builds/index.ts";
import { buyNeeds } from "../buying/index.ts";
import { asJson, groupBy, type Reading, type Writing } from "../db/index.ts";
import { openPromises, type Promises } from "../promises/index.ts";
import { buildFor } from "./building.ts";
import { linesOf, orderById, refuseEnded } from "./rows.ts";

/** What was put on builds and purchase orders for an order. */
export interface Supplied {
  builds: number[];
  purchases: { id: number; number: string }[];
  /** Codes of what nobody supplies and no list makes. */
  unsupplied: string[];
}

/** A thing to buy for a line of an order. */
interface LineNeed extends ToBuy {
  line: number;
}

/**
 * Puts all that an order lacks on builds and purchase orders: what is built on drafts linked to its lines, what is bought and the parts
 * that its builds lack on drafts to their suppliers, each net of stock, of what is on its way and of drafts (docs/rules.md § 4, § 11).
 * Pressed twice, nothing is doubled.
 */
export async function supplyOrder(ctx: Writing, id: number): Promise<Supplied> {
  const order = await orderById(ctx, id);
  refuseEnded(order);
  const { builds } = await buildFor(ctx, await linesOf(ctx, [id]), new Map([[id, order.due]]));
  const promises = await openPromises(ctx);
  const own = promises.promises.filter((_, i) => promises.lines[i]?.order.order === id);
  const needs = own.flatMap(({ line, components }) =>
    components.map((component) => {
      const { buy, build } = needsOfComponent(component);
      return { buy: buy.map((need): LineNeed => ({ ...need, line })), build };
    }),
  );
  const first = needs.flatMap((need) => need.build);
  for (const [item, wanted] of groupBy(first, (need) => need.item)) {
    const drafts = promises.factsOf(item).drafts;
    const more = max(
      ZERO,
      sum(wanted.map((need) => need.quantity)).minus(sum(drafts.map((draft) => draft.quantity))),
    );
    if (more.gt(0)) builds.push(await buildFirst(ctx, item, more, wanted[0]?.needed ?? null));
  }
  const buys = needs.flatMap((need) => need.buy);
  const suppliedOf = (item: number) => promises.factsOf(item).offer !== null;
  const purchases = await buyFor(
    ctx,
    buys.filter((need) => suppliedOf(need.item)),
    promises,
  );
  const unsupplied = buys.filter((need) => !suppliedOf(need.item));
  return {
    builds: [...new Set(builds)],
    purchases,
    unsupplied: [...new Set(unsupplied.map((need) => promises.factsOf(need.item).brief.code))],
  };
}

/** Builds a part that is built itself, on an open draft of it or a new one. */
async function buildFirst(ctx: Writing, product: number, more: Decimal, due: string | null): Promise<number> {
  const draft = await plainDraft(ctx, product);
  if (draft === null) return newBuild(ctx, { ...PLAIN_BUILD, product, quantity: more, due });
  await enlargeDraft(ctx, draft, { more, due });
  return draft;
}

/** Puts what lines need on drafts to the preferred suppliers, in their minimum and multiple; what is on drafts for them already is not ordered again. */
async function buyFor(
  ctx: Writing,
  needs: readonly LineNeed[],
  { factsOf }: Promises,
): Promise<Supplied["purchases"]> {
  const ordered = await orderedOnDrafts(
    ctx,
    needs.map((need) => need.line),
  );
  const wanted = [...groupBy(needs, (need) => need.item)].flatMap(([item, own]) => {
    const { offer, drafts } = factsOf(item);
    const onDrafts = sum(drafts.map((draft) => draft.quantity));
    const linked = ordered.get(item) ?? { own: ZERO, all: ZERO };
    // What is on drafts for nobody's order serves this one too.
    const served = linked.own.plus(max(ZERO, onDrafts.minus(linked.all)));
    const missing = max(ZERO, sum(own.map((need) => need.quantity)).minus(served));
    if (missing.eq(0)) return [];
    const quantity = quantityToOrder(missing.plus(onDrafts), offer, drafts);
    return { item, quantity: quantity.gt(0) ? quantity : missing, for: forLines(own, missing) };
  });
  if (wanted.length === 0) return [];
  const lines = wanted.map((need) => ({
    ...need,
    supplier: null,
    price: null,
    pricePer: "",
    expected: null,
    costTag: "",
  }));
  return (await buyNeeds(ctx, lines)).map(({ id, number }) => ({ id, number }));
}

/** Shares so much out among the lines that need it, the last need first left without. */
function forLines(needs: readonly LineNeed[], quantity: Decimal) {
  let left = quantity;
  return needs.flatMap((need) => {
    const own = min(left, need.quantity);
    left = left.minus(own);
    if (own.eq(0)) return [];
    return { build: null, product: need.product ?? need.item, orderLine: need.line, quantity: own };
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
