import type { PurchaseStage } from "@yosegi/contract";
import { filled, id, integer, key, orNull, table, text } from "../db/index.ts";

// Quantities are in millionths of their unit, money in ten-thousandths, percents in millionths; yes is 1 and no is 0.

export const PURCHASE = table("purchase", {
  id: id(),
  number: text(),
  supplier_id: integer(),
  stage: text<PurchaseStage>(),
  note: text(),
  created_by: integer(),
  created_at: text(),
  sent_by: orNull(integer()),
  sent_at: orNull(text()),
  received_by: orNull(integer()),
  received_at: orNull(text()),
  cancelled_by: orNull(integer()),
  cancelled_at: orNull(text()),
  /** The customer's order that it is delivered straight to; null: it comes to us. */
  order_id: orNull(integer()),
  deliver_to: filled(text()),
  version: filled(integer()),
  changed_by: orNull(integer()),
  changed_at: orNull(text()),
});

export const PURCHASE_LINE = table("purchase_line", {
  id: id(),
  purchase_id: integer(),
  position: integer(),
  item_id: integer(),
  quantity: integer(),
  pack: text(),
  pack_quantity: orNull(integer()),
  price: integer(),
  expected: orNull(text()),
  cost_tag: text(),
  note: text(),
  received: integer(),
  open: integer(),
  closed: integer(),
  price_per: filled(integer()),
  price_unit: filled(text()),
  /** The line of the customer's order that it is delivered for. */
  order_line: orNull(integer()),
});

export const PURCHASE_NEED = table("purchase_need", {
  id: id(),
  line_id: integer(),
  build_id: orNull(integer()),
  product_id: orNull(integer()),
  order_line: orNull(integer()),
  quantity: integer(),
});

export const RECEIPT = table("receipt", {
  id: id(),
  number: text(),
  purchase_id: integer(),
  posting_id: orNull(integer()),
  person_id: integer(),
  moment: text(),
  day: text(),
  note: text(),
  undone_by: orNull(integer()),
  undone_at: orNull(text()),
});

export const RECEIPT_LINE = table("receipt_line", {
  receipt_id: key(integer()),
  position: key(integer()),
  line_id: integer(),
  quantity: integer(),
  price: integer(),
  lot: text(),
  serial: text(),
  location_id: orNull(integer()),
  bin: text(),
  price_per: filled(integer()),
  price_unit: filled(text()),
});

export const PRICE_CORRECTION = table("price_correction", {
  id: id(),
  number: text(),
  receipt_id: integer(),
  position: integer(),
  price: integer(),
  price_per: integer(),
  price_unit: text(),
  reason: text(),
  posting_id: orNull(integer()),
  person_id: integer(),
  moment: text(),
});
