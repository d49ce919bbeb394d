import { Refusal } from "@yosegi/contract";
import type { Reading } from "../db/index.ts";

/** Names of people by their ids. */
export async function personNames(ctx: Reading): Promise<Map<number, string>> {
  const people = await ctx.sql.all<{ id: number; name: string }>("SELECT id, name FROM person");
  return new Map(people.map((person) => [person.id, person.name]));
}

/** Refuses a person that is not there; the message stands at `field`. */
export async function checkPerson(ctx: Reading, field: string, id: number): Promise<void> {
  if (!(await personNames(ctx)).has(id)) throw Refusal.at(field, "not-found", { what: "person", id });
}
