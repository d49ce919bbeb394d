import { execFileSync } from "node:child_process";
import { mkdirSync, rmSync } from "node:fs";
import { fileURLToPath } from "node:url";

const at = (path: string) => fileURLToPath(new URL(`../../${path}`, import.meta.url));
export const SEEDED = at(".tsbuild/e2e-demo.db");
export const HOST = at("server/dist/e2ehost.js");
export const DEMO = at("demo");
/** The moment at which every story begins, so that none depends on the hour at which it runs. */
export const NOW = "2026-11-23T09:30:00Z";

/** Makes the demo company's database once; every story works on a copy of its own. */
export default function seed(): void {
  mkdirSync(at(".tsbuild"), { recursive: true });
  rmSync(SEEDED, { force: true });
  execFileSync(process.execPath, [at("server/dist/seed.js"), SEEDED, DEMO, NOW]);
}
