import type { LocationKind, OwnerKind, Purpose } from "@yosegi/core";
import { filled, id, integer, key, orNull, table, text } from "../db/index.ts";

// Quantities are in millionths of their unit, money in ten-thousandths, percents in millionths; yes is 1 and no is 0.

export const POSTING = table("posting", {
  id: id(),
  kind: text(),
  document: text(),
  person_id: integer(),
  day: text(),
  moment: text(),
  reason: text(),
  undoes: orNull(integer()),
  cost_tag: filled(text()),
  /** The device that it was entered on, as its person calls it. */
  device: filled(text()),
});

export const POSTING_ENTRY = table("posting_entry", {
  posting_id: key(integer()),
  position: key(integer()),
  side: text(),
  what: text(),
  value: integer(),
  reason: text(),
});

export const MOVEMENT = table("movement", {
  id: id(),
  posting_id: integer(),
  item_id: integer(),
  quantity: integer(),
  value: integer(),
  from_location: orNull(integer()),
  from_bin: text(),
  from_owner: text<OwnerKind | "">(),
  from_owner_id: integer(),
  to_location: orNull(integer()),
  to_bin: text(),
  to_owner: text<OwnerKind | "">(),
  to_owner_id: integer(),
  lot: text(),
  serial: text(),
  purpose: text<Purpose>(),
  source: text(),
  source_id: integer(),
  source_line: integer(),
  reason: text(),
});

export const BALANCE = table("balance", {
  item_id: key(integer()),
  lot: key(text()),
  serial: key(text()),
  location_id: key(integer()),
  bin: key(text()),
  owner: key(text<OwnerKind>()),
  owner_id: key(integer()),
  quantity: integer(),
});

export const POOL = table("pool", {
  item_id: key(integer()),
  lot: key(text()),
  serial: key(text()),
  owner: key(text<OwnerKind>()),
  owner_id: key(integer()),
  quantity: integer(),
  value: integer(),
});

export const LOT = table("lot", {
  item_id: key(integer()),
  code: key(text()),
  expiry: orNull(text()),
  received: text(),
  code_key: filled(text()),
  made_on: orNull(text()),
  /** The number that its maker gave it. */
  maker_number: filled(text()),
});

export const SERIAL = table("serial", {
  item_id: key(integer()),
  code: key(text()),
  received: text(),
  code_key: filled(text()),
  expiry: orNull(text()),
  made_on: orNull(text()),
  maker_number: filled(text()),
});

/** What is inside a unit that was never built here, as a person wrote it down. */
export const SERIAL_CONTENT = table("serial_content", {
  id: id(),
  item_id: integer(),
  serial: text(),
  part_id: integer(),
  quantity: integer(),
  part_lot: text(),
  part_serial: text(),
});

export const LOCATION = table("location", {
  id: id(),
  name: text(),
  name_key: text(),
  kind: text<LocationKind>(),
  /** The firm that works there; null for locations of our own. */
  firm_id: orNull(integer()),
  archived: filled(integer()),
});

export const BIN = table("bin", {
  location_id: key(integer()),
  code: key(text()),
  code_key: filled(text()),
  /** Where it comes in the walk of a picker; without one, by its code. */
  walk: orNull(integer()),
  /** It was used and is no longer: the ledger names it still. */
  closed: filled(integer()),
});
