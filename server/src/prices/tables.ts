import { filled, id, integer, key, orNull, table, text } from "../db/index.ts";

// Quantities are in millionths of their unit, money in ten-thousandths.

/** Of one customer, or of a group of customers. */
export const PRICE_LIST = table("price_list", {
  id: id(),
  customer_id: orNull(integer()),
  customer_group: text(),
  customer_group_key: text(),
  version: filled(integer()),
  changed_by: orNull(integer()),
  changed_at: orNull(text()),
});

/** A price that counts from so many of an item on. */
export const PRICE_STEP = table("price_step", {
  list_id: key(integer()),
  item_id: key(integer()),
  from_quantity: key(integer()),
  price: integer(),
  price_per: integer(),
  price_unit: text(),
});

/** A unit that has a price of its own. */
export const SERIAL_PRICE = table("serial_price", {
  item_id: key(integer()),
  serial: key(text()),
  price: integer(),
});
