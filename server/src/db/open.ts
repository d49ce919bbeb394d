import { mkdirSync } from "node:fs";
import { dirname } from "node:path";
import { Mutex } from "async-mutex";
import { Sequelize, Transaction } from "sequelize";
import sqlite3 from "sqlite3";
import { Connection } from "./connection.ts";

/** Opens the database file, making its folder where it is missing. One writer at a time: see `write`. */
export function openDb(storage: string): Sequelize {
  mkdirSync(dirname(storage), { recursive: true });
  const db = new Sequelize({
    dialect: "sqlite",
    dialectModule: { ...sqlite3, Database: Connection },
    storage,
    logging: false,
    transactionType: Transaction.TYPES.IMMEDIATE,
    retry: { max: 1 },
    define: { timestamps: false, freezeTableName: true },
  });
  // One kept connection for all transactions, which run one at a time, instead of one opened for each.
  const manager = db.connectionManager as unknown as {
    getConnection(options?: { uuid?: string }): Promise<unknown>;
    releaseConnection(connection: unknown): void;
  };
  const open = manager.getConnection.bind(manager);
  manager.getConnection = (options) => open({ ...options, uuid: options?.uuid ? "writer" : "default" });
  manager.releaseConnection = () => {};
  withoutStacks(db);
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
 * One write transaction. Writes run one after the other in the process: waiters inside SQLite would fill the thread pool
 * and starve the commit they wait for.
 */
export function write<T>(db: Sequelize, work: (transaction: Transaction) => Promise<T>): Promise<T> {
  const lock = locks.get(db) ?? new Mutex();
  locks.set(db, lock);
  return lock.runExclusive(() => db.transaction({ type: Transaction.TYPES.IMMEDIATE }, work));
}
