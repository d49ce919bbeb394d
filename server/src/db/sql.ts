import { QueryTypes, type Sequelize } from "sequelize";
import type { NewRow, Row, Table } from "./table.ts";

export type Bound = Record<string, string | number | Buffer | null>;

/**
 * SQL for sets of rows, and for the reads that must be fast. Values are always bound ($name), never pasted; all of it is one
 * transaction of its connection, which ends with the question or command that asks.
 */
export class Sql {
  readonly #use: "reads" | "writes";
  readonly #db: Sequelize;
  #ended = false;

  constructor(db: Sequelize, use: "reads" | "writes") {
    this.#db = db;
    this.#use = use;
  }

  /** The connection; refused once its transaction has ended, for the next one's would be met. */
  get db(): Sequelize {
    if (this.#ended) throw new Error("The transaction of this statement has ended");
    return this.#db;
  }

  /** Called when the transaction ends: what still comes is a fault of whoever did not wait for it. */
  end(): void {
    this.#ended = true;
  }

  async all<Found extends object>(sql: string, bind: Bound = {}): Promise<Found[]> {
    return this.db.query<Found>(sql, { bind, type: QueryTypes.SELECT, raw: true });
  }

  /**
   * The same rows as one JSON text. The driver hands rows over value by value, which takes longer than finding them where
   * there are hundreds of many columns. `columns` are those of `select`, of numbers and text.
   */
  async allAtOnce<Found extends object>(
    columns: readonly (keyof Found & string)[],
    select: string,
    bind: Bound = {},
  ): Promise<Found[]> {
    const named = columns.map((column) => `'${column}', ${column}`).join(", ");
    const row = await this.one<{ rows: string }>(
      `SELECT json_group_array(json_object(${named})) AS rows FROM (${select})`,
      bind,
    );
    return row === null ? [] : (JSON.parse(row.rows) as Found[]);
  }

  async one<Found extends object>(sql: string, bind: Bound = {}): Promise<Found | null> {
    return (await this.all<Found>(sql, bind))[0] ?? null;
  }

  /** A statement that changes something. */
  async run(sql: string, bind: Bound = {}): Promise<void> {
    await this.#writer.query(sql, { bind, type: QueryTypes.RAW });
  }

  /**
   * Inserts rows by one statement, all with the same columns, and gives their ids in the same order; of a table without
   * ids they mean nothing. `then` is what follows the rows in SQL, such as ON CONFLICT.
   */
  async insert<T extends Table>({ name }: T, rows: readonly NewRow<T>[], then = ""): Promise<number[]> {
    const [first] = rows;
    if (first === undefined) return [];
    const columns = Object.keys(first);
    const [last] = await this.#writer.query(
      `INSERT INTO ${name} (${columns.join(", ")}) ${ROWS}
       SELECT ${columns.map((column) => `value ->> '${column}'`).join(", ")} FROM r WHERE true ${then}`,
      { bind: { rows: JSON.stringify(rows) }, type: QueryTypes.INSERT },
    );
    // One statement of the only writer: what it inserted has ids one after the other.
    return rows.map((_, i) => last - rows.length + 1 + i);
  }

  /** Inserts rows, and changes those that are there already: the same in the columns `by`, which are unique together. */
  async upsert<T extends Table>(
    table: T,
    by: readonly (keyof T["columns"] & string)[],
    rows: readonly NewRow<T>[],
  ): Promise<void> {
    const values = Object.keys(rows[0] ?? {}).filter((column) => !by.includes(column));
    const set = values.map((column) => `${column} = excluded.${column}`).join(", ");
    await this.insert(table, rows, `ON CONFLICT (${by.join(", ")}) DO UPDATE SET ${set}`);
  }

  /** Changes rows by one statement: each row names its key columns `by`, and the new values of the others. */
  async update<T extends Table>(
    { name }: T,
    by: readonly (keyof T["columns"] & string)[],
    rows: readonly Partial<Row<T>>[],
  ): Promise<void> {
    const [first] = rows;
    if (first === undefined) return;
    const values = Object.keys(first).filter((column) => !by.includes(column));
    await this.run(
      `${ROWS} UPDATE ${name} SET ${values.map((column) => `${column} = r.value ->> '${column}'`).join(", ")}
         FROM r WHERE ${by.map((column) => `${name}.${column} = r.value ->> '${column}'`).join(" AND ")}`,
      { rows: JSON.stringify(rows) },
    );
  }

  get #writer(): Sequelize {
    if (this.#use !== "writes") throw new Error("A change needs a write transaction");
    return this.db;
  }
}

/** Rows bound as $rows, each read once: as text, every column of it would be looked for anew. */
const ROWS = "WITH r AS MATERIALIZED (SELECT jsonb(value) AS value FROM json_each($rows))";

/** Ids or rows handed to SQL in one bound value, read there with json_each. */
export const asJson = (values: Iterable<unknown>): string => JSON.stringify([...values]);

/** The one row of a set of one that was just written or asked for. */
export function firstOf<T>([first]: readonly T[]): T {
  if (first === undefined) throw new Error("A set of one came back empty");
  return first;
}

/** Rows by what they have in common, in the order in which they came. */
export function groupBy<T, K>(rows: readonly T[], key: (row: T) => K): Map<K, T[]> {
  const groups = new Map<K, T[]>();
  for (const row of rows) {
    const group = groups.get(key(row));
    if (group) group.push(row);
    else groups.set(key(row), [row]);
  }
  return groups;
}

/**
 * Waits for writes that were sent together, for all of them also where one fails: nothing of a command may still be under
 * way when its transaction is rolled back.
 */
export async function settleAll(...writes: readonly (Promise<unknown> | null)[]): Promise<void> {
  for (const done of await Promise.allSettled(writes)) if (done.status === "rejected") throw done.reason;
}
