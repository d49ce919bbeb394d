import type { RevisionState } from "@yosegi/core";
import { id, integer, key, orNull, table, text } from "../db/index.ts";

// Quantities are in millionths of their unit, money in ten-thousandths, percents in millionths; yes is 1 and no is 0.

export const REPLACEMENT = table("replacement", {
  id: id(),
  part_id: integer(),
  successor_id: integer(),
  per: integer(),
  for_parts: integer(),
  person_id: integer(),
  moment: text(),
  undone_by: orNull(integer()),
  undone_at: orNull(text()),
});

export const REPLACEMENT_LIST = table("replacement_list", {
  replacement_id: key(integer()),
  list_id: key(integer()),
  revision_id: orNull(integer()),
  before_id: integer(),
  before_state: text<RevisionState>(),
});

export const REPLACEMENT_KIT = table("replacement_kit", {
  replacement_id: key(integer()),
  kit_id: key(integer()),
  before: text(),
  after: text(),
});
