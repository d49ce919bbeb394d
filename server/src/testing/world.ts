import { copyFile, mkdtemp, rm } from "node:fs/promises";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { type ErrorAnswer, type FinishBody, PLAIN_FINISH, PLAIN_LINE } from "@yosegi/contract";
import { Sequelize } from "sequelize";
import { inject, vi } from "vitest";
import { openWorld, TODAY, type World } from "./open.ts";

export * from "./demo.ts";
export { openWorld, TODAY, type World } from "./open.ts";

const closing: (() => Promise<void>)[] = [];

/** Closes the worlds of a test, and throws their files away. */
export async function closeWorlds(): Promise<void> {
  for (const close of closing.splice(0)) await close();
}

async function copyOf(template: "empty" | "bare" | "demo"): Promise<World> {
  const folder = await mkdtemp(join(tmpdir(), "yosegi-"));
  const file = join(folder, "test.db");
  await copyFile(join(inject("templates"), `${template}.db`), file);
  const world = await openWorld(file);
  closing.push(async () => {
    await world.close();
    await rm(folder, { recursive: true });
  });
  return world;
}

/** A new, empty database. */
export const emptyWorld = (): Promise<World> => copyOf("empty");

/** A company with one store and one person, and nothing else. */
export const bareWorld = (): Promise<World> => copyOf("bare");

/** The demo company's catalog and opening stock, with no builds yet. */
export const demoWorld = (): Promise<World> => copyOf("demo");

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

/** How many statements the database runs for some work: as many for a hundred things as for two, where none is asked in a loop. */
export async function statementsOf(work: () => Promise<unknown>): Promise<number> {
  const query = vi.spyOn(Sequelize.prototype, "query");
  try {
    await work();
    return query.mock.calls.length;
  } finally {
    query.mockRestore();
  }
}
