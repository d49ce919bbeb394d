import { QueryTypes, type Sequelize, type Transaction } from "sequelize";

export type Bound = Record<string, string | number | Buffer | null>;

/** SQL written by hand for the reads and bulk writes that must be fast. Values are always bound ($name), never pasted. */
export class Sql {
  readonly #db: Sequelize;
  readonly transaction: Transaction | null;

  constructor(db: Sequelize, transaction: Transaction | null) {
    this.#db = db;
    this.transaction = transaction;
  }

  async all<Row extends object>(sql: string, bind: Bound = {}): Promise<Row[]> {
    return this.#db.query<Row>(sql, {
      bind,
      type: QueryTypes.SELECT,
      raw: true,
      transaction: this.transaction,
    });
  }

  /**
   * The same rows as one JSON text. The driver hands rows over value by value, which takes longer than finding them where
   * there are hundreds of many columns. `columns` are those of `select`, of numbers and text.
   */
  async allAtOnce<Row extends object>(
    columns: readonly (keyof Row & string)[],
    select: string,
    bind: Bound = {},
  ): Promise<Row[]> {
    const named = columns.map((column) => `'${column}', ${column}`).join(", ");
    const row = await this.one<{ rows: string }>(
      `SELECT json_group_array(json_object(${named})) AS rows FROM (${select})`,
      bind,
    );
    return row === null ? [] : (JSON.parse(row.rows) as Row[]);
  }

  async one<Row extends object>(sql: string, bind: Bound = {}): Promise<Row | null> {
    return (await this.all<Row>(sql, bind))[0] ?? null;
  }

  /** Inserts one row, and gives its id; only inside a write transaction. */
  async insert(sql: string, bind: Bound = {}): Promise<number> {
    if (!this.transaction) throw new Error("A change needs a write transaction");
    const [id] = await this.#db.query(sql, {
      bind,
      type: QueryTypes.INSERT,
      transaction: this.transaction,
    });
    return id;
  }

  /** A statement that changes something; only inside a write transaction. */
  async run(sql: string, bind: Bound = {}): Promise<void> {
    if (!this.transaction) throw new Error("A change needs a write transaction");
    await this.#db.query(sql, { bind, type: QueryTypes.RAW, transaction: this.transaction });
  }
}

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
export async function together(...writes: readonly (Promise<unknown> | null)[]): Promise<void> {
  for (const done of await Promise.allSettled(writes)) if (done.status === "rejected") throw done.reason;
}
