import type { CustomFieldOwner, CustomFieldType } from "@yosegi/core";
import { id, integer, key, table, text } from "../db/index.ts";

// Quantities are in millionths of their unit, money in ten-thousandths, percents in millionths; yes is 1 and no is 0.

export const CUSTOM_FIELD = table("custom_field", {
  id: id(),
  name: text(),
  name_key: text(),
  type: text<CustomFieldType>(),
});

export const CUSTOM_VALUE = table("custom_value", {
  owner: key(text<CustomFieldOwner>()),
  owner_id: key(integer()),
  code: key(text()),
  field_id: key(integer()),
  value: text(),
});
