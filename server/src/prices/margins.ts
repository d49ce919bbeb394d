import type { AnswerOf, routes } from "@yosegi/contract";
import {
  type Decimal,
  decimal,
  eachAt,
  isBelow,
  margin,
  priceForMargin,
  quantityFromScaled,
} from "@yosegi/core";
import { type PageQuery, pageOf, type Reading } from "../db/index.ts";
import { briefs, prices } from "../items/index.ts";
import { costsWithKits, kitPrice, loadKits } from "../kits/index.ts";
import { costRows } from "../lists/index.ts";

const WISH = decimal(30);

/** Products and kits whose margin at today's costs is below the wish, the worst first. */
export async function lowMargins(
  ctx: Reading,
  { wish: given, ...query }: PageQuery & { wish?: Decimal | undefined },
): Promise<AnswerOf<typeof routes.prices>> {
  const kept = ctx.company?.margin_wish ?? null;
  const wish = given !== undefined ? given : kept === null ? WISH : quantityFromScaled(kept);
  const sold = await ctx.sql.all<{ id: number }>(
    `SELECT i.id FROM item_head i JOIN item_price p ON p.item_id = i.id LEFT JOIN kit_head k ON k.item_id = i.id
      WHERE i.kind IN ('built', 'kit') AND i.state <> 'archived' AND (p.price IS NOT NULL OR k.price_rule = 'sum')
      ORDER BY i.code_key`,
  );
  const ids = sold.map((row) => row.id);
  const kits = await loadKits(ctx, ids);
  const contents = [...kits.values()].flatMap((kit) => kit.contents.map((c) => c.item));
  const listPrice = await prices(ctx, [...ids, ...contents]);
  const unitCost = await costsWithKits(ctx, await costRows(ctx, new Set(ids)), kits);
  const brief = await briefs(ctx, ids);
  const rows = ids.flatMap((id) => {
    const kit = kits.get(id);
    const cost = unitCost(id);
    const price = kit ? kitPrice(ctx, kit, listPrice(id), listPrice) : listPrice(id);
    if (cost === null || price === null) return [];
    const [each, sold] = [eachAt(cost), eachAt(price)];
    const has = margin(sold, each);
    if (!isBelow(has, wish)) return [];
    return [{ id, cost: each, price: sold, has, ownPrice: kit?.priceRule !== "sum" }];
  });
  rows.sort((a, b) => (a.has.percent ?? a.has.money).cmp(b.has.percent ?? b.has.money));
  const page = pageOf(rows, query, ({ id }) => `${brief(id).code} ${brief(id).name}`);
  return {
    ...page,
    wish: wish.toFixed(),
    rows: page.rows.map(({ id, cost, price, has, ownPrice }) => ({
      ...brief(id),
      unitCost: cost.toFixed(4),
      price: price.toFixed(ctx.currencyDecimals),
      margin: has.money.toFixed(4),
      percent: has.percent?.toFixed(1) ?? null,
      suggested: priceForMargin(cost, wish, ctx.currencyDecimals)?.toFixed(ctx.currencyDecimals) ?? null,
      ownPrice,
    })),
  };
}
