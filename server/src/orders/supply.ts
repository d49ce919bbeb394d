import { PLAIN_BUILD } from "@yosegi/contract";
import { type Decimal, max, min, quantityFromScaled, quantityToOrder, sum, ZERO } from "@yosegi/core";
import { enlargeDraft, newBuild, plainDraft } from "../builds/index.ts";
import { buyDirect, buyNeeds, linkDraftLines } from "../buying/index.ts";
import { groupBy, type Writing } from "../db/index.ts";
import { openPromises, type Promises } from "../promises/index.ts";
import { buildFor } from "./building.ts";
import { type LineNeed, type MissingItem, missingToBuy, needsOfOrders } from "./needs.ts";
import { linesOf, orderById, refuseNotOpen } from "./rows.ts";

/** What was put on builds and purchase orders for an order. */
export interface Supplied {
  builds: number[];
  purchases: { id: number; number: string }[];
  /** Codes of what nobody supplies and no list makes. */
  unsupplied: string[];
}

/**
 * Puts all that an order lacks on builds and purchase orders: what is built on drafts linked to its lines, what is bought and the parts
 * that its builds lack on drafts to their suppliers, each net of stock, of what is on its way and of drafts (docs/rules.md § 4, § 11).
 * Pressed twice, nothing is doubled.
 */
export async function supplyOrder(ctx: Writing, id: number): Promise<Supplied> {
  const order = await orderById(ctx, id);
  refuseNotOpen(order);
  const { builds } = await buildFor(ctx, await linesOf(ctx, [id]), new Map([[id, order.due]]));
  const promises = await openPromises(ctx);
  const { buy, build } = needsOfOrders(promises, id);
  for (const [item, wanted] of groupBy(build, (need) => need.item)) {
    const onDrafts = sum(promises.factsOf(item).drafts.map((draft) => draft.quantity));
    const more = max(ZERO, sum(wanted.map((need) => need.quantity)).minus(onDrafts));
    if (more.gt(0)) builds.push(await buildFirst(ctx, item, more, wanted[0]?.needed ?? null));
  }
  const needed = await missingToBuy(ctx, promises, buy);
  const linked = needed.flatMap(({ item, onDrafts, needs }) =>
    forLines(needs, onDrafts).map((need) => ({ ...need, item })),
  );
  await linkDraftLines(ctx, linked);
  const missing = needed.filter((need) => need.quantity.gt(0));
  const supplied = (item: number) => promises.factsOf(item).offer !== null;
  return {
    builds: [...new Set(builds)],
    purchases: await buyFor(
      ctx,
      missing.filter((need) => supplied(need.item)),
      promises,
    ),
    unsupplied: missing.flatMap(({ item }) => (supplied(item) ? [] : promises.factsOf(item).brief.code)),
  };
}

/** Makes drafts to suppliers for the lines of an order that they deliver straight to the customer, and that no draft covers yet. */
export async function deliverBySupplier(ctx: Writing, id: number): Promise<Supplied["purchases"]> {
  const order = await orderById(ctx, id);
  refuseNotOpen(order);
  const needs = (await linesOf(ctx, [id])).flatMap(({ id: line, bySupplier, components }) =>
    bySupplier
      ? components.flatMap(({ item, missing, planned }) =>
          missing > planned ? [{ line, item, quantity: quantityFromScaled(missing - planned) }] : [],
        )
      : [],
  );
  if (needs.length === 0) return [];
  const firm = await ctx.sql.one<{ address: string }>("SELECT address FROM firm_head WHERE id = $id", {
    id: order.customer_id,
  });
  const deliverTo = `${order.name}\n${order.address || (firm?.address ?? "")}`.trim();
  return buyDirect(ctx, { id, deliverTo }, needs);
}

/** Builds a part that is built itself, on an open draft of it or a new one. */
async function buildFirst(ctx: Writing, product: number, more: Decimal, due: string | null): Promise<number> {
  const draft = await plainDraft(ctx, product);
  if (draft === null) return newBuild(ctx, { ...PLAIN_BUILD, product, quantity: more, due });
  await enlargeDraft(ctx, draft, { more, due });
  return draft;
}

/** Puts what lines need on drafts to the preferred suppliers, in their minimum and multiple. */
async function buyFor(
  ctx: Writing,
  missing: readonly MissingItem[],
  { factsOf }: Promises,
): Promise<Supplied["purchases"]> {
  if (missing.length === 0) return [];
  const lines = missing.map(({ item, quantity: least, needs }) => {
    const { offer, drafts } = factsOf(item);
    const onDrafts = sum(drafts.map((draft) => draft.quantity));
    const quantity = max(least, quantityToOrder(least.plus(onDrafts), offer, drafts));
    return {
      item,
      quantity,
      for: forLines(needs, least),
      supplier: null,
      price: null,
      pricePer: "",
      expected: null,
      costTag: "",
    };
  });
  return (await buyNeeds(ctx, lines)).map(({ id, number }) => ({ id, number }));
}

/** Shares so much out among the lines that need it, the last need first left without. */
export function forLines(needs: readonly LineNeed[], quantity: Decimal) {
  let left = quantity;
  return needs.flatMap((need) => {
    const own = min(left, need.quantity);
    left = left.minus(own);
    if (own.eq(0)) return [];
    return { build: null, product: need.product ?? need.item, orderLine: need.line, quantity: own };
  });
}
