import { bytes, id, integer, key, orNull, table, text } from "../db/index.ts";

// Quantities are in millionths of their unit, money in ten-thousandths, percents in millionths; yes is 1 and no is 0.

export const FILE = table("file", {
  id: id(),
  name: text(),
  type: text(),
  content: bytes(),
  thumbnail: orNull(bytes()),
  added_by: integer(),
  added_at: text(),
});

export const ATTACHMENT = table("attachment", {
  file_id: key(integer()),
  item_id: orNull(integer()),
  list_id: orNull(integer()),
  build_id: orNull(integer()),
});
