import type { DateStyle } from "@yosegi/core";
import { filled, id, integer, orNull, table, text } from "../db/index.ts";

/** One row: what the company's papers say. */
export const PAPER_SETTING = table("paper_setting", {
  id: id(),
  dates: text<DateStyle>(),
  /** As JSON, by name; only those that are not as delivered. */
  words: text(),
  version: filled(integer()),
  changed_by: orNull(integer()),
  changed_at: orNull(text()),
});
