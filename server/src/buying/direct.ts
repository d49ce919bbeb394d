import type { Decimal } from "@yosegi/core";
import { groupBy, type Writing } from "../db/index.ts";
import { checkNeeds } from "./needs.ts";
import { insertPurchase } from "./ordering.ts";
import { PURCHASE, PURCHASE_LINE, PURCHASE_NEED } from "./tables.ts";

/** What a supplier is to deliver straight to a customer, for a line of an order. */
export interface DirectNeed {
  line: number;
  item: number;
  quantity: Decimal;
}

/**
 * Makes a draft to each preferred supplier that delivers straight to the customer of an order; it carries the delivery address, is never
 * joined by anything else, and counts as on its way for nobody but its lines.
 */
export async function buyDirect(
  ctx: Writing,
  order: { id: number; deliverTo: string },
  needs: readonly DirectNeed[],
): Promise<{ id: number; number: string }[]> {
  const checked = await checkNeeds(
    ctx,
    needs.map(({ item, quantity }) => ({
      item,
      quantity,
      supplier: null,
      price: null,
      pricePer: "",
      expected: null,
      costTag: "",
      for: [],
    })),
  );
  const rows = checked.map((need, i) => ({ ...need, line: needs[i]?.line ?? 0 }));
  const made: { id: number; number: string }[] = [];
  for (const [supplier, own] of groupBy(rows, (row) => row.supplier)) {
    const id = await insertPurchase(ctx, supplier, "");
    await ctx.model(PURCHASE).update({ order_id: order.id, deliver_to: order.deliverTo }, { where: { id } });
    const ids = await ctx.sql.insert(
      PURCHASE_LINE,
      own.map(({ item, quantity, price, expected, line }, i) => ({
        purchase_id: id,
        position: i + 1,
        item_id: item,
        quantity,
        ...price,
        expected,
        order_line: line,
        cost_tag: "",
        pack: "",
        note: "",
        received: 0,
        open: 0,
        closed: 0,
      })),
    );
    await ctx.sql.insert(
      PURCHASE_NEED,
      own.map(({ item, quantity, line }, i) => ({
        line_id: ids[i] ?? 0,
        build_id: null,
        product_id: item,
        order_line: line,
        quantity,
      })),
    );
    const row = await ctx.model(PURCHASE).findByPk(id);
    made.push({ id, number: row?.get({ plain: true }).number ?? "" });
  }
  return made;
}
