import type { SchemaConnection } from "./schemaconnection.ts";

interface Stored {
  type: string;
  sql: string;
}

/** An item that is not bought any more is phasing out. Its table names the states it may have, so it is written anew. */
export async function fillPhasingOut(db: SchemaConnection): Promise<void> {
  for (const { name } of await db.all<{ name: string }>("SELECT name FROM sqlite_master WHERE type = 'view'"))
    await db.exec(`DROP VIEW ${name}`);
  const stored = await db.all<Stored>(
    "SELECT type, sql FROM sqlite_master WHERE tbl_name = 'item' AND sql IS NOT NULL",
  );
  const columns = await db.all<{ name: string }>("PRAGMA table_info(item)");
  const named = columns.map(({ name }) => name);
  const values = named.map((name) =>
    name === "state" ? "CASE state WHEN 'running out' THEN 'phasing out' ELSE state END" : name,
  );
  for (const { type, sql } of stored)
    if (type === "table")
      await db.exec(
        `${sql.replace("'running out'", "'phasing out'").replace(/^CREATE TABLE\s+("?)\w+\1/, "CREATE TABLE rebuilt")};
         INSERT INTO rebuilt (${named.join(", ")}) SELECT ${values.join(", ")} FROM item;
         DROP TABLE item; ALTER TABLE rebuilt RENAME TO item`,
      );
  for (const { type, sql } of stored) if (type !== "table") await db.exec(sql);
}
