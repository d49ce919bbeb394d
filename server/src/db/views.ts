import type { SchemaConnection } from "./schemaconnection.ts";

/** Views by name, each with the statement that makes it, as SQLite keeps it. */
export type Views = ReadonlyMap<string, string>;

/** Views of what they select. */
export const viewsOf = (selects: Readonly<Record<string, string>>): Views =>
  new Map(Object.entries(selects).map(([name, select]) => [name, `CREATE VIEW ${name} AS ${select.trim()}`]));

export interface StoredView {
  name: string;
  sql: string;
}

/** Whether a database has these views, and no others. */
export const hasViews = (views: Views, stored: readonly StoredView[]): boolean =>
  stored.length === views.size && stored.every(({ name, sql }) => views.get(name) === sql);

/** Writes these views in the place of those that are there: they hold no data. */
export async function writeViews(db: SchemaConnection, views: Views): Promise<void> {
  const stored = await db.all<StoredView>("SELECT name, sql FROM sqlite_master WHERE type = 'view'");
  if (hasViews(views, stored)) return;
  for (const { name } of stored) await db.exec(`DROP VIEW ${name}`);
  for (const sql of views.values()) await db.exec(sql);
}
