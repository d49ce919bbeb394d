import { defineConfig } from "@playwright/test";
import { browser } from "./src/browser.ts";

export default defineConfig({
  testDir: "src",
  testMatch: "*.spec.ts",
  outputDir: "../.tsbuild/e2e",
  globalSetup: "./src/seed.ts",
  workers: 2,
  fullyParallel: true,
  // A machine shared with others may stand still for half a minute; what is waited for comes at once where it does not.
  timeout: 300_000,
  expect: { timeout: 40_000 },
  reporter: [["list"], ["json"]],
  use: {
    // What a worker of the page asks for can not be held back by a story; those that need it allow it.
    serviceWorkers: "block",
    actionTimeout: 90_000,
    ...browser,
    trace: { mode: "retain-on-failure", screenshots: false, snapshots: false, sources: false },
  },
});
