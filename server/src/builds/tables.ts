import type { BuildStage, DrawnAt } from "@yosegi/core";
import { filled, id, integer, key, orNull, type Row, table, text } from "../db/index.ts";

// Quantities are in millionths of their unit, money in ten-thousandths, percents in millionths; yes is 1 and no is 0.

export const BUILD = table("build", {
  id: id(),
  number: text(),
  product_id: integer(),
  quantity: integer(),
  /** Good units asked for; `quantity` is how many are started for them. */
  wanted: integer(),
  good: integer(),
  rejected: integer(),
  stage: text<BuildStage>(),
  due: orNull(text()),
  /** 1 is served first. */
  priority: filled(integer()),
  note: text(),
  cost_tag: filled(text()),
  assigned_to: orNull(integer()),
  /** For whom it is built, where no order says so. */
  customer_id: orNull(integer()),
  /** Who does the work; null: our own bench. */
  subcontractor_id: orNull(integer()),
  /** Where its product goes; null: the item's home. */
  location_id: orNull(integer()),
  bin: filled(text()),
  /** Which of the product's lists it is built by, and the revision it was queued with. */
  list_id: orNull(integer()),
  revision_id: orNull(integer()),
  /** Ids of the optional parts that it takes, as JSON. */
  options: filled(text()),
  /** The build whose actual quantities it takes over instead of a parts list. */
  as_built: orNull(integer()),
  /** Its lines are its own from the draft on, and not copied from the parts list when it is queued. */
  own_parts: filled(integer()),
  makes: orNull(integer()),
  overhead: orNull(integer()),
  extra: filled(integer()),
  split_from: orNull(integer()),
  joined_into: orNull(integer()),
  recurring_id: orNull(integer()),
  recurring_day: orNull(text()),
  created_by: integer(),
  created_at: text(),
  queued_by: orNull(integer()),
  queued_at: orNull(text()),
  bench_by: orNull(integer()),
  bench_at: orNull(text()),
  finished_by: orNull(integer()),
  finished_at: orNull(text()),
  cancelled_by: orNull(integer()),
  cancelled_at: orNull(text()),
  version: filled(integer()),
  changed_by: orNull(integer()),
  changed_at: orNull(text()),
});
export type BuildTableRow = Row<typeof BUILD>;

export const BUILD_LINE = table("build_line", {
  build_id: key(integer()),
  line: key(integer()),
  item_id: integer(),
  quantity: integer(),
  unit: text(),
  waste: integer(),
  once: integer(),
  need: integer(),
  used: integer(),
  scrapped: filled(integer()),
  open: integer(),
  bench: filled(integer()),
  drawn_at: text<DrawnAt>(),
  location_id: orNull(integer()),
  note: text(),
  list_line: orNull(integer()),
  added: filled(integer()),
  instead_of: orNull(integer()),
  replaces: filled(integer()),
});

export const FINISH = table("finish", {
  id: id(),
  build_id: integer(),
  posting_id: integer(),
  good: integer(),
  rejected: integer(),
  location_id: integer(),
  bin: text(),
  lot: text(),
  expiry: orNull(text()),
  parts: integer(),
  work: integer(),
  overhead: integer(),
  extra: integer(),
  fee: integer(),
  total: integer(),
  /** The build's stage before it, for an undo to go back to. */
  stage_before: filled(text<BuildStage>()),
  undone_by: orNull(integer()),
  undone_at: orNull(text()),
});
export type FinishRow = Row<typeof FINISH>;

export const FINISH_LINE = table("finish_line", {
  finish_id: key(integer()),
  line: key(integer()),
  planned: integer(),
  used: integer(),
  cost: integer(),
  difference_cost: integer(),
  scrapped: filled(integer()),
  reason: filled(text()),
  from_bench: filled(integer()),
  returned: filled(integer()),
});

export const FINISH_WORK = table("finish_work", {
  finish_id: key(integer()),
  line: key(integer()),
  person_id: key(integer()),
  quantity: integer(),
});

export const SERIAL_PART = table("serial_part", {
  finish_id: key(integer()),
  item_id: integer(),
  serial: text(),
  part_id: key(integer()),
  part_serial: key(text()),
});

/** A hand-out of parts by its number within the build: a posting of its own, or what one pick round fetched. */
export const HAND_OUT = table("hand_out", {
  id: id(),
  build_id: integer(),
  n: integer(),
  posting_id: orNull(integer()),
  round: orNull(text()),
  /** For so many units, in millionths; null: for all that was open. */
  units: orNull(integer()),
  /** Units that were done when it was handed out. */
  done: filled(integer()),
  note: filled(text()),
});
