import { id, integer, table, text } from "../db/index.ts";

// Quantities are in millionths of their unit, money in ten-thousandths, percents in millionths; yes is 1 and no is 0.

export const SAVED_CHECK = table("saved_check", {
  id: id(),
  name: text(),
  name_key: text(),
  question: text(),
  person_id: integer(),
  moment: text(),
});
