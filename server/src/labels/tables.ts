import { id, integer, orNull, table, text } from "../db/index.ts";

// Quantities are in millionths of their unit, money in ten-thousandths, percents in millionths; yes is 1 and no is 0.

export const LABEL = table("label", {
  id: id(),
  /** null on a label of a bin. */
  item_id: orNull(integer()),
  document: text(),
  code: text(),
  shape: text(),
  lines: text(),
  copies: integer(),
  created_by: integer(),
  created_at: text(),
  printed_by: orNull(integer()),
  printed_at: orNull(text()),
});
