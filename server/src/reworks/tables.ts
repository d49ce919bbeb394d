import type { ReworkOutcome, StepState } from "@yosegi/core";
import { filled, id, integer, key, orNull, type Row, table, text } from "../db/index.ts";

// Quantities are in millionths of their unit, money in ten-thousandths; yes is 1 and no is 0.

export const REWORK = table("rework", {
  id: id(),
  number: text(),
  item_id: integer(),
  customer_id: orNull(integer()),
  /** The units are the customer's own. */
  theirs: integer(),
  subcontractor_id: orNull(integer()),
  due: orNull(text()),
  assigned_id: orNull(integer()),
  reason: text(),
  cost_tag: text(),
  price: orNull(integer()),
  posting_id: orNull(integer()),
  day: text(),
  person_id: integer(),
  moment: text(),
  agreed_by: orNull(integer()),
  agreed_at: orNull(text()),
  out_posting_id: orNull(integer()),
  out_day: orNull(text()),
  out_by: orNull(integer()),
  out_at: orNull(text()),
  undone_by: orNull(integer()),
  undone_at: orNull(text()),
  version: filled(integer()),
  changed_by: orNull(integer()),
  changed_at: orNull(text()),
});
export type ReworkTableRow = Row<typeof REWORK>;

export const REWORK_UNIT = table("rework_unit", {
  rework_id: key(integer()),
  unit: key(integer()),
  lot: text(),
  serial: text(),
  quantity: integer(),
  /** Where it was; null: with its customer. */
  location_id: orNull(integer()),
  bin: text(),
  return_id: orNull(integer()),
  return_line: orNull(integer()),
  value_in: integer(),
  value_out: integer(),
  outcome: orNull(text<ReworkOutcome>()),
  item_id: orNull(integer()),
  out_location_id: orNull(integer()),
  out_bin: text(),
  reason: text(),
  price: orNull(integer()),
  /** What its serial number was to be sold for before. */
  price_before: orNull(integer()),
});
export type ReworkUnitRow = Row<typeof REWORK_UNIT>;

export const REWORK_STEP = table("rework_step", {
  id: id(),
  rework_id: integer(),
  /** The unit that it is for; null: all of them. */
  unit: orNull(integer()),
  what: text(),
  person_id: orNull(integer()),
  supplier_id: orNull(integer()),
  service_id: orNull(integer()),
  purchase_id: orNull(integer()),
  due: orNull(text()),
  hour: text(),
  planned: integer(),
  actual: orNull(integer()),
  charge: orNull(integer()),
  /** What its customer agreed to, or was billed, and at which tax rate; null: as charge and prices say now. */
  fixed_charge: orNull(integer()),
  fixed_tax: orNull(integer()),
  state: text<StepState>(),
  version: filled(integer()),
  changed_by: orNull(integer()),
  changed_at: orNull(text()),
});
export type ReworkStepRow = Row<typeof REWORK_STEP>;

export const REWORK_PART = table("rework_part", {
  id: id(),
  rework_id: integer(),
  unit: orNull(integer()),
  step_id: orNull(integer()),
  /** null: a line of text. */
  item_id: orNull(integer()),
  text: text(),
  quantity: integer(),
  lot: text(),
  serial: text(),
  /** Where it was taken from; null: it is planned, or a line of text. */
  location_id: orNull(integer()),
  bin: text(),
  posting_id: orNull(integer()),
  /** What it carried when it was taken, or what a line of text costs. */
  value: integer(),
  charge: orNull(integer()),
  /** What its customer agreed to, or was billed, and at which tax rate; null: as charge and prices say now. */
  fixed_charge: orNull(integer()),
  fixed_tax: orNull(integer()),
});
export type ReworkPartRow = Row<typeof REWORK_PART>;

export const REWORK_RECOVERED = table("rework_recovered", {
  rework_id: key(integer()),
  unit: key(integer()),
  line: key(integer()),
  item_id: integer(),
  lot: text(),
  serial: text(),
  quantity: integer(),
  location_id: integer(),
  bin: text(),
  value: integer(),
});
export type ReworkRecoveredRow = Row<typeof REWORK_RECOVERED>;

/** A unit that a customer has and that we never shipped, as somebody wrote it down. */
export const REGISTERED_UNIT = table("registered_unit", {
  customer_id: integer(),
  item_id: key(integer()),
  serial: key(text()),
  since: orNull(text()),
  note: text(),
  person_id: integer(),
  moment: text(),
});

export const REWORK_PLAN = table("rework_plan", {
  id: id(),
  name: text(),
  /** How many units its parts and steps were for. */
  units: integer(),
});

export const REWORK_PLAN_PART = table("rework_plan_part", {
  plan_id: key(integer()),
  line: key(integer()),
  item_id: orNull(integer()),
  text: text(),
  quantity: integer(),
  value: integer(),
});

export const REWORK_PLAN_STEP = table("rework_plan_step", {
  plan_id: key(integer()),
  line: key(integer()),
  what: text(),
  person_id: orNull(integer()),
  supplier_id: orNull(integer()),
  service_id: orNull(integer()),
  planned: integer(),
});
