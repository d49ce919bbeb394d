import { execFile } from "node:child_process";
import { fileURLToPath } from "node:url";
import { promisify } from "node:util";
import { expect, it } from "vitest";
import { audit } from "./audits.ts";
import { read } from "./db/index.ts";
import { openStore } from "./store.ts";
import { demoWorld } from "./testing/world.ts";

const script = fileURLToPath(new URL("./backup.ts", import.meta.url));
const backup = (...files: string[]) =>
  promisify(execFile)(process.execPath, ["--import", "tsx", script, ...files]).catch((error) => error);

it("copies a database that is in use, whole, and writes over nothing", async () => {
  const world = await demoWorld();
  const copy = `${world.file}.copy`;
  await world.queued("FEED-12", "8");
  expect((await backup(world.file, copy)).stdout).toContain("is copied into");
  const copied = await openStore(copy);
  expect(await read(copied, audit)).toEqual([]);
  const count = "SELECT (SELECT COUNT(*) FROM movement) AS movements, (SELECT COUNT(*) FROM build) AS builds";
  expect(await read(copied, (ctx) => ctx.sql.one(count))).toEqual(
    await read(world.store, (ctx) => ctx.sql.one(count)),
  );
  await copied.close();
  const again = await backup(world.file, copy);
  expect([again.code, again.stderr]).toEqual([2, expect.stringContaining("it stays as it is")]);
});

it("says what is missing", async () => {
  expect((await backup("/nowhere/yosegi.db", "/tmp/never.db")).stderr).toContain(
    "There is no database at /nowhere/yosegi.db.",
  );
  expect((await backup()).stderr).toContain("Name the file to copy into");
});
