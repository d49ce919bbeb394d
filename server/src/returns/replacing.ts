import { PLAIN_ORDER_LINE, Refusal } from "@yosegi/contract";
import { quantityFromScaled, sum, ZERO } from "@yosegi/core";
import { groupBy, type Writing } from "../db/index.ts";
import { newOrder } from "../orders/index.ts";
import { replacedBy, standingReturn } from "./service.ts";
import { RETURN, RETURN_LINE } from "./tables.ts";

/**
 * Orders again what came back: free, and then nothing is credited, or at the normal price with the credit (docs/rules.md § 12). Gives the order's id.
 */
export async function replaceReturn(ctx: Writing, id: number, free: boolean): Promise<number> {
  const { number, customer_id, replacement_id } = await standingReturn(ctx, id);
  if (replacement_id !== null)
    throw new Refusal("return-replaced", await replacedBy(ctx, number, replacement_id));
  const rows = (await ctx.model(RETURN_LINE).findAll({ where: { return_id: id } })).map((row) =>
    row.get({ plain: true }),
  );
  const lines = [...groupBy(rows, (row) => row.item_id)].map(([item, own]) => ({
    ...PLAIN_ORDER_LINE,
    item,
    quantity: sum(own.map((row) => quantityFromScaled(row.quantity))),
    price: free ? ZERO : null,
    discount: ZERO,
  }));
  const order = await newOrder(ctx, {
    customer: customer_id,
    due: null,
    validUntil: null,
    reference: number,
    address: "",
    terms: "",
    costTag: "",
    note: `Replaces what came back with ${number}`,
    goOn: false,
    lines,
    texts: [],
  });
  await ctx
    .model(RETURN)
    .update({ replacement_id: order.id, replaced_free: free ? 1 : 0 }, { where: { id } });
  return order.id;
}
