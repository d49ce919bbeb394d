import type { ReturnOutcome } from "@yosegi/contract";
import { filled, id, integer, key, orNull, type Row, table, text } from "../db/index.ts";

// Quantities are in millionths of their unit, money in ten-thousandths; yes is 1 and no is 0.

export const RETURN = table("customer_return", {
  id: id(),
  number: text(),
  customer_id: integer(),
  /** null where it is not known what it came with. */
  shipment_id: orNull(integer()),
  /** null only while it is written. */
  posting_id: orNull(integer()),
  day: text(),
  person_id: integer(),
  moment: text(),
  reason: text(),
  note: text(),
  fee: integer(),
  /** The order that replaces it. */
  replacement_id: orNull(integer()),
  replaced_free: filled(integer()),
  undone_by: orNull(integer()),
  undone_at: orNull(text()),
});
export type ReturnTableRow = Row<typeof RETURN>;

export const RETURN_LINE = table("return_line", {
  return_id: key(integer()),
  line: key(integer()),
  order_line_id: orNull(integer()),
  item_id: integer(),
  lot: text(),
  serial: text(),
  quantity: integer(),
  inspected: filled(integer()),
  credit: integer(),
  /** Percent, in millionths. */
  tax_rate: integer(),
});
export type ReturnLineRow = Row<typeof RETURN_LINE>;

export const RETURN_INSPECTION = table("return_inspection", {
  id: id(),
  return_id: integer(),
  line: integer(),
  posting_id: integer(),
  outcome: text<ReturnOutcome>(),
  quantity: integer(),
  location_id: orNull(integer()),
  bin: text(),
  reason: text(),
  undone_by: orNull(integer()),
  undone_at: orNull(text()),
});
