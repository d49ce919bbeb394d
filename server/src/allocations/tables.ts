import { id, integer, table } from "../db/index.ts";

// Quantities are in millionths of their unit, money in ten-thousandths, percents in millionths; yes is 1 and no is 0.

export const ALLOCATION = table("allocation", {
  id: id(),
  build_id: integer(),
  line_id: integer(),
  quantity: integer(),
});
