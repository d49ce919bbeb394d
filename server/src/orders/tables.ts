import type { CreditStop, OrderStage } from "@yosegi/core";
import { filled, id, integer, key, orNull, table, text } from "../db/index.ts";

// Quantities are in millionths of their unit, money in ten-thousandths, percents in millionths; yes is 1 and no is 0.

export const SALES_ORDER = table("sales_order", {
  id: id(),
  number: text(),
  customer_id: integer(),
  stage: text<OrderStage>(),
  due: orNull(text()),
  reference: text(),
  note: text(),
  created_by: integer(),
  created_at: text(),
  cancelled_by: orNull(integer()),
  cancelled_at: orNull(text()),
  precedence: orNull(integer()),
  address: filled(text()),
  terms: filled(text()),
  cost_tag: filled(text()),
  accepted_by: orNull(integer()),
  accepted_at: orNull(text()),
  accepted: orNull(text<CreditStop>()),
  valid_until: orNull(text()),
  quote: filled(text()),
  ordered_by: orNull(integer()),
  ordered_at: orNull(text()),
  /** Who closed what was left of it, the last time. */
  closed_by: orNull(integer()),
  closed_at: orNull(text()),
  version: filled(integer()),
  changed_by: orNull(integer()),
  changed_at: orNull(text()),
});

export const SALES_LINE = table("sales_line", {
  id: id(),
  order_id: integer(),
  line: integer(),
  item_id: integer(),
  quantity: integer(),
  price: orNull(integer()),
  price_per: filled(integer()),
  price_unit: filled(text()),
  discount: filled(integer()),
  promised: orNull(text()),
  kit: orNull(text()),
  tax_rate: integer(),
  serial: filled(text()),
  /** null: as its item says. */
  finish_when_shipped: orNull(integer()),
  /** Its supplier delivers it straight to the customer. */
  by_supplier: filled(integer()),
  /** Of a line that takes nothing from stock, as those of its components are. */
  shipped: filled(integer()),
  closed: filled(integer()),
});

/** Lines that are only text; `before` counts the lines that stand before it. */
export const ORDER_TEXT = table("order_text", {
  order_id: key(integer()),
  position: key(integer()),
  before: integer(),
  text: text(),
});

export const ORDER_COMPONENT = table("order_component", {
  id: id(),
  line_id: integer(),
  item_id: integer(),
  per: integer(),
  /** Ordered − shipped − closed; of a quote nothing. */
  open: integer(),
  shipped: filled(integer()),
  closed: filled(integer()),
  /** Of what is open, what lies in the order's own bin. */
  packed: filled(integer()),
});

export const ORDER_CONTENT = table("order_content", {
  line_id: key(integer()),
  position: key(integer()),
  defined: orNull(integer()),
  item_id: integer(),
  quantity: integer(),
});

/** Who checked what is packed for an order; what moved in its bin after that posting was not checked. */
export const PACK_CHECK = table("pack_check", {
  order_id: key(integer()),
  person_id: integer(),
  moment: text(),
  posting_id: integer(),
});
