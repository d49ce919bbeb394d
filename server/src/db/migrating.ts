import { Umzug } from "umzug";
import { migrations } from "./migrations.ts";
import { SchemaConnection } from "./schemaconnection.ts";
import { type Views, writeViews } from "./views.ts";
import { WrongDatabase } from "./wrongdatabase.ts";

/** The names of all steps that this version knows. */
export const MIGRATIONS: readonly string[] = migrations.map((migration) => migration.name);

/** Brings a database file to the newest schema with these views; see `migrateTo`. */
export const migrate = (file: string, views: Views): Promise<string[]> => migrateTo(file, { views });

/**
 * Brings a database file to the newest schema and its views, or to the tables of a step named: all the steps it lacks in
 * one transaction, so that a failure, or a cut in the middle, leaves the file as it was. Foreign keys are off meanwhile, for dropping a table
 * would empty those that cascade from it, and are checked before it is committed. Gives the names of the steps applied;
 * throws WrongDatabase where one of them failed.
 */
export async function migrateTo(
  file: string,
  target: { views: Views } | { step: string },
): Promise<string[]> {
  const db = await SchemaConnection.open(file);
  try {
    await db.exec(
      "PRAGMA journal_mode=WAL; PRAGMA foreign_keys=OFF; PRAGMA busy_timeout=5000; BEGIN IMMEDIATE",
    );
    try {
      const applied = await applySteps(db, "step" in target ? target.step : undefined);
      if ("views" in target) await writeViews(db, target.views);
      await refuseBrokenKeys(db);
      await db.exec("COMMIT");
      return applied;
    } catch (error) {
      await db.exec("ROLLBACK");
      throw new WrongDatabase(
        `${file} could not be brought to this version: ${error instanceof Error ? error.message : String(error)}. It is as it was; the earlier version still opens it.`,
        { cause: error },
      );
    }
  } finally {
    await db.close();
  }
}

async function applySteps(db: SchemaConnection, to: string | undefined): Promise<string[]> {
  await db.exec(
    "CREATE TABLE IF NOT EXISTS schema_migration (name TEXT PRIMARY KEY, applied_at TEXT NOT NULL) STRICT",
  );
  const umzug = new Umzug<SchemaConnection>({
    context: db,
    logger: undefined,
    storage: {
      logMigration: async ({ name }) => {
        await db.run("INSERT INTO schema_migration VALUES ($name, datetime('now'))", { name });
      },
      unlogMigration: async ({ name }) => {
        await db.run("DELETE FROM schema_migration WHERE name = $name", { name });
      },
      executed: async () =>
        (await db.all<{ name: string }>("SELECT name FROM schema_migration ORDER BY name")).map(
          (row) => row.name,
        ),
    },
    migrations: migrations.map(({ name, sql = "", fill }) => ({
      name,
      up: async ({ context }) => {
        await context.exec(sql);
        await fill?.(context);
      },
    })),
  });
  return (await umzug.up(to === undefined ? {} : { to })).map((applied) => applied.name);
}

async function refuseBrokenKeys(db: SchemaConnection): Promise<void> {
  const [broken] = await db.all<{ table: string; rowid: number; parent: string }>("PRAGMA foreign_key_check");
  if (broken) throw new Error(`row ${broken.rowid} of ${broken.table} points to no row of ${broken.parent}`);
}
