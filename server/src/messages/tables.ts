import { integer, key, table, text } from "../db/index.ts";

/** What a customer calls an item; `word_key` is the words without case, accents and the plural. */
export const CUSTOMER_WORD = table("customer_word", {
  customer_id: key(integer()),
  word_key: key(text()),
  words: text(),
  item_id: integer(),
  person_id: integer(),
  moment: text(),
});
