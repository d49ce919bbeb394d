import { mkdirSync } from "node:fs";
import { dirname } from "node:path";
import sqlite3 from "sqlite3";

type Bound = Record<string, string | number | null>;

/**
 * A connection of its own for changes of the schema: they need foreign keys off from before their transaction on, which the
 * connection that commands write with never has.
 */
export class SchemaConnection {
  readonly #db: sqlite3.Database;

  private constructor(db: sqlite3.Database) {
    this.#db = db;
  }

  /** Opens the file, making it and its folder where they are missing. */
  static async open(file: string): Promise<SchemaConnection> {
    mkdirSync(dirname(file), { recursive: true });
    const db = await new Promise<sqlite3.Database>((resolve, reject) => {
      const opened = new sqlite3.Database(file, (error) => (error ? reject(error) : resolve(opened)));
    });
    return new SchemaConnection(db);
  }

  /** Runs several statements, one after the other. */
  exec(sql: string): Promise<void> {
    return new Promise((resolve, reject) => {
      this.#db.exec(sql, (error) => (error ? reject(error) : resolve()));
    });
  }

  all<Row>(sql: string, bind: Bound = {}): Promise<Row[]> {
    return new Promise((resolve, reject) => {
      this.#db.all<Row>(sql, named(bind), (error, rows) => (error ? reject(error) : resolve(rows)));
    });
  }

  run(sql: string, bind: Bound = {}): Promise<void> {
    return new Promise((resolve, reject) => {
      this.#db.run(sql, named(bind), (error) => (error ? reject(error) : resolve()));
    });
  }

  close(): Promise<void> {
    return new Promise((resolve, reject) => {
      this.#db.close((error) => (error ? reject(error) : resolve()));
    });
  }
}

const named = (bind: Bound) =>
  Object.fromEntries(Object.entries(bind).map(([name, value]) => [`$${name}`, value]));
