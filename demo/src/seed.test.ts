import { execFile } from "node:child_process";
import { mkdtemp, readdir, readFile, rm, writeFile } from "node:fs/promises";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { fileURLToPath } from "node:url";
import { promisify } from "node:util";
import { afterEach, beforeEach, expect, it } from "vitest";

const run = promisify(execFile);
const at = (path: string) => fileURLToPath(new URL(path, import.meta.url));
const seed = (file: string) =>
  run(process.execPath, ["--import", "tsx", at("./seed.ts"), file, at("..").replace(/\/$/, "")]);

let folder = "";
beforeEach(async () => {
  folder = await mkdtemp(join(tmpdir(), "yosegi-seed-"));
});
afterEach(() => rm(folder, { recursive: true }));

it("makes the demo where there is no database, whole, and never touches one that is there", async () => {
  const file = join(folder, "yosegi.db");
  // what a start that was broken off left behind
  await writeFile(`${file}.unfinished`, "half");
  expect((await seed(file)).stdout).toContain("Made the demo company");
  expect(await readdir(folder)).toEqual(["yosegi.db"]);
  const before = await readFile(file);
  expect((await seed(file)).stdout).toContain("it stays as it is");
  expect(before.equals(await readFile(file))).toBe(true);
});

it("leaves alone even a file that is no database of ours", async () => {
  const file = join(folder, "yosegi.db");
  await writeFile(file, "precious");
  await seed(file);
  expect(await readFile(file, "utf8")).toBe("precious");
});
