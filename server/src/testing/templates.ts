import { mkdtemp, rm } from "node:fs/promises";
import { tmpdir } from "node:os";
import { join } from "node:path";
import type { TestProject } from "vitest/node";
import { importDemo, setUpCompany } from "./demo.ts";
import { openWorld, type World } from "./open.ts";

declare module "vitest" {
  interface ProvidedContext {
    /** Folder of databases that tests begin with a copy of. */
    templates: string;
  }
}

/** Makes each database that tests begin with once; a copy of a file takes a hundredth of the time. */
export default async function makeTemplates(project: TestProject): Promise<() => Promise<void>> {
  const folder = await mkdtemp(join(tmpdir(), "yosegi-templates-"));
  const make = async (name: string, fill: (world: World) => Promise<void>) => {
    const world = await openWorld(join(folder, name));
    await fill(world);
    await world.store.db.query("PRAGMA wal_checkpoint(TRUNCATE)");
    await world.close();
  };
  await make("empty.db", async () => {});
  await make("bare.db", setUpCompany);
  await make("demo.db", async (world) => {
    await setUpCompany(world);
    await importDemo(world);
  });
  project.provide("templates", folder);
  return () => rm(folder, { recursive: true });
}
