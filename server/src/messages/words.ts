import { type AnswerOf, type ParsedBody, Refusal, type routes } from "@yosegi/contract";
import { wordsKey } from "@yosegi/core";
import type { Reading, Writing } from "../db/index.ts";
import { refuseFirm } from "../firms/index.ts";
import { briefs } from "../items/index.ts";
import { CUSTOMER_WORD } from "./tables.ts";

/** What a customer calls items, by the key of the words. */
export async function wordsOfCustomer(ctx: Reading, customer: number | null): Promise<Map<string, number>> {
  const rows = await ctx.sql.all<{ key: string; item: number }>(
    "SELECT word_key AS key, item_id AS item FROM customer_word WHERE customer_id = $customer",
    { customer },
  );
  return new Map(rows.map((row) => [row.key, row.item]));
}

export async function customerWords(
  ctx: Reading,
  customer: number,
): Promise<AnswerOf<typeof routes.customerWords>> {
  await refuseFirm(ctx, "id", "customer", { id: customer, before: customer });
  const rows = await ctx.sql.all<{ words: string; item: number; person: string; moment: string }>(
    `SELECT w.words, w.item_id AS item, p.name AS person, w.moment
       FROM customer_word w JOIN person_name p ON p.id = w.person_id WHERE w.customer_id = $customer ORDER BY w.word_key`,
    { customer },
  );
  const brief = await briefs(
    ctx,
    rows.map((row) => row.item),
  );
  return { words: rows.map(({ item, ...row }) => ({ ...row, item: brief(item) })) };
}

/** Remembers what a customer calls items, in the place of what the same words meant before. */
export async function rememberWords(
  ctx: Writing,
  customer: number,
  { words }: ParsedBody<typeof routes.rememberWords>,
): Promise<void> {
  await refuseFirm(ctx, "id", "customer", { id: customer, before: customer });
  const rows = new Map(words.map(({ words, item }) => [wordsKey(words), { words, item }]));
  // Words without a letter or figure name nothing.
  rows.delete("");
  const brief = await briefs(
    ctx,
    [...rows.values()].map(({ item }) => item),
  );
  await ctx.sql.upsert(
    CUSTOMER_WORD,
    ["customer_id", "word_key"],
    [...rows].map(([word_key, { words, item }]) => ({
      customer_id: customer,
      word_key,
      words,
      item_id: brief(item).id,
      person_id: ctx.person.id,
      moment: ctx.moment,
    })),
  );
}

export async function forgetWords(ctx: Writing, customer: number, words: string): Promise<void> {
  const forgotten = await ctx
    .model(CUSTOMER_WORD)
    .destroy({ where: { customer_id: customer, word_key: wordsKey(words) } });
  if (forgotten === 0) throw Refusal.at("words", "not-found", { what: "name for an item", id: words });
}
