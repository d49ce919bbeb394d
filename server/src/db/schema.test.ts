import { mkdtemp, readdir, readFile, rm, writeFile } from "node:fs/promises";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { fileURLToPath } from "node:url";
import sqlite3 from "sqlite3";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { checkStore, openStore, VIEWS } from "../store.ts";
import { demoWorld } from "../testing/world.ts";
import type { Table } from "./table.ts";
import owners from "./tableowners.json" with { type: "json" };
import { WrongDatabase } from "./wrongdatabase.ts";

let folder: string;

beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), "yosegi-schema-"));
});

afterAll(() => rm(folder, { recursive: true }));

const made = async (name: string, sql: string): Promise<string> => {
  const file = join(folder, name);
  await new Promise<void>((resolve, reject) => {
    const db = new sqlite3.Database(file, (error) => error && reject(error));
    db.exec(sql, (error) => (error ? reject(error) : db.close(() => resolve())));
  });
  return file;
};

describe("a file that is not ours to write", () => {
  it.each([
    [
      "another program's",
      "CREATE TABLE note (text TEXT); INSERT INTO note VALUES ('mine');",
      /another program/,
    ],
    [
      "that of a newer version",
      `CREATE TABLE schema_migration (name TEXT); CREATE TABLE person (id INTEGER);
       INSERT INTO schema_migration VALUES ('0001-people'), ('9001-later');`,
      /newer version of Yosegi \(9001-later\)/,
    ],
  ])("%s is refused, and stays as it is to the byte", async (name, sql, why) => {
    const file = await made(`${name}.db`, sql);
    const before = await readFile(file);
    await expect(openStore(file)).rejects.toThrow(why);
    expect((await readFile(file)).equals(before)).toBe(true);
  });
  it("no database at all is refused too", async () => {
    const file = join(folder, "letter.db");
    await writeFile(file, "Dear Ines, the sugar came.".repeat(50));
    await expect(openStore(file)).rejects.toThrow(WrongDatabase);
    expect((await readFile(file, "utf8")).startsWith("Dear Ines")).toBe(true);
  });
});

it("tells whether a database has all steps of this version", async () => {
  const world = await demoWorld();
  expect(await checkStore(world.file)).toEqual({ current: true });
  expect(await checkStore(join(folder, "not-there.db"))).toEqual({ current: false });
});
const SOURCE = fileURLToPath(new URL("..", import.meta.url));
const isTable = (value: unknown): value is Table =>
  typeof value === "object" && value !== null && "columns" in value && "name" in value;

describe("the tables and views of the schema", () => {
  const rowsOf = (file: string, sql: string) =>
    new Promise<{ name: string }[]>((resolve, reject) => {
      const db = new sqlite3.Database(file, (error) => error && reject(error));
      db.all<{ name: string }>(sql, (error, rows) => (error ? reject(error) : db.close(() => resolve(rows))));
    });

  it("are owned by one area each", async () => {
    const { file } = await demoWorld();
    const tables = await rowsOf(
      file,
      "SELECT name FROM sqlite_master WHERE type = 'table' AND name NOT LIKE 'sqlite_%' AND name <> 'schema_migration'",
    );
    const owned = Object.values(owners).flat();
    expect(owned.toSorted()).toEqual(tables.map((table) => table.name).toSorted());
  });
  it("have the columns that their areas declare", async () => {
    const { file } = await demoWorld();
    const folders = (await readdir(SOURCE, { recursive: true })).filter((path) => path.endsWith("tables.ts"));
    const modules = await Promise.all(
      [...folders, "db/company.ts", "http/requests.ts"].map((path) => import(join(SOURCE, path))),
    );
    const declared = modules.flatMap((found) => Object.values<unknown>(found)).filter(isTable);
    expect(declared.length).toBeGreaterThan(40);
    for (const { name, columns } of declared) {
      const stored = await rowsOf(file, `SELECT name FROM pragma_table_info('${name}')`);
      expect(Object.keys(columns).toSorted(), name).toEqual(stored.map((column) => column.name).toSorted());
    }
  });
  it("can be read: SQLite looks into a view only when it is asked", async () => {
    const { file } = await demoWorld();
    for (const view of VIEWS.keys())
      await expect(rowsOf(file, `SELECT * FROM ${view} LIMIT 1`), view).resolves.toBeInstanceOf(Array);
  });
  it("become those of this version where an earlier one had others", async () => {
    const { file, close } = await demoWorld();
    await close();
    await rowsOf(file, "DROP VIEW usable_stock");
    await rowsOf(file, "CREATE VIEW usable_stock AS SELECT 1 AS item_id");
    await rowsOf(file, "CREATE VIEW of_an_earlier_version AS SELECT 1");
    expect(await checkStore(file)).toEqual({ current: false });
    const store = await openStore(file);
    await store.close();
    expect(await checkStore(file)).toEqual({ current: true });
  });
});
