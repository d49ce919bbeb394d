import { filled, integer, key, orNull, type Row, table, text } from "./table.ts";

// Quantities are in millionths of their unit, money in ten-thousandths, percents in millionths; yes is 1 and no is 0.

export const COMPANY = table("company", {
  id: key(integer()),
  name: text(),
  currency: text(),
  time_zone: text(),
  margin_wish: orNull(integer()),
  /** Percent in millionths; of what names no rate of its own. */
  tax_rate: filled(integer()),
  version: filled(integer()),
  changed_by: orNull(integer()),
  changed_at: orNull(text()),
});
export type CompanyRow = Row<typeof COMPANY>;
