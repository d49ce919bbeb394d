import { defineConfig } from "vitest/config";

// Files share the modules of their worker: loading them anew for each file took longer than most files' tests.
const project = (name: string, more: object = {}) => ({
  test: {
    name,
    root: name,
    include: ["src/**/*.test.{ts,tsx}"],
    // A machine shared with others may stand still for a minute.
    testTimeout: 300_000,
    hookTimeout: 300_000,
    isolate: false,
    ...more,
  },
});

/** Packages whose tests need nothing set up. */
const PLAIN = ["core", "contract", "web", "demo"];

export default defineConfig({
  test: {
    maxWorkers: 2,
    projects: [
      ...PLAIN.map((name) => project(name)),
      project("server", {
        globalSetup: ["./src/testing/templates.ts"],
        setupFiles: ["./src/testing/closing.ts"],
      }),
    ],
  },
});
