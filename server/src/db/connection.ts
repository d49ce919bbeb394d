import sqlite3 from "sqlite3";

const BUSY_MS = 5000;
/** Most statements that a connection keeps; the one that was not sent for longest goes first. */
const MOST_KEPT = 300;

type Method = "all" | "run";
type Done = (this: unknown, error: Error | null, rows?: unknown) => void;

/**
 * A connection that is tuned before anything else is sent, and that keeps its statements prepared: reading and planning
 * SQL anew takes longer than most queries do. What it is sent runs one after the other, in the order in which it came.
 */
export class Connection extends sqlite3.Database {
  readonly #kept = new Map<string, sqlite3.Statement>();
  readonly #waiting: (() => void)[] = [];
  readonly #written: Set<string>;
  #busy = false;

  /** `written` gets the tables that are written by this connection. */
  constructor(
    file: string,
    mode: number,
    done: (error: Error | null) => void,
    written: Set<string> = new Set(),
  ) {
    super(file, mode, done);
    this.#written = written;
    this.configure("busyTimeout", BUSY_MS);
    // Sequelize's SQLite dialect never runs afterConnect; exec is queued before, and exclusive of, all that comes later.
    this.exec("PRAGMA foreign_keys=ON; PRAGMA journal_mode=WAL; PRAGMA synchronous=FULL;", (error) => {
      if (error) this.emit("error", error);
    });
  }

  override all(sql: string, ...rest: unknown[]): this {
    return this.#queue("all", sql, rest);
  }

  override run(sql: string, ...rest: unknown[]): this {
    return this.#queue("run", sql, rest);
  }

  /** SQLite closes only what has no statement left. */
  override close(done?: (error: Error | null) => void): void {
    for (const statement of this.#kept.values()) statement.finalize();
    this.#kept.clear();
    super.close(done);
  }

  /** Takes its turn: a prepared statement starts at once, so that their order is kept here. */
  #queue(method: Method, sql: string, rest: unknown[]): this {
    const done = typeof rest.at(-1) === "function" ? (rest.pop() as Done) : this.#unheard;
    const start = () => this.#send(method, sql, rest, done);
    if (this.#busy) this.#waiting.push(start);
    else {
      this.#busy = true;
      start();
    }
    return this;
  }

  #send(method: Method, sql: string, values: unknown[], done: Done): void {
    const table = WRITES.exec(sql)?.[1];
    if (table !== undefined) this.#written.add(table);
    const next = () => {
      const start = this.#waiting.shift();
      if (start) start();
      else this.#busy = false;
    };
    const statement = this.#prepared(sql, (error) => {
      this.#kept.delete(sql);
      next();
      done.call(this, error);
    });
    statement[method](...values, function (this: unknown, error: Error | null, rows?: unknown) {
      // The next one is under way while this one's rows are read.
      next();
      done.call(this, error, rows);
    });
    // One that gives rows to `run` is left half read, and would stand in the way of the commit.
    if (method === "run" && RETURNING.test(sql)) this.#forget(sql);
  }

  /** A kept statement, or a new one; `failed` hears of SQL that cannot be prepared, and then nothing else does. */
  #prepared(sql: string, failed: (error: Error) => void): sqlite3.Statement {
    const kept = this.#kept.get(sql);
    const statement =
      kept ??
      this.prepare(sql, (error: Error | null) => {
        if (error) failed(error);
      });
    // Set again, it is the latest in the map's order.
    this.#kept.delete(sql);
    this.#kept.set(sql, statement);
    const [oldest] = this.#kept.keys();
    if (this.#kept.size > MOST_KEPT && oldest !== undefined) this.#forget(oldest);
    return statement;
  }

  #forget(sql: string): void {
    this.#kept.get(sql)?.finalize();
    this.#kept.delete(sql);
  }

  /** Where nobody waits for the answer, a failure is the connection's. */
  #unheard: Done = (error) => {
    if (error) this.emit("error", error);
  };
}

const WRITES = /^\s*(?:INSERT\s+(?:OR\s+\w+\s+)?INTO|UPDATE|DELETE\s+FROM)\s+[`"]?(\w+)/i;

const RETURNING = /\breturning\b/i;
