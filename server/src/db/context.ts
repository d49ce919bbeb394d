import { Refusal } from "@yosegi/contract";
import { type Day, dayIn } from "@yosegi/core";
import type { Sequelize, Transaction } from "sequelize";
import { migrate } from "./migrations.ts";
import { type CompanyRow, defineModels, type Models } from "./models.ts";
import { openDb, write } from "./open.ts";
import { Sql } from "./sql.ts";

/** What a use case reads with. */
export interface Reading {
  sql: Sql;
  models: Models;
  company: CompanyRow | null;
  /** The calendar date in the company's time zone. */
  today: Day;
  /** Now, in UTC. */
  moment: string;
}

/** What a command writes with: one transaction, and the person who does it. */
export interface Writing extends Reading {
  transaction: Transaction;
  person: { id: number; name: string };
}

/** The database with its models and its clock. */
export interface Store {
  db: Sequelize;
  models: Models;
  now: () => Date;
}

/** Opens a database file and brings its schema up to date. */
export async function openStore(file: string, now: () => Date = () => new Date()): Promise<Store> {
  const db = openDb(file);
  await migrate(db);
  return { db, models: defineModels(db), now };
}

/** The company as it was read last. Every request asks for it and hardly any changes it, so a change forgets it. */
const known = new WeakMap<Store, CompanyRow>();

async function companyOf(store: Store, transaction: Transaction | null): Promise<CompanyRow | null> {
  const kept = known.get(store);
  if (kept) return kept;
  const row = await store.models.company.findByPk(1, { transaction });
  const company = row?.get({ plain: true }) ?? null;
  // What a transaction reads may be taken back with it.
  if (company && transaction === null) known.set(store, company);
  return company;
}

async function reading(store: Store, transaction: Transaction | null): Promise<Reading> {
  const company = await companyOf(store, transaction);
  const moment = store.now().toISOString();
  return {
    sql: new Sql(store.db, transaction),
    models: store.models,
    company,
    today: dayIn(company?.time_zone ?? "UTC", moment),
    moment,
  };
}

/** Runs a question. */
export async function read<T>(store: Store, work: (ctx: Reading) => Promise<T>): Promise<T> {
  return work(await reading(store, null));
}

/** Runs a command as one transaction; `person` is who does it, null only before there is anybody. */
export function change<T>(
  store: Store,
  person: number | null,
  work: (ctx: Writing) => Promise<T>,
): Promise<T> {
  return write(store.db, async (transaction) => {
    known.delete(store);
    const ctx = await reading(store, transaction);
    return work({ ...ctx, transaction, person: await findPerson(ctx, transaction, person) });
  }).finally(() => known.delete(store));
}

async function findPerson(ctx: Reading, transaction: Transaction, id: number | null) {
  if (id === null) return { id: 0, name: "" };
  const row = await ctx.models.person.findByPk(id, { transaction });
  if (!row) throw new Refusal("person-needed");
  return row.get({ plain: true });
}

/** The next number of a kind of document: B-1, B-2 … Never given twice, never given back within a transaction that fails. */
export async function nextNumber(ctx: Writing, prefix: string): Promise<string> {
  await ctx.sql.run(
    "INSERT INTO counter (prefix, last) VALUES ($prefix, 1) ON CONFLICT (prefix) DO UPDATE SET last = last + 1",
    { prefix },
  );
  const row = await ctx.sql.one<{ last: number }>("SELECT last FROM counter WHERE prefix = $prefix", {
    prefix,
  });
  return `${prefix}-${row?.last}`;
}
