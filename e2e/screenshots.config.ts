import { defineConfig } from "@playwright/test";
import { browser } from "./src/browser.ts";

/** Makes the pictures of docs/screenshots from the demo data; run by hand when a view has changed. */
export default defineConfig({
  testDir: "src",
  testMatch: "screenshots.ts",
  outputDir: "../.tsbuild/screenshots",
  globalSetup: "./src/seed.ts",
  workers: 1,
  reporter: [["list"]],
  use: browser,
});
