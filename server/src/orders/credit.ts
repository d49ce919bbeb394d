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
import { groupBy, type Reading, rateFromScaled } from "../db/index.ts";
import { withTax } from "./money.ts";
import { OPEN, type OrderTableRow } from "./rows.ts";

/** What counts when an order of a customer is taken. */
export interface CustomerTerms {
  name: string;
  note: string;
  onHold: boolean;
  limit: Decimal | null;
  /** What the customer's other open orders come to with tax; lines without a price count nothing. */
  used: Decimal;
  /** What the order that is changed may come to in any case: what it came to before, or anything once somebody went on anyway. */
  settled: Decimal | "anything" | null;
}

/** An order that is changed. */
type SavedOrder = Pick<OrderTableRow, "id" | "customer_id" | "accepted">;

/** What stops a shipment of an order as its customer stands now: their other open orders are added up only where there is a limit. */
export async function stopAtShipping(
  ctx: Reading,
  order: OrderTableRow,
  worth: Decimal,
): Promise<{ stop: CreditStop | null; terms: CustomerTerms | null }> {
  const firm = await ctx.sql.one<{ on_hold: number; credit_limit: number | null }>(
    "SELECT on_hold, credit_limit FROM firm_head WHERE id = $customer",
    { customer: order.customer_id },
  );
  if (firm?.on_hold === 0 && firm.credit_limit === null) return { stop: null, terms: null };
  const terms = await customerTerms(ctx, order.customer_id, order);
  return { stop: creditStop(terms, terms.used, worth), terms };
}

/** The terms of a customer, beside the order that is changed; null for a new one. */
export async function customerTerms(
  ctx: Reading,
  customer: number,
  saved: SavedOrder | null,
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
  const rows = await ctx.sql.all<{
    order: number;
    quantity: number;
    price: number;
    price_per: number;
    discount: number;
    tax_rate: number;
  }>(
    `SELECT o.id AS "order", l.quantity, l.price, l.price_per, l.discount, l.tax_rate
       FROM sales_order o JOIN sales_line l ON l.order_id = o.id
      WHERE o.customer_id = $customer AND o.stage IN (${OPEN}) AND l.price IS NOT NULL`,
    { customer },
  );
  const lines = rows.map(({ order, quantity, price, price_per, discount, tax_rate }) => ({
    order,
    taxRate: quantityFromScaled(tax_rate),
    total: lineTotal(
      quantityFromScaled(quantity),
      rateFromScaled(price, price_per),
      quantityFromScaled(discount),
      ctx.currencyDecimals,
    ),
  }));
  const orders = groupBy(lines, (line) => line.order);
  const comesTo = (of: (order: number) => boolean) =>
    sum([...orders].flatMap(([order, own]) => (of(order) ? withTax(ctx, own) : [])));
  const same = saved?.customer_id === customer ? saved : null;
  return {
    name: firm.name,
    note: firm.note,
    onHold: firm.on_hold === 1,
    limit: firm.credit_limit === null ? null : moneyFromScaled(firm.credit_limit),
    used: comesTo((order) => order !== saved?.id),
    settled: same && (same.accepted === null ? comesTo((order) => order === same.id) : "anything"),
  };
}

/** What stops an order that comes to so much; a change to no more than before, or of what was gone on with once, is not stopped. */
export function stopOf({ settled, ...terms }: CustomerTerms, asked: Decimal): CreditStop | null {
  if (settled === "anything" || (settled !== null && asked.lte(settled))) return null;
  return creditStop(terms, terms.used, asked);
}

/** What stops an order that comes to so much; refused unless somebody goes on anyway. Gives what was gone over. At shipping `stop` is asked anew. */
export function refuseCredit(
  ctx: Reading,
  terms: CustomerTerms,
  asked: Decimal,
  goOn: boolean,
  stop = stopOf(terms, asked),
): CreditStop | null {
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
