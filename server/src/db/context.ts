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
  /**
   * Keeps what was read until the next change of the database: for what many questions need and hardly anything
   * changes. Within a command nothing is kept, for the command itself may change it.
   */
  memo: <T>(name: string, make: () => Promise<T>) => Promise<T>;
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

/** What questions read of each store since its last change. A change puts another map in its place, so that a question that began before it keeps its answers to itself. */
const memos = new WeakMap<Store, Map<string, Promise<unknown>>>();

function memoOf(store: Store): Reading["memo"] {
  const kept = memos.get(store) ?? new Map<string, Promise<unknown>>();
  memos.set(store, kept);
  return <T>(name: string, make: () => Promise<T>): Promise<T> => {
    const found = kept.get(name) ?? make();
    kept.set(name, found);
    // what could not be read is tried again
    found.catch(() => kept.delete(name));
    return found as Promise<T>;
  };
}

const unkept: Reading["memo"] = (_, make) => make();

async function reading(store: Store, transaction: Transaction | null): Promise<Reading> {
  const memo = transaction === null ? memoOf(store) : unkept;
  const company = await memo("company", async () => {
    const row = await store.models.company.findByPk(1, { transaction });
    return row?.get({ plain: true }) ?? null;
  });
  const moment = store.now().toISOString();
  return {
    sql: new Sql(store.db, transaction),
    models: store.models,
    company,
    today: dayIn(company?.time_zone ?? "UTC", moment),
    moment,
    memo,
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
    const ctx = await reading(store, transaction);
    return work({ ...ctx, transaction, person: await findPerson(ctx, transaction, person) });
  }).finally(() => memos.delete(store));
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
