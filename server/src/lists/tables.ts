import type { DrawnAt, RevisionState, Start } from "@yosegi/core";
import { filled, id, integer, key, orNull, type Row, table, text } from "../db/index.ts";

// Quantities are in millionths of their unit, money in ten-thousandths, percents in millionths; yes is 1 and no is 0.

export const PARTS_LIST = table("parts_list", {
  id: id(),
  product_id: integer(),
  name: text(),
  name_key: text(),
  main: integer(),
});

export const REVISION = table("revision", {
  id: id(),
  list_id: integer(),
  number: integer(),
  state: text<RevisionState>(),
  makes: integer(),
  usual: integer(),
  overhead: integer(),
  extra: integer(),
  yield: integer(),
  instructions: filled(text()),
  starts: text<Start>(),
  starts_on: orNull(text()),
  starts_after: orNull(integer()),
  created_by: orNull(integer()),
  created_at: orNull(text()),
  locked_by: orNull(integer()),
  locked_at: orNull(text()),
  lock_note: text(),
  version: filled(integer()),
  changed_by: orNull(integer()),
  changed_at: orNull(text()),
});
export type RevisionRow = Row<typeof REVISION>;

export const REVISION_LINE = table("revision_line", {
  revision_id: key(integer()),
  line: key(integer()),
  item_id: integer(),
  quantity: integer(),
  unit: text(),
  waste: integer(),
  once: integer(),
  optional: integer(),
  drawn_at: text<DrawnAt>(),
  location_id: orNull(integer()),
  note: text(),
  share: orNull(integer()),
  person_id: orNull(integer()),
});

export const LINE_SUBSTITUTE = table("line_substitute", {
  revision_id: key(integer()),
  line: key(integer()),
  position: key(integer()),
  item_id: integer(),
  quantity: integer(),
});
