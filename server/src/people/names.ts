import type { Reading } from "../db/index.ts";

/** Names of people by their ids. */
export async function personNames(ctx: Reading): Promise<Map<number, string>> {
  const people = await ctx.sql.all<{ id: number; name: string }>("SELECT id, name FROM person");
  return new Map(people.map((person) => [person.id, person.name]));
}
