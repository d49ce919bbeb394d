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

function contextOf(store: Store, sql: Sql, company: CompanyRow | null, memo: Reading["memo"]): Reading {
  const moment = store.now().toISOString();
  return {
    sql,
    models: store.models,
    company,
    today: dayIn(company?.time_zone ?? "UTC", moment),
    moment,
    memo,
  };
}

/** Runs a question. */
export async function read<T>(store: Store, work: (ctx: Reading) => Promise<T>): Promise<T> {
  const [sql, memo] = [new Sql(store.db, null), memoOf(store)];
  const company = await memo("company", () => sql.one<CompanyRow>("SELECT * FROM company"));
  return work(contextOf(store, sql, company, memo));
}

/** Runs a command as one transaction; `person` is who does it, null only before there is anybody. */
export function change<T>(
  store: Store,
  person: number | null,
  work: (ctx: Writing) => Promise<T>,
): Promise<T> {
  return write(store.db, async (transaction) => {
    const sql = new Sql(store.db, transaction);
    const { company, who } = await head(sql, person);
    return work({ ...contextOf(store, sql, company, unkept), transaction, person: who });
  }).finally(() => memos.delete(store));
}

/** The company, and who does it, in one question: every command asks it. */
async function head(
  sql: Sql,
  person: number | null,
): Promise<{ company: CompanyRow | null; who: Writing["person"] }> {
  const row = await sql.one<Partial<CompanyRow> & { working: string | null }>(
    `SELECT c.*, (SELECT name FROM person WHERE id = $person) AS working FROM (SELECT 1) LEFT JOIN company c`,
    { person },
  );
  if (!row) throw new Error("A question without a table always has an answer");
  const { working, ...company } = row;
  if (person !== null && working === null) throw new Refusal("person-needed");
  return {
    company: company.id ? (company as CompanyRow) : null,
    who: { id: person ?? 0, name: working ?? "" },
  };
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
