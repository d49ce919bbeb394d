import { defineConfig } from "vitest/config";

const project = (name: string) => ({
  test: { name, root: name, include: ["src/**/*.test.ts"], testTimeout: 20_000 },
});

export default defineConfig({
  test: { projects: ["core", "contract", "server", "web", "demo"].map(project) },
});
