import type { DrawnAt, ItemKind, ItemState, Tracking } from "@yosegi/core";
import { filled, id, integer, key, orNull, type Row, table, text } from "../db/index.ts";

// Quantities are in millionths of their unit, money in ten-thousandths, percents in millionths; yes is 1 and no is 0.

export const ITEM = table("item", {
  id: id(),
  code: text(),
  code_key: text(),
  name: text(),
  search: text(),
  kind: text<ItemKind>(),
  unit: text(),
  tracking: text<Tracking>(),
  standard_cost: orNull(integer()),
  price: orNull(integer()),
  home_location_id: orNull(integer()),
  home_bin: text(),
  group_id: orNull(integer()),
  barcode: filled(text()),
  reorder_level: orNull(integer()),
  build_days: orNull(integer()),
  shelf_life: orNull(integer()),
  warranty_months: orNull(integer()),
  maker: filled(text()),
  maker_number: filled(text()),
  state: filled(text<ItemState>()),
  not_stock_tracked: filled(integer()),
  not_for_sale: filled(integer()),
  always_build: filled(integer()),
  finish_when_shipped: filled(integer()),
  /** A picker takes the suggested lot, and another only with a reason. */
  lot_fixed: filled(integer()),
  tax_rate: orNull(integer()),
  notes: filled(text()),
  picture_id: orNull(integer()),
  /** By which its lots are numbered where it is built; "": the usual one. */
  lot_pattern: filled(text()),
  price_per: filled(integer()),
  price_unit: filled(text()),
  /** How much of the stock unit the cost is for, and the unit or pack by which it was said; "": the stock unit. */
  cost_per: filled(integer()),
  cost_unit: filled(text()),
  version: filled(integer()),
  changed_by: orNull(integer()),
  changed_at: orNull(text()),
});
export type ItemTableRow = Row<typeof ITEM>;

export const UNIT = table("unit", {
  code: key(text()),
  name: text(),
  dimension: text(),
  factor: text(),
  decimals: integer(),
  rec20: text(),
});

export const PACK = table("pack", {
  item_id: key(integer()),
  position: key(integer()),
  name: text(),
  quantity: integer(),
});

export const ITEM_GROUP = table("item_group", {
  id: id(),
  name: text(),
  name_key: text(),
  unit: orNull(text()),
  tracking: orNull(text<Tracking>()),
  drawn_at: orNull(text<DrawnAt>()),
  location_id: orNull(integer()),
  version: filled(integer()),
  changed_by: orNull(integer()),
  changed_at: orNull(text()),
});

export const ITEM_SUPPLIER = table("item_supplier", {
  item_id: key(integer()),
  supplier_id: key(integer()),
  their_code: text(),
  price: orNull(integer()),
  lead_days: orNull(integer()),
  minimum: orNull(integer()),
  multiple: orNull(integer()),
  web: text(),
  preferred: integer(),
  price_per: filled(integer()),
  price_unit: filled(text()),
});
