import { QueryTypes, type Sequelize } from "sequelize";
import { openDb } from "./open.ts";

/** So many questions are answered at once; the others wait for their turn. */
const READERS = 4;

/** A kept connection that one question at a time reads with, and what is remembered of what it read. */
export interface Reader {
  db: Sequelize;
  /** What was read since the database last changed, by a name. */
  kept: Kept;
  /** The same of what only the catalog tells, since that last changed. */
  catalog: Kept;
}

export type Kept = Map<string, Promise<unknown>>;

interface Seen extends Reader {
  /** What SQLite counts up on this connection whenever another one has committed a change. */
  version: number;
  /** The same of changes of the catalog; null where some list may take effect by what happens to stock. */
  catalogVersion: number | null;
}

/** The connections that questions read with. Each question is one read transaction: all its figures are of one moment. */
export class Readers {
  readonly #file: string;
  readonly #free: Seen[] = [];
  readonly #waiting: ((reader: Seen) => void)[] = [];
  #opened = 0;

  constructor(file: string) {
    this.#file = file;
  }

  /** Answers a question from one moment of the database. */
  async ask<T>(question: (reader: Reader) => Promise<T>): Promise<T> {
    const reader = await this.#take();
    try {
      await reader.db.query("BEGIN");
      try {
        await this.#begin(reader);
        return await question(reader);
      } finally {
        await reader.db.query("COMMIT");
      }
    } finally {
      this.#giveBack(reader);
    }
  }

  async close(): Promise<void> {
    await Promise.all(this.#free.map((reader) => reader.db.close()));
  }

  /** Fixes the moment by reading, and forgets what was kept where the database has changed since. */
  async #begin(reader: Seen): Promise<void> {
    const [row] = await reader.db.query<{ data_version: number }>("PRAGMA data_version", {
      type: QueryTypes.SELECT,
    });
    const version = row?.data_version ?? 0;
    if (version === reader.version) return;
    reader.version = version;
    reader.kept = new Map();
    const catalogVersion = await catalogVersionOf(reader.db);
    if (catalogVersion === null || catalogVersion !== reader.catalogVersion) reader.catalog = new Map();
    reader.catalogVersion = catalogVersion;
  }

  async #take(): Promise<Seen> {
    const free = this.#free.pop();
    if (free) return free;
    if (this.#opened < READERS) {
      this.#opened++;
      return this.#open();
    }
    return new Promise((resolve) => this.#waiting.push(resolve));
  }

  #giveBack(reader: Seen): void {
    const next = this.#waiting.shift();
    if (next) next(reader);
    else this.#free.push(reader);
  }

  async #open(): Promise<Seen> {
    const db = openDb(this.#file);
    await db.query("PRAGMA query_only = ON");
    return {
      db,
      kept: new Map(),
      catalog: new Map(),
      version: -1,
      catalogVersion: null,
    };
  }
}

/** How often the catalog has changed; null while a locked list waits for an old part to run out, which stock decides. */
async function catalogVersionOf(db: Sequelize): Promise<number | null> {
  const [row] = await db.query<{ changes: number; waits: number }>(
    `SELECT changes, EXISTS (SELECT 1 FROM revision WHERE state = 'locked' AND starts = 'run out') AS waits FROM catalog_change`,
    { type: QueryTypes.SELECT },
  );
  return row && row.waits === 0 ? row.changes : null;
}
