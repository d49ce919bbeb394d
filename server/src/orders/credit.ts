import { Refusal } from "@yosegi/contract";
import {
  type CreditStop,
  creditStop,
  type Decimal,
  lineTotal,
  moneyFromScaled,
  quantityFromScaled,
  sum,
} from "@yosegi/core";
import { type Reading, rateOrNull } from "../db/index.ts";

/** What counts when an order of a customer is taken. */
export interface CustomerTerms {
  name: string;
  note: string;
  onHold: boolean;
  limit: Decimal | null;
  /** What the customer's other open orders come to; lines without a price count nothing. */
  used: Decimal;
}

/** The terms of a customer, beside one order of theirs. */
export async function customerTerms(
  ctx: Reading,
  customer: number,
  except: number | null,
): Promise<CustomerTerms> {
  const firm = await ctx.sql.one<{
    name: string;
    note: string;
    on_hold: number;
    credit_limit: number | null;
  }>("SELECT name, note, on_hold, credit_limit FROM firm_head WHERE id = $customer AND kind = 'customer'", {
    customer,
  });
  if (!firm) throw Refusal.at("customer", "not-found", { what: "customer", id: customer });
  const rows = await ctx.sql.all<{ quantity: number; price: number; price_per: number; discount: number }>(
    `SELECT l.quantity, l.price, l.price_per, l.discount FROM sales_order o JOIN sales_line l ON l.order_id = o.id
      WHERE o.customer_id = $customer AND o.stage = 'open' AND o.id IS NOT $except AND l.price IS NOT NULL`,
    { customer, except },
  );
  const totals = rows.flatMap(({ quantity, price, price_per, discount }) => {
    const rate = rateOrNull(price, price_per);
    return rate
      ? lineTotal(quantityFromScaled(quantity), rate, quantityFromScaled(discount), ctx.currencyDecimals)
      : [];
  });
  return {
    name: firm.name,
    note: firm.note,
    onHold: firm.on_hold === 1,
    limit: firm.credit_limit === null ? null : moneyFromScaled(firm.credit_limit),
    used: sum(totals),
  };
}

/** What stops an order that comes to so much; refused unless somebody goes on anyway. Gives what was gone over. */
export function refuseCredit(
  ctx: Reading,
  terms: CustomerTerms,
  asked: Decimal,
  goOn: boolean,
): CreditStop | null {
  const stop = creditStop(terms, terms.used, asked);
  if (stop === null || goOn) return stop;
  if (stop === "on hold")
    throw Refusal.at("customer", "customer-on-hold", { name: terms.name, note: terms.note });
  const money = (amount: Decimal) =>
    `${amount.toFixed(ctx.currencyDecimals)} ${ctx.company?.currency ?? ""}`.trim();
  throw Refusal.at("customer", "credit-exceeded", {
    name: terms.name,
    sum: money(terms.used.plus(asked)),
    limit: money(terms.limit ?? asked),
  });
}
