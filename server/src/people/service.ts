import { type Company, type ParsedBody, type Person, Refusal, type routes } from "@yosegi/contract";
import { codeKey, type Decimal, dayIn, quantityToScaled } from "@yosegi/core";
import type { Reading, Writing } from "../db/index.ts";
import { COMPANY } from "../db/index.ts";
import { createStores } from "../ledger/index.ts";
import { PERSON } from "./tables.ts";

export function companyAnswer(ctx: Reading): Company | null {
  if (!ctx.company) return null;
  const { name, currency, time_zone } = ctx.company;
  return { name, currency, timeZone: time_zone, today: ctx.today };
}

export async function listPeople(ctx: Reading): Promise<Person[]> {
  return ctx.sql.all<Person>("SELECT id, name FROM person ORDER BY id");
}

/** Names the company, its first store and its first person, once. */
export async function setUp(
  ctx: Writing,
  body: ParsedBody<typeof routes.setUp>,
): Promise<{ company: Company; person: Person }> {
  if (ctx.company) throw new Refusal("already-set-up");
  if (!isTimeZone(body.timeZone)) throw Refusal.at("timeZone", "time-zone-unknown", { zone: body.timeZone });
  const { name, currency, timeZone } = body;
  await ctx.model(COMPANY).create({ id: 1, name, currency, time_zone: timeZone });
  await createStores(ctx, [body.store]);
  const person = await createPerson(ctx, body.person);
  return { company: { name, currency, timeZone, today: dayIn(timeZone, ctx.moment) }, person };
}

export async function addPerson(ctx: Writing, name: string): Promise<Person> {
  const taken = await ctx.model(PERSON).findOne({
    where: { name_key: codeKey(name) },
  });
  if (taken) throw Refusal.at("name", "person-taken", { name: taken.get({ plain: true }).name });
  return createPerson(ctx, name);
}

async function createPerson(ctx: Writing, name: string): Promise<Person> {
  const row = await ctx.model(PERSON).create({ name, name_key: codeKey(name) });
  return { id: row.get({ plain: true }).id, name };
}

function isTimeZone(zone: string): boolean {
  try {
    return new Intl.DateTimeFormat("en", { timeZone: zone }).resolvedOptions().timeZone !== "";
  } catch (error) {
    if (error instanceof RangeError) return false;
    throw error;
  }
}

/** Remembers the margin that prices are looked over for, in percent. */
export async function setMarginWish(ctx: Writing, percent: Decimal): Promise<void> {
  await ctx.model(COMPANY).update({ margin_wish: quantityToScaled(percent) }, { where: { id: 1 } });
}
