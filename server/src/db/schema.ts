import { existsSync, statSync } from "node:fs";
import sqlite3 from "sqlite3";
import { MIGRATIONS } from "./migrating.ts";
import { hasViews, type StoredView, type Views } from "./views.ts";
import { WrongDatabase } from "./wrongdatabase.ts";

/**
 * Refuses a file that is no database of this program, or one of a newer version of it, before anything is written to it.
 * Tells whether it has all steps of this version's schema, and these views; what is not there, or empty, has none.
 */
export async function checkSchema(file: string, views: Views): Promise<{ current: boolean }> {
  if (!existsSync(file) || statSync(file).size === 0) return { current: false };
  const db = await openReadOnly(file);
  try {
    const tables = (
      await all<{ name: string }>(db, "SELECT name FROM sqlite_master WHERE type = 'table'", file)
    ).map((row) => row.name);
    if (tables.length === 0) return { current: false };
    if (!tables.includes("schema_migration") || !tables.includes("person"))
      throw new WrongDatabase(`${file} is a database of another program; nothing in it was touched.`);
    const applied = (await all<{ name: string }>(db, "SELECT name FROM schema_migration", file)).map(
      (row) => row.name,
    );
    const unknown = applied.filter((name) => !MIGRATIONS.includes(name));
    if (unknown.length > 0)
      throw new WrongDatabase(
        `${file} was written by a newer version of Yosegi (${unknown.join(", ")}). Start that version; nothing was touched.`,
      );
    const stored = await all<StoredView>(db, "SELECT name, sql FROM sqlite_master WHERE type = 'view'", file);
    return { current: MIGRATIONS.every((name) => applied.includes(name)) && hasViews(views, stored) };
  } finally {
    db.close();
  }
}

const openReadOnly = (file: string): Promise<sqlite3.Database> =>
  new Promise((resolve, reject) => {
    const db = new sqlite3.Database(file, sqlite3.OPEN_READONLY, (error) =>
      error ? reject(new WrongDatabase(`${file} cannot be opened: ${error.message}`)) : resolve(db),
    );
  });

const all = <Row>(db: sqlite3.Database, sql: string, file: string): Promise<Row[]> =>
  new Promise((resolve, reject) => {
    db.all<Row>(sql, (error, rows) =>
      error
        ? reject(new WrongDatabase(`${file} is no database, or is damaged: ${error.message}`))
        : resolve(rows),
    );
  });
