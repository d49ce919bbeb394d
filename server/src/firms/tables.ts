import type { FirmKind } from "@yosegi/contract";
import { filled, id, integer, orNull, type Row, table, text } from "../db/index.ts";

// Quantities are in millionths of their unit, money in ten-thousandths, percents in millionths; yes is 1 and no is 0.

export const FIRM = table("firm", {
  id: id(),
  kind: text<FirmKind>(),
  code: text(),
  code_key: text(),
  name: text(),
  search: text(),
  address: text(),
  contact: text(),
  email: text(),
  phone: text(),
  terms: text(),
  archived: filled(integer()),
  note: filled(text()),
  on_hold: filled(integer()),
  tax_exempt: filled(integer()),
  customer_group: filled(text()),
  customer_group_key: filled(text()),
  credit_limit: orNull(integer()),
  version: filled(integer()),
  changed_by: orNull(integer()),
  changed_at: orNull(text()),
});
export type FirmTableRow = Row<typeof FIRM>;
