import { filled, id, integer, key, orNull, table, text } from "../db/index.ts";

// Quantities are in millionths of their unit, money in ten-thousandths, percents in millionths; yes is 1 and no is 0.

export const RECURRING_BUILD = table("recurring_build", {
  id: id(),
  product_id: integer(),
  quantity: integer(),
  weekdays: text(),
  starts: text(),
  assigned_to: orNull(integer()),
  note: text(),
  last_day: orNull(text()),
  created_by: integer(),
  created_at: text(),
  version: filled(integer()),
  changed_by: orNull(integer()),
  changed_at: orNull(text()),
});

export const STOCK_TARGET = table("stock_target", {
  product_id: key(integer()),
  target: integer(),
  batch: integer(),
  created_by: integer(),
  created_at: text(),
  version: filled(integer()),
  changed_by: orNull(integer()),
  changed_at: orNull(text()),
});
