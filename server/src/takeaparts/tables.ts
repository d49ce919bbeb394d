import { id, integer, key, orNull, type Row, table, text } from "../db/index.ts";

// Quantities are in millionths of their unit, money in ten-thousandths.

export const TAKE_APART = table("take_apart", {
  id: id(),
  number: text(),
  item_id: integer(),
  lot: text(),
  serial: text(),
  quantity: integer(),
  location_id: integer(),
  bin: text(),
  build_id: orNull(integer()),
  return_id: orNull(integer()),
  return_line: orNull(integer()),
  posting_id: orNull(integer()),
  day: text(),
  person_id: integer(),
  moment: text(),
  reason: text(),
  value_out: integer(),
  damaged: integer(),
  missing: integer(),
  work_put_in: integer(),
  work_item_id: orNull(integer()),
  minutes: integer(),
  work: integer(),
  charged: integer(),
  /** The revision that was chosen to say what is inside; null: the build's, or that in force. */
  revision_id: orNull(integer()),
  undone_by: orNull(integer()),
  undone_at: orNull(text()),
});
export type TakeApartTableRow = Row<typeof TAKE_APART>;

export const TAKE_APART_PART = table("take_apart_part", {
  take_apart_id: key(integer()),
  line: key(integer()),
  item_id: integer(),
  lot: text(),
  serial: text(),
  expected: integer(),
  good: integer(),
  damaged: integer(),
  missing: integer(),
  location_id: orNull(integer()),
  bin: text(),
  allotted: integer(),
  recovered: integer(),
});
