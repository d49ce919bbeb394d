import { type ChildProcess, spawn } from "node:child_process";
import { copyFileSync, mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { createInterface, type Interface } from "node:readline";
import { test as base } from "@playwright/test";
import type { Told } from "./host.ts";
import { HOST, NOW, SEEDED } from "./seed.ts";

export interface SiteOptions {
  /** What the server of a story begins with; "looked at" is one for all stories that change nothing. */
  database: "demo" | "empty" | "looked at";
  /** Id of who works on the device; null where nobody said so yet. */
  person: string | null;
  /** Whether the page loads its other pages while it has nothing to do; most stories look at few, and are quicker without. */
  loadsAhead: boolean;
}

/** The process that serves the stories of a worker, and the folder of their databases. */
class Host {
  readonly #folder = mkdtempSync(join(tmpdir(), "yosegi-e2e-"));
  readonly #process: ChildProcess;
  readonly #lines: AsyncIterator<string>;
  #stories = 0;
  #lookedAt: Promise<string> | null = null;

  constructor() {
    const child = spawn(process.execPath, ["--enable-source-maps", HOST], {
      env: { ...process.env, YOSEGI_NOW: NOW },
      stdio: ["pipe", "pipe", "inherit"],
    });
    const lines: Interface = createInterface(child.stdout);
    this.#process = child;
    this.#lines = lines[Symbol.asyncIterator]();
  }

  async #tell(told: Told): Promise<string> {
    this.#process.stdin?.write(`${JSON.stringify(told)}\n`);
    const { value, done } = await this.#lines.next();
    if (done) throw new Error("The server of the stories has ended");
    return value;
  }

  /** Serves a database of its own, a copy or a new one, and closes it when the story has ended. */
  async story(seeded: string | null, tell: (address: string) => Promise<void>): Promise<void> {
    const file = join(this.#folder, `${this.#stories++}.db`);
    if (seeded !== null) copyFileSync(seeded, file);
    await tell(await this.#tell({ open: file }));
    await this.#tell({ close: file });
  }

  /** The address of the one demo company that is only looked at. */
  lookedAt(): Promise<string> {
    const file = join(this.#folder, "looked-at.db");
    if (this.#lookedAt === null) {
      copyFileSync(SEEDED, file);
      this.#lookedAt = this.#tell({ open: file });
    }
    return this.#lookedAt;
  }

  end(): void {
    this.#process.kill();
    rmSync(this.#folder, { recursive: true });
  }
}

function chosen(person: string): void {
  if (localStorage.getItem("yosegi.person") === null) localStorage.setItem("yosegi.person", person);
}

function neverIdle(): void {
  window.requestIdleCallback = () => 0;
}

/** Tests with a server and a database of their own, or the one that is only looked at. */
export const test = base.extend<SiteOptions, { host: Host }>({
  host: [
    async ({ playwright: _ }, use) => {
      const host = new Host();
      await use(host);
      host.end();
    },
    { scope: "worker" },
  ],
  database: ["demo", { option: true }],
  baseURL: async ({ database, host }, use) => {
    if (database === "looked at") await use(await host.lookedAt());
    else await host.story(database === "demo" ? SEEDED : null, use);
  },
  person: ["1", { option: true }],
  loadsAhead: [false, { option: true }],
  page: async ({ page, person, loadsAhead }, use) => {
    await page.clock.setSystemTime(NOW);
    // Whoever works on a device says so once; most stories begin after that.
    if (person !== null) await page.addInitScript(chosen, person);
    if (!loadsAhead) await page.addInitScript(neverIdle);
    await use(page);
  },
});

export { expect } from "@playwright/test";
