import { type ItemBrief, Refusal } from "@yosegi/contract";
import {
  type Decimal,
  decimal,
  decimalsOf,
  pricedQuantity,
  type Rate,
  rateOf,
  type Units,
} from "@yosegi/core";
import type { Reading } from "../db/index.ts";

/** A sales price has no more decimals than the company's currency; it is never rounded behind someone's back. */
export function checkCurrency(ctx: Reading, field: string, price: Decimal): void {
  if (decimalsOf(price) > ctx.currencyDecimals)
    throw Refusal.at(field, "currency-decimals", {
      allowed: ctx.currencyDecimals,
      currency: ctx.company?.currency ?? "",
    });
}

/** A price as it was said, for its unit or pack; refused at `field` where the item has none of that name. */
export function pricedRate(
  field: string,
  amount: string,
  per: string,
  { code, unit, packs }: Pick<ItemBrief, "code" | "unit" | "packs">,
  units: Units,
): Rate {
  const known = packs.map((pack) => ({ name: pack.name, quantity: decimal(pack.quantity) }));
  const quantity = pricedQuantity(per, units.get(unit), units.values(), known);
  if (quantity === null) throw Refusal.at(field, "price-unit", { code, per });
  return rateOf(decimal(amount), quantity);
}
