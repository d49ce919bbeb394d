import type { CreditStop } from "@yosegi/core";
import { id, integer, key, orNull, table, text } from "../db/index.ts";

// Quantities are in millionths of their unit, money in ten-thousandths; yes is 1 and no is 0.

export const SHIPMENT = table("shipment", {
  id: id(),
  number: text(),
  order_id: integer(),
  /** null where nothing of it was in stock, such as work. */
  posting_id: orNull(integer()),
  day: text(),
  person_id: integer(),
  moment: text(),
  note: text(),
  address: text(),
  parcels: orNull(integer()),
  /** In kg. */
  weight: orNull(integer()),
  accepted: orNull(text<CreditStop>()),
  undone_by: orNull(integer()),
  undone_at: orNull(text()),
  /** Of what a supplier delivered straight to the customer. */
  receipt_id: orNull(integer()),
});

export const SHIPMENT_FINISH = table("shipment_finish", {
  shipment_id: key(integer()),
  finish_id: key(integer()),
});

export const SHIPMENT_LINE = table("shipment_line", {
  shipment_id: key(integer()),
  line_id: key(integer()),
  units: integer(),
  revenue: integer(),
  cost: integer(),
});

export const SHIPMENT_COMPONENT = table("shipment_component", {
  shipment_id: key(integer()),
  line_id: key(integer()),
  position: key(integer()),
  item_id: integer(),
  stocked: integer(),
  quantity: integer(),
  revenue: integer(),
  cost: integer(),
});
