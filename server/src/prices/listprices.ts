import { type PriceStep, quantityFromScaled, type Rate, stepThatCounts } from "@yosegi/core";
import { asJson, groupBy, type Reading, rateFromScaled } from "../db/index.ts";

/** What a customer pays for an item by a price list. */
export interface ListPrice extends PriceStep {
  rate: Rate;
  /** The unit or pack that it was said for; "" for the stock unit. */
  per: string;
  of: "customer" | "group";
}

/** What a customer pays by the lists that are theirs (docs/rules.md § 12); null where none says so. */
export async function listPrices(
  ctx: Reading,
  customer: number | null,
  items: Iterable<number>,
): Promise<(item: number, quantity: PriceStep["from"]) => ListPrice | null> {
  if (customer === null) return () => null;
  const rows = await ctx.sql.all<{
    item: number;
    from: number;
    price: number;
    price_per: number;
    price_unit: string;
    own: number;
  }>(
    `SELECT s.item_id AS item, s.from_quantity AS "from", s.price, s.price_per, s.price_unit, l.customer_id IS NOT NULL AS own
       FROM firm_head f JOIN price_list l ON l.customer_id = f.id OR (l.customer_group_key <> '' AND l.customer_group_key = f.customer_group_key)
       JOIN json_each($items) ids JOIN price_step s ON s.list_id = l.id AND s.item_id = ids.value
      WHERE f.id = $customer`,
    { customer, items: asJson(new Set(items)) },
  );
  const steps = groupBy(
    rows.map(({ item, from, price, price_per, price_unit, own }): ListPrice & { item: number } => ({
      item,
      from: quantityFromScaled(from),
      rate: rateFromScaled(price, price_per),
      per: price_unit,
      of: own === 1 ? "customer" : "group",
    })),
    ({ item, of }) => `${item} ${of}`,
  );
  const of = (item: number, whose: ListPrice["of"]) => steps.get(`${item} ${whose}`) ?? [];
  return (item, quantity) => stepThatCounts([of(item, "customer"), of(item, "group")], quantity);
}
