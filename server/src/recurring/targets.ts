import type { AnswerOf, ParsedBody, routes, StockTargetRow } from "@yosegi/contract";
import { free, quantityFromScaled, quantityToScaled, toBuildForTarget } from "@yosegi/core";
import { checkQuantity } from "../builds/index.ts";
import type { Reading, Writing } from "../db/index.ts";
import { briefs } from "../items/index.ts";
import { stockFigures } from "../ledger/index.ts";
import { buildable } from "./buildable.ts";
import { recurringBuilds } from "./recurring.ts";
import { STOCK_TARGET } from "./tables.ts";

export async function recurring(ctx: Reading): Promise<AnswerOf<typeof routes.recurring>> {
  return { targets: await stockTargets(ctx), recurring: await recurringBuilds(ctx) };
}

/** What is kept in stock, with what is to be built of it now; what is short first. */
export async function stockTargets(ctx: Reading): Promise<StockTargetRow[]> {
  const rows = await ctx.sql.all<{
    product: number;
    version: number;
    target: number;
    batch: number;
    coming: number;
    planned: number;
  }>(
    `SELECT k.product_id AS product, k.version, k.target AS target, k.batch, COALESCE(r.coming, 0) AS coming, COALESCE(r.planned, 0) AS planned
       FROM stock_target k JOIN item_head i ON i.id = k.product_id
       LEFT JOIN (SELECT product_id, SUM(CASE stage WHEN 'draft' THEN 0 ELSE to_come END) AS coming,
                         SUM(CASE stage WHEN 'draft' THEN to_come ELSE 0 END) AS planned
                    FROM build_rest WHERE product_id IN (SELECT product_id FROM stock_target) GROUP BY product_id) r
              ON r.product_id = k.product_id
      ORDER BY i.code_key`,
  );
  const items = rows.map((row) => row.product);
  const brief = await briefs(ctx, items);
  const stock = await stockFigures(ctx, items);
  const rules = rows.map((row): StockTargetRow => {
    const [target, batch] = [quantityFromScaled(row.target), quantityFromScaled(row.batch)];
    const there = free(stock(row.product));
    const [coming, planned] = [quantityFromScaled(row.coming), quantityFromScaled(row.planned)];
    return {
      version: row.version,
      product: brief(row.product),
      target: target.toFixed(),
      batch: batch.toFixed(),
      free: there.toFixed(),
      coming: coming.toFixed(),
      planned: planned.toFixed(),
      toBuild: toBuildForTarget({ target, batch }, there, coming, planned).toFixed(),
    };
  });
  return rules.sort((a, b) => Number(a.toBuild === "0") - Number(b.toBuild === "0"));
}

export async function setStockTarget(
  ctx: Writing,
  { product: id, target, batch }: ParsedBody<typeof routes.setStockTarget>,
): Promise<void> {
  const product = await buildable(ctx, id);
  await checkQuantity(ctx, product, target, "target");
  await checkQuantity(ctx, product, batch, "batch");
  await ctx.sql.insert(
    STOCK_TARGET,
    [
      {
        product_id: id,
        target: quantityToScaled(target),
        batch: quantityToScaled(batch),
        created_by: ctx.person.id,
        created_at: ctx.moment,
      },
    ],
    "ON CONFLICT (product_id) DO UPDATE SET target = excluded.target, batch = excluded.batch",
  );
}

export async function removeStockTarget(ctx: Writing, id: number): Promise<void> {
  await ctx.model(STOCK_TARGET).destroy({ where: { product_id: id } });
}
