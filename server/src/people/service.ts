import { type Company, type ParsedBody, type Person, Refusal, type routes } from "@yosegi/contract";
import {
  codeKey,
  currencyDecimals,
  type Day,
  type Decimal,
  dayIn,
  MONEY_DECIMALS,
  quantityFromScaled,
  quantityToScaled,
} from "@yosegi/core";
import { COMPANY, type CompanyRow, type Reading, type Writing } from "../db/index.ts";
import { createStores } from "../ledger/index.ts";
import { PERSON } from "./tables.ts";

export function companyAnswer(ctx: Reading): Company | null {
  if (!ctx.company) return null;
  return answerOf(ctx.company, ctx.today);
}

type CompanyColumns = Pick<CompanyRow, "name" | "currency" | "time_zone" | "tax_rate">;

const answerOf = ({ name, currency, time_zone, tax_rate }: CompanyColumns, today: Day): Company => ({
  name,
  currency,
  timeZone: time_zone,
  taxRate: quantityFromScaled(tax_rate).toFixed(),
  today,
});

/** Everybody, also who works here no longer. */
export async function listPeople(ctx: Reading): Promise<Person[]> {
  const rows = await ctx.sql.all<{ id: number; name: string; archived: number }>(
    "SELECT id, name, archived FROM person ORDER BY id",
  );
  return rows.map((row) => ({ ...row, archived: row.archived === 1 }));
}

/** Renames the company, or changes its time zone or tax rate; its currency only while no figure is in it that it would change. */
export async function changeCompany(
  ctx: Writing,
  { name, currency, timeZone, taxRate }: ParsedBody<typeof routes.changeCompany>,
): Promise<Company> {
  const { company } = ctx;
  if (!company) throw new Refusal("not-set-up");
  if (!isTimeZone(timeZone)) throw Refusal.at("timeZone", "time-zone-unknown", { zone: timeZone });
  if (currency !== company.currency) await refuseCurrency(ctx, currency);
  const columns = { name, currency, time_zone: timeZone, tax_rate: quantityToScaled(taxRate) };
  await ctx.model(COMPANY).update(columns, { where: { id: company.id } });
  return answerOf(columns, dayIn(timeZone, ctx.moment));
}

/** Refuses another currency where stock is worth something in the old one, or a price has more decimals than the new one allows. */
async function refuseCurrency(ctx: Reading, currency: string): Promise<void> {
  if (await ctx.sql.one("SELECT 1 FROM stock_movement LIMIT 1"))
    throw Refusal.at("currency", "currency-posted");
  const step = 10 ** (MONEY_DECIMALS - currencyDecimals(currency));
  const priced = await ctx.sql.one<{ what: string }>(
    `SELECT i.code AS what FROM item_price p JOIN item_head i ON i.id = p.item_id WHERE p.price % $step <> 0
      UNION ALL SELECT 'An order' FROM order_price WHERE price % $step <> 0
      UNION ALL SELECT 'A price list' FROM list_price WHERE price % $step <> 0 LIMIT 1`,
    { step },
  );
  if (priced) throw Refusal.at("currency", "currency-prices", { what: priced.what, currency });
}

/** Names the company, its first store and its first person, once. */
export async function setUp(
  ctx: Writing,
  body: ParsedBody<typeof routes.setUp>,
): Promise<{ company: Company; person: Person }> {
  if (ctx.company) throw new Refusal("already-set-up");
  if (!isTimeZone(body.timeZone)) throw Refusal.at("timeZone", "time-zone-unknown", { zone: body.timeZone });
  const { name, currency, timeZone, taxRate } = body;
  const columns = { name, currency, time_zone: timeZone, tax_rate: quantityToScaled(taxRate) };
  await ctx.model(COMPANY).create({ id: 1, ...columns });
  await createStores(ctx, [body.store]);
  const person = await createPerson(ctx, body.person);
  return { company: answerOf(columns, dayIn(timeZone, ctx.moment)), person };
}

export async function addPerson(ctx: Writing, name: string): Promise<Person> {
  await refuseName(ctx, name, null);
  return createPerson(ctx, name);
}

/** Renames a person, or archives one who works here no longer. */
export async function changePerson(
  ctx: Writing,
  id: number,
  { name, archived }: ParsedBody<typeof routes.changePerson>,
): Promise<Person> {
  await refuseName(ctx, name, id);
  const others = (await listPeople(ctx)).filter((person) => person.id !== id && !person.archived);
  if (archived && others.length === 0) throw Refusal.at("archived", "last-one", { name, what: "person" });
  const columns = { name, name_key: codeKey(name), archived: archived ? 1 : 0 };
  const [changed] = await ctx.model(PERSON).update(columns, { where: { id } });
  if (changed === 0) throw new Refusal("not-found", { what: "person", id });
  return { id, name, archived };
}

/** Removes a person whom nothing names; refused by the keys of whatever does. */
export async function removePerson(ctx: Writing, id: number): Promise<Record<string, never>> {
  const people = await listPeople(ctx);
  const person = people.find((one) => one.id === id);
  if (!person) throw new Refusal("not-found", { what: "person", id });
  if (id === ctx.person.id) throw new Refusal("person-working", { name: person.name });
  await ctx.model(PERSON).destroy({ where: { id } });
  return {};
}

async function refuseName(ctx: Reading, name: string, id: number | null): Promise<void> {
  const found = await ctx.model(PERSON).findOne({ where: { name_key: codeKey(name) } });
  const taken = found?.get({ plain: true });
  if (taken && taken.id !== id) throw Refusal.at("name", "person-taken", { name: taken.name });
}

async function createPerson(ctx: Writing, name: string): Promise<Person> {
  const row = await ctx.model(PERSON).create({ name, name_key: codeKey(name) });
  return { id: row.get({ plain: true }).id, name, archived: false };
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
