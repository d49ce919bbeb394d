import { mkdirSync } from "node:fs";
import { dirname } from "node:path";
import { Mutex } from "async-mutex";
import { Sequelize } from "sequelize";
import sqlite3 from "sqlite3";
import { Connection } from "./connection.ts";

/** The tables that each database's connections have written since they were last asked for. */
const written = new WeakMap<Sequelize, Set<string>>();

/** Opens the database file, making its folder where it is missing. One writer at a time: see `write`. */
export function openDb(storage: string): Sequelize {
  mkdirSync(dirname(storage), { recursive: true });
  const tables = new Set<string>();
  const db = new Sequelize({
    dialect: "sqlite",
    dialectModule: {
      ...sqlite3,
      Database: class extends Connection {
        constructor(file: string, mode: number, done: (error: Error | null) => void) {
          super(file, mode, done, tables);
        }
      },
    },
    storage,
    logging: false,
    retry: { max: 1 },
    define: { timestamps: false, freezeTableName: true },
  });
  withoutStacks(db);
  written.set(db, tables);
  return db;
}

interface Querying {
  run(sql: string, parameters?: unknown): Promise<unknown>;
}

/**
 * Sequelize writes out the stack of every query, for the case that it fails; with source maps that takes longer than most
 * queries do. A query that fails says its SQL, and the use case that sent it is in the stack of what awaited it.
 */
function withoutStacks(db: Sequelize): void {
  const { dialect } = db as unknown as { dialect: { Query: new (...args: never[]) => Querying } };
  dialect.Query = class extends dialect.Query {
    override run(sql: string, parameters?: unknown): Promise<unknown> {
      const limit = Error.stackTraceLimit;
      Error.stackTraceLimit = 0;
      try {
        return super.run(sql, parameters);
      } finally {
        Error.stackTraceLimit = limit;
      }
    }
  };
}

const locks = new WeakMap<Sequelize, Mutex>();

/**
 * One write transaction, on the connection that a question without a transaction has anyway. Writes run one after the
 * other in the process: waiters inside SQLite would fill the thread pool and starve the commit they wait for. `committed`
 * hears which tables it wrote.
 */
export function write<T>(
  db: Sequelize,
  work: () => Promise<T>,
  committed: (tables: readonly string[]) => void = () => {},
): Promise<T> {
  const lock = locks.get(db) ?? new Mutex();
  locks.set(db, lock);
  return lock.runExclusive(async () => {
    const tables = written.get(db) ?? new Set();
    tables.clear();
    await db.query("BEGIN IMMEDIATE");
    try {
      const done = await work();
      await db.query("COMMIT");
      committed([...tables]);
      return done;
    } catch (error) {
      await rollBack(db);
      throw error;
    }
  });
}

/** A full disk and the like have rolled back already when they are told. */
async function rollBack(db: Sequelize): Promise<void> {
  try {
    await db.query("ROLLBACK");
  } catch (error) {
    if (!(error instanceof Error) || !error.message.includes("no transaction is active")) throw error;
  }
}
