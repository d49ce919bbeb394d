import { standingsOf } from "../allocations/index.ts";
import { asJson, type Reading } from "../db/index.ts";

/** An order that has less than before. */
export interface TakenFrom {
  id: number;
  number: string;
  customer: string;
}

/** What is there or coming for each line of open orders, of the items named. */
async function servedOf(ctx: Reading, items: readonly number[]): Promise<Map<number, number>> {
  const served = new Map<number, number>();
  for (const { line, ready, coming } of await standingsOf(ctx, items))
    served.set(line, (served.get(line) ?? 0) + ready + coming);
  return served;
}

/**
 * Writes what an order asks for of items, and says which other open orders have less for it: an earlier day goes before a
 * later one (docs/rules.md § 11).
 */
export async function takingFrom(
  ctx: Reading,
  items: readonly number[],
  order: () => Promise<number>,
): Promise<{ id: number; takesFrom: TakenFrom[] }> {
  const before = await servedOf(ctx, items);
  const id = await order();
  const after = await servedOf(ctx, items);
  const less = [...before].filter(([line, served]) => (after.get(line) ?? 0) < served).map(([line]) => line);
  const takesFrom = await ctx.sql.all<TakenFrom>(
    `SELECT DISTINCT order_id AS id, number, customer_name AS customer FROM order_demand
      WHERE line_id IN (SELECT value FROM json_each($less)) AND order_id <> $id AND open > 0 ORDER BY order_id`,
    { less: asJson(less), id },
  );
  return { id, takesFrom };
}
