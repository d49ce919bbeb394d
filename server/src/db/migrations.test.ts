import { spawn } from "node:child_process";
import { once } from "node:events";
import { copyFile, mkdtemp, readFile, rm, writeFile } from "node:fs/promises";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { createInterface } from "node:readline";
import { fileURLToPath } from "node:url";
import { gunzipSync } from "node:zlib";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { audit } from "../audits.ts";
import { checkStore, openStore, VIEWS } from "../store.ts";
import { read } from "./context.ts";
import { MIGRATIONS, migrate } from "./migrating.ts";
import { SchemaConnection } from "./schemaconnection.ts";

const MIGRATOR = fileURLToPath(new URL("../testing/migrator.ts", import.meta.url));

/** A year of a company, as an earlier version left it. */
const YEAR = new URL("../testing/baseline/year.db.gz", import.meta.url);

let folder = "";

let year = "";

beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), "yosegi-migrations-"));
  year = join(folder, "year.db");
  await writeFile(year, gunzipSync(await readFile(YEAR)));
});

afterAll(() => rm(folder, { recursive: true }));

const copyOf = async (name: string): Promise<string> => {
  const file = join(folder, name);
  await copyFile(year, file);
  return file;
};

async function ask<Row>(file: string, sql: string): Promise<Row[]> {
  const db = await SchemaConnection.open(file);
  const rows = await db.all<Row>(sql);
  await db.close();
  return rows;
}

const tablesOf = async (file: string) =>
  (await ask<{ name: string }>(file, "SELECT name FROM sqlite_master WHERE type = 'table'")).map(
    (t) => t.name,
  );

describe("an earlier database", () => {
  it("keeps every row, under the names of today, with a version for each document", async () => {
    const file = await copyOf("kept.db");
    const tables = [
      "item",
      "build",
      "purchase",
      "receipt",
      "finish",
      "posting",
      "movement",
      "sales_order",
      "file",
    ];
    const counts = tables.map((table) => `(SELECT COUNT(*) FROM ${table}) AS ${table}`).join(", ");
    const [before] = await ask<Record<string, number>>(file, `SELECT ${counts}`);
    await migrate(file, VIEWS);
    expect(await ask(file, `SELECT ${counts}`)).toEqual([before]);
    expect(before?.movement).toBeGreaterThan(500);
    const names = await tablesOf(file);
    expect(names).toEqual(
      expect.arrayContaining(["location", "recurring_build", "stock_target", "allocation"]),
    );
    expect(
      names.filter((name) => /^(place|standing|keep_rule|own_|sales_take|rebuilt|new_)/.test(name)),
    ).toEqual([]);
    const versions = await ask<{ version: number }>(file, "SELECT DISTINCT version FROM build");
    expect(versions).toEqual([{ version: 1 }]);
    await ask(file, "UPDATE build SET note = 'changed' WHERE id = 1");
    expect(await ask(file, "SELECT version FROM build WHERE id = 1")).toEqual([{ version: 2 }]);
  });
  it("keeps what a replacement changed of a kit, with its fields by name", async () => {
    const file = await copyOf("replaced.db");
    await ask(
      file,
      "INSERT INTO replacement VALUES (1, 1, 2, 1000000, 1000000, 1, '2026-01-05', NULL, NULL)",
    );
    await ask(
      file,
      `INSERT INTO replacement_kit SELECT 1, MIN(item_id), '[[1,2000000,[5,6]],[3,1,[]]]', '[[2,2000000,[]]]' FROM kit`,
    );
    await migrate(file, VIEWS);
    expect(await ask(file, "SELECT before, after FROM replacement_kit")).toEqual([
      {
        before: JSON.stringify([
          { item: 1, quantity: 2000000, swaps: [5, 6] },
          { item: 3, quantity: 1, swaps: [] },
        ]),
        after: JSON.stringify([{ item: 2, quantity: 2000000, swaps: [] }]),
      },
    ]);
  });
  it("is left as it was where a change of the schema fails, and says so", async () => {
    const file = await copyOf("broken.db");
    // Foreign keys are off on this connection, as they were for whoever broke it.
    await ask(file, "UPDATE build_line SET item_id = 9999 WHERE build_id = 1 AND line = 1");
    const before = await tablesOf(file);
    await expect(migrate(file, VIEWS)).rejects.toThrow(
      /could not be brought to this version: row .* of build_line points to no row of item\. It is as it was/,
    );
    expect(await tablesOf(file)).toEqual(before);
    expect(await checkStore(file)).toEqual({ current: false });
    await ask(file, "UPDATE build_line SET item_id = 1 WHERE build_id = 1 AND line = 1");
    expect((await migrate(file, VIEWS)).at(-1)).toBe(MIGRATIONS.at(-1));
  });
  it("begins again from the old state where it was cut off in the middle", async () => {
    const names = await tablesOf(year);
    let cut = 0;
    for (const moment of [150, 400, 700, 1000]) {
      const file = await copyOf(`cut-${moment}.db`);
      const child = spawn(process.execPath, ["--import", "tsx", MIGRATOR, file], {
        stdio: ["ignore", "pipe", "inherit"],
      });
      const exited = once(child, "exit");
      for await (const line of createInterface(child.stdout))
        if (line === "ready") setTimeout(() => child.kill("SIGKILL"), moment);
      const [, signal] = await exited;
      if (signal === "SIGKILL" && !(await checkStore(file)).current) {
        cut++;
        expect(await tablesOf(file)).toEqual(names);
      }
      const store = await openStore(file);
      expect(await read(store, audit)).toEqual([]);
      await store.close();
    }
    expect(cut).toBeGreaterThan(0);
  });
});
