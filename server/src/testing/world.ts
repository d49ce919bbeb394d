import { mkdtemp, rm } from "node:fs/promises";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { type ErrorAnswer, type FinishBody, PLAIN_FINISH, PLAIN_LINE } from "@yosegi/contract";
import { afterEach } from "vitest";
import { importDemo, setUpCompany } from "./demo.ts";
import { openWorld, TODAY, type World } from "./open.ts";

export * from "./demo.ts";
export { openWorld, TODAY, type World } from "./open.ts";

const closing: (() => Promise<void>)[] = [];
afterEach(async () => {
  for (const close of closing.splice(0)) await close();
});

/** A new, empty database. */
export async function emptyWorld(): Promise<World> {
  const folder = await mkdtemp(join(tmpdir(), "yosegi-"));
  const world = await openWorld(join(folder, "test.db"));
  closing.push(async () => {
    await world.close();
    await rm(folder, { recursive: true });
  });
  return world;
}

/** A company with one store and one person, and nothing else. */
export async function bareWorld(): Promise<World> {
  const world = await emptyWorld();
  await setUpCompany(world);
  return world;
}

/** The demo company's catalog and opening stock, with no builds yet. */
export async function demoWorld(): Promise<World> {
  const world = await bareWorld();
  await importDemo(world);
  return world;
}

/** A finish with nothing changed from the plan. */
export function finishOf(good: string, change: Partial<FinishBody> = {}): FinishBody {
  return { ...PLAIN_FINISH, good, day: TODAY, store: "Front store", ...change };
}

/** What was really used of a line. */
export const usedOf = (
  line: number,
  used: string,
  change: Partial<FinishBody["lines"][number]> = {},
): FinishBody["lines"][number] => ({ ...PLAIN_LINE, line, used, ...change });

/** "field code" of each field of a refusal. */
export const fieldsOf = (error: ErrorAnswer): string[] => error.fields.map((f) => `${f.field} ${f.code}`);
