import type { PickedFor } from "@yosegi/core";
import { id, integer, key, orNull, type Row, table, text } from "../db/index.ts";

export const PICK_ROUND = table("pick_round", {
  id: id(),
  number: text(),
  picker_id: integer(),
  started_by: integer(),
  started_at: text(),
  ended_by: orNull(integer()),
  ended_at: orNull(text()),
});
export type PickRoundRow = Row<typeof PICK_ROUND>;

export const PICK_DOCUMENT = table("pick_document", {
  round_id: key(integer()),
  kind: key(text<PickedFor>()),
  document_id: key(integer()),
});

/** Pieces that a round is sent to, in millionths of the stock unit. */
export const PICK_HOLD = table("pick_hold", {
  id: id(),
  round_id: integer(),
  kind: text<PickedFor>(),
  document_id: integer(),
  line: integer(),
  item_id: integer(),
  lot: text(),
  serial: text(),
  location_id: integer(),
  bin: text(),
  quantity: integer(),
});

/** Lines that a person left short in a round. */
export const PICK_SHORT = table("pick_short", {
  round_id: key(integer()),
  kind: key(text<PickedFor>()),
  document_id: key(integer()),
  line: key(integer()),
  item_id: key(integer()),
});
