import { id, integer, key, orNull, type Row, table, text } from "../db/index.ts";

// Quantities are in millionths of their unit, money in ten-thousandths.

export const SUPPLIER_RETURN = table("supplier_return", {
  id: id(),
  number: text(),
  supplier_id: integer(),
  posting_id: orNull(integer()),
  day: text(),
  person_id: integer(),
  moment: text(),
  reason: text(),
  note: text(),
  credit: integer(),
  purchase_id: orNull(integer()),
  undone_by: orNull(integer()),
  undone_at: orNull(text()),
});
export type SupplierReturnTableRow = Row<typeof SUPPLIER_RETURN>;

export const SUPPLIER_RETURN_LINE = table("supplier_return_line", {
  supplier_return_id: key(integer()),
  line: key(integer()),
  item_id: integer(),
  lot: text(),
  serial: text(),
  quantity: integer(),
  location_id: integer(),
  bin: text(),
  return_id: orNull(integer()),
  return_line: orNull(integer()),
});
