import { spawn } from "node:child_process";
import { once } from "node:events";
import { copyFileSync, mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { createInterface } from "node:readline";
import { test as base } from "@playwright/test";
import { SEEDED, SERVER } from "./seed.ts";

export interface SiteOptions {
  /** What the server of a story begins with. */
  database: "demo" | "empty";
}

/** Tests with a server and a database of their own, thrown away afterwards. */
export const test = base.extend<SiteOptions>({
  database: ["demo", { option: true }],
  baseURL: async ({ database }, use) => {
    const folder = mkdtempSync(join(tmpdir(), "yosegi-e2e-"));
    const file = join(folder, "story.db");
    if (database === "demo") copyFileSync(SEEDED, file);
    const server = spawn(process.execPath, ["--enable-source-maps", SERVER], {
      env: { ...process.env, PORT: "0", YOSEGI_DB: file },
      stdio: ["ignore", "pipe", "inherit"],
    });
    const exited = once(server, "exit");
    for await (const line of createInterface(server.stdout)) {
      const address = /http:\/\/localhost:\d+/.exec(line)?.[0];
      if (address) {
        await use(address);
        break;
      }
    }
    server.kill("SIGTERM");
    await exited;
    rmSync(folder, { recursive: true });
  },
});

export { expect } from "@playwright/test";
