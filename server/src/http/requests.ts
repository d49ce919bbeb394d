import { createHash } from "node:crypto";
import { Refusal } from "@yosegi/contract";
import { addDays } from "@yosegi/core";
import { integer, key, table, text, type Writing } from "../db/index.ts";

/** The answers that commands got, by the key that came with them. */
const REQUEST = table("request", {
  person_id: key(integer()),
  key: key(text()),
  route: text(),
  body_hash: text(),
  answer: text(),
  moment: text(),
});

interface KeyedRequest {
  key: string;
  /** Method and address. */
  route: string;
  body: unknown;
}

/**
 * Does a command once per person and idempotency key: whoever sends it again after a lost connection gets the first answer.
 * Refuses a key that came with another command before.
 */
export async function once<Answer>(
  ctx: Writing,
  { key, route, body }: KeyedRequest,
  command: () => Promise<Answer>,
): Promise<Answer> {
  const person_id = ctx.person.id;
  const body_hash = createHash("sha256")
    .update(JSON.stringify(body ?? null))
    .digest("hex");
  const earlier = await ctx.sql.one<{ route: string; body_hash: string; answer: string }>(
    "SELECT route, body_hash, answer FROM request WHERE person_id = $person AND key = $key",
    { person: person_id, key },
  );
  if (earlier) {
    if (earlier.route !== route || earlier.body_hash !== body_hash) throw new Refusal("key-reused");
    return JSON.parse(earlier.answer) as Answer;
  }
  const answer = await command();
  await ctx.sql.insert(REQUEST, [
    { person_id, key, route, body_hash, answer: JSON.stringify(answer), moment: ctx.moment },
  ]);
  await forgetRequests(ctx);
  return answer;
}

/** A key is known for so many days. */
const KEY_DAYS = 30;

/** Forgets keys that nobody sends again, a few with each command. */
async function forgetRequests(ctx: Writing): Promise<void> {
  await ctx.sql.run(
    `DELETE FROM request WHERE rowid IN (SELECT rowid FROM request WHERE moment < $before ORDER BY moment LIMIT 20)`,
    { before: `${addDays(ctx.moment.slice(0, 10), -KEY_DAYS)}T00:00:00.000Z` },
  );
}
