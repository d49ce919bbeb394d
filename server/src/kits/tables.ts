import type { PriceRule, Swap } from "@yosegi/core";
import { filled, integer, key, orNull, table, text } from "../db/index.ts";

// Quantities are in millionths of their unit, money in ten-thousandths, percents in millionths; yes is 1 and no is 0.

export const KIT = table("kit", {
  item_id: key(integer()),
  contents_shown: integer(),
  may_be_added_to: integer(),
  price_rule: text<PriceRule>(),
  discount: integer(),
  version: filled(integer()),
  changed_by: orNull(integer()),
  changed_at: orNull(text()),
});

export const KIT_CONTENT = table("kit_content", {
  kit_id: key(integer()),
  line: key(integer()),
  item_id: integer(),
  quantity: integer(),
  swap: text<Swap>(),
  quantity_may_change: integer(),
  may_be_left_out: integer(),
});

export const KIT_SWAP = table("kit_swap", {
  kit_id: key(integer()),
  line: key(integer()),
  position: key(integer()),
  item_id: integer(),
});
