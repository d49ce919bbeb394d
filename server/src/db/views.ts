import { allocationViews } from "../allocations/views.ts";
import { buildViews } from "../builds/views.ts";
import { buyingViews } from "../buying/views.ts";
import { fileViews } from "../files/views.ts";
import { firmViews } from "../firms/views.ts";
import { itemViews } from "../items/views.ts";
import { kitViews } from "../kits/views.ts";
import { ledgerViews } from "../ledger/views.ts";
import { listViews } from "../lists/views.ts";
import { orderViews } from "../orders/views.ts";
import { peopleViews } from "../people/views.ts";
import type { SchemaConnection } from "./schemaconnection.ts";

/** The views of every area by name, as SQLite keeps them. */
export const VIEWS: ReadonlyMap<string, string> = new Map(
  Object.entries({
    ...itemViews,
    ...listViews,
    ...kitViews,
    ...firmViews,
    ...peopleViews,
    ...fileViews,
    ...buildViews,
    ...buyingViews,
    ...orderViews,
    ...allocationViews,
    ...ledgerViews,
  }).map(([name, select]) => [name, `CREATE VIEW ${name} AS ${select.trim()}`]),
);

export interface StoredView {
  name: string;
  sql: string;
}

/** Whether a database has the views of this version, and no others. */
export const hasViews = (stored: readonly StoredView[]): boolean =>
  stored.length === VIEWS.size && stored.every(({ name, sql }) => VIEWS.get(name) === sql);

/** Writes the views of this version in the place of those that are there: they hold no data. */
export async function writeViews(db: SchemaConnection): Promise<void> {
  const stored = await db.all<StoredView>("SELECT name, sql FROM sqlite_master WHERE type = 'view'");
  if (hasViews(stored)) return;
  for (const { name } of stored) await db.exec(`DROP VIEW ${name}`);
  for (const sql of VIEWS.values()) await db.exec(sql);
}
