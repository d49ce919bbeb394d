import { filled, id, integer, orNull, type Row, table, text } from "../db/index.ts";

export const COUNT_SHEET = table("count_sheet", {
  id: id(),
  number: text(),
  blind: integer(),
  note: text(),
  person_id: integer(),
  moment: text(),
  /** One that was posted and undone since says "posted" too: its posting tells. */
  state: filled(text<"open" | "posted" | "cancelled">()),
  ended_by: orNull(integer()),
  ended_at: orNull(text()),
});
export type CountSheetRow = Row<typeof COUNT_SHEET>;

/** Quantities in millionths of the stock unit. */
export const COUNT_LINE = table("count_line", {
  id: id(),
  sheet_id: integer(),
  item_id: integer(),
  lot: text(),
  serial: text(),
  location_id: integer(),
  bin: text(),
  /** What the books said when the sheet was made. */
  expected: integer(),
  counted: orNull(integer()),
  /** What the books said when it was counted. */
  books: orNull(integer()),
  before: filled(integer()),
  person_id: orNull(integer()),
  moment: orNull(text()),
  reason: filled(text()),
});
export type CountLineRow = Row<typeof COUNT_LINE>;
