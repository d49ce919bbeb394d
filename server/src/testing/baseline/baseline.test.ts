import { mkdtemp, readFile, rm, writeFile } from "node:fs/promises";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { gunzipSync } from "node:zlib";
import { expect, it } from "vitest";
import { openWorld, TODAY } from "../open.ts";
import { ALLOWED } from "./allowed.ts";
import { differencesOf } from "./differences.ts";
import { type Answered, askAll } from "./questions.ts";
import { inTodaysWords } from "./words.ts";

const unpacked = async (name: string) => gunzipSync(await readFile(new URL(name, import.meta.url)));

it("takes an earlier database along, and answers everything as before but for what is listed", async () => {
  const folder = await mkdtemp(join(tmpdir(), "yosegi-baseline-"));
  const file = join(folder, "year.db");
  await writeFile(file, await unpacked("year.db.gz"));
  const world = await openWorld(file, () => new Date(`${TODAY}T16:00:00Z`));
  const before = JSON.parse((await unpacked("answers.json.gz")).toString()) as Record<string, Answered>;
  const found = differencesOf(inTodaysWords(before), await askAll(world.app));
  const audit = await world.audit();
  await world.close();
  await rm(folder, { recursive: true });

  const used = new Set<string>();
  const others = found.filter(({ url, at }) => {
    const allowed = ALLOWED.find((one) => one.url.test(url) && one.at.test(at));
    if (allowed) used.add(allowed.why);
    return !allowed;
  });
  expect(others.slice(0, 40)).toEqual([]);
  // What is listed and does not differ is listed in vain.
  expect(ALLOWED.filter(({ why }) => !used.has(why))).toEqual([]);
  expect(audit).toEqual([]);
});
