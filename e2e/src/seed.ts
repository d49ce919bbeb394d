import { execFileSync } from "node:child_process";
import { mkdirSync, rmSync } from "node:fs";
import { fileURLToPath } from "node:url";

const at = (path: string) => fileURLToPath(new URL(`../../${path}`, import.meta.url));
export const SEEDED = at(".tsbuild/e2e-demo.db");
export const SERVER = at("server/dist/main.js");
export const DEMO = at("demo");

/** Makes the demo company's database once; every story works on a copy of its own. */
export default function seed(): void {
  mkdirSync(at(".tsbuild"), { recursive: true });
  rmSync(SEEDED, { force: true });
  execFileSync(process.execPath, [at("server/dist/seed.js"), SEEDED, DEMO]);
}
