import { type DataArea, Refusal } from "@yosegi/contract";
import { currencyDecimals, type Day, dayIn } from "@yosegi/core";
import type { Sequelize } from "sequelize";
import { areasOf, Changes } from "./changes.ts";
import type { CompanyRow } from "./company.ts";
import { migrate } from "./migrating.ts";
import { openDb, write } from "./open.ts";
import { type Kept, Readers } from "./readers.ts";
import { checkSchema } from "./schema.ts";
import { Sql } from "./sql.ts";
import { type ModelOf, modelOf, type Table } from "./table.ts";
import type { Views } from "./views.ts";

/** What a use case reads with. */
export interface Reading {
  /** Sets of rows, by SQL. */
  sql: Sql;
  /** The model of a table, for one row of it. */
  model: <T extends Table>(table: T) => ModelOf<T>;
  /** Who asks; null where nobody is named, such as for a file that is opened by its address. */
  person: Person | null;
  company: CompanyRow | null;
  /** How many decimals the company's currency has. */
  currencyDecimals: number;
  /** The calendar date in the company's time zone. */
  today: Day;
  /** Now, in UTC. */
  moment: string;
  /**
   * Keeps what was read until the next change of the database: for what many questions need and hardly anything
   * changes. Within a command nothing is kept, for the command itself may change it.
   */
  memo: Memo;
  /** The same of what follows from the catalog alone, until that changes: items, lists, units, the company. */
  memoOfCatalog: Memo;
}

type Memo = <T>(name: string, make: () => Promise<T>) => Promise<T>;

/** What a command writes with: one transaction, and the person who does it. */
export interface Writing extends Reading {
  person: Person;
  /** What the person calls the device that it is done on; "" where it has no name. */
  device: string;
}

export interface Person {
  id: number;
  name: string;
}

/** The database: one connection that writes, a few that read, and the clock. */
export interface Store {
  /** The connection that writes; nothing reads by it but a command. */
  db: Sequelize;
  readers: Readers;
  /** What commands have changed, as they commit. */
  changes: Changes;
  now: () => Date;
  close: () => Promise<void>;
}

/**
 * Opens a database file and brings its schema and views up to date. Throws WrongDatabase for a file of another program or of a newer
 * version, and leaves it as it is.
 */
export async function openDatabase(
  file: string,
  views: Views,
  now: () => Date = () => new Date(),
): Promise<Store> {
  const { current } = await checkSchema(file, views);
  if (!current) await migrate(file, views);
  const db = openDb(file);
  const readers = new Readers(file);
  const close = async () => {
    await readers.close();
    await db.close();
  };
  return { db, readers, changes: new Changes(), now, close };
}

/** Of so many names what was made is kept; then it begins anew. */
const MOST_KEPT = 1_000;

/** Keeps what a reader made under a name; what could not be read is tried again. */
function memoOf(kept: Kept): Memo {
  return <T>(name: string, make: () => Promise<T>): Promise<T> => {
    const found = kept.get(name) ?? make();
    if (kept.size >= MOST_KEPT) kept.clear();
    kept.set(name, found);
    found.catch(() => kept.delete(name));
    return found as Promise<T>;
  };
}

/** Before there is a company, nothing has a price. */
const DECIMALS_UNKNOWN = 2;

const unkept: Memo = (_, make) => make();

function contextOf(
  now: () => Date,
  company: CompanyRow | null,
  { sql, memo, memoOfCatalog }: Pick<Reading, "sql" | "memo" | "memoOfCatalog">,
): Omit<Reading, "person"> {
  const moment = now().toISOString();
  return {
    sql,
    model: (table) => modelOf(sql.db, table),
    memo,
    memoOfCatalog,
    company,
    currencyDecimals: company ? currencyDecimals(company.currency) : DECIMALS_UNKNOWN,
    today: dayIn(company?.time_zone ?? "UTC", moment),
    moment,
  };
}

/** Answers a question: all that it reads is of one moment. `asks` is the id of who asks, where that is known. */
export function read<T>(
  { readers, now }: Store,
  work: (ctx: Reading) => Promise<T>,
  asks: number | null = null,
): Promise<T> {
  return readers.ask(async (reader) => {
    const sql = new Sql(reader.db, "reads");
    const [memo, memoOfCatalog] = [memoOf(reader.kept), memoOf(reader.catalog)];
    const company = await memoOfCatalog("company", () => sql.one<CompanyRow>("SELECT * FROM company"));
    const person = await memo(`person ${asks}`, () => personById(sql, asks));
    return work({ ...contextOf(now, company, { sql, memo, memoOfCatalog }), person });
  });
}

const personById = (sql: Sql, id: number | null): Promise<Person | null> =>
  id === null ? Promise.resolve(null) : sql.one<Person>("SELECT id, name FROM person WHERE id = $id", { id });

/**
 * Runs a command as one transaction; `person` is who does it, null only before there is anybody. `key` is the one it came
 * with, `device` what the device is called; `changed` hears which areas it changed, before anybody else does.
 */
export function change<T>(
  { db, now, changes }: Store,
  person: number | null,
  work: (ctx: Writing) => Promise<T>,
  {
    key = "",
    device = "",
    changed = () => {},
  }: { key?: string; device?: string; changed?: (areas: readonly DataArea[]) => void } = {},
): Promise<T> {
  return write(
    db,
    async () => {
      const sql = new Sql(db, "writes");
      try {
        const { company, who } = await head(sql, person);
        await sql.run("UPDATE working SET person_id = $person, moment = $moment", {
          person,
          moment: now().toISOString(),
        });
        return await work({
          ...contextOf(now, company, { sql, memo: unkept, memoOfCatalog: unkept }),
          person: who,
          device,
        });
      } finally {
        sql.end();
      }
    },
    (tables) => {
      const areas = areasOf(tables);
      changed(areas);
      changes.tell({ areas, key });
    },
  );
}

/** The company, and who does it, in one question: every command asks it. */
async function head(sql: Sql, person: number | null): Promise<{ company: CompanyRow | null; who: Person }> {
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
