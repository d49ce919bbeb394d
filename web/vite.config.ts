import { createHash } from "node:crypto";
import { readFileSync } from "node:fs";
import react from "@vitejs/plugin-react";
import { defineConfig, type Plugin } from "vite";

/** Of the texts of the controls only the English ones: the page speaks English, whatever marks its figures have. */
function englishOnly(): Plugin {
  return {
    name: "english-only",
    enforce: "pre",
    transform(code, id) {
      if (!/\/react-(aria|stately|aria-components)\/.*\/intlStrings\.mjs$/.test(id)) return;
      const others = [...code.matchAll(/^import (\S+) from ".*\/(?!en-US)[\w-]+\.mjs";$/gm)].map(
        ([, name]) => name,
      );
      const lines = code.split("\n").filter((line) => !others.some((name) => name && line.includes(name)));
      return { code: lines.join("\n"), map: null };
    },
  };
}

/** What the schemas say of their fields is for the API's document alone; the page carries none of it. */
function withoutDescriptions(): Plugin {
  const description = /\.meta\(\{\s*description:\s*(?:"(?:[^"\\]|\\.)*"|`[^`$]*`),?\s*\}\)/g;
  return {
    name: "without-descriptions",
    enforce: "pre",
    transform(code, id) {
      if (!/\/contract\/src\/[\w-]+\.ts$/.test(id)) return;
      return { code: code.replace(description, ""), map: null };
    },
  };
}

/** The worker that opens the page without the server, with the names of the files that it keeps. */
function serviceWorker(): Plugin {
  return {
    name: "service-worker",
    generateBundle(_, bundle) {
      const files = Object.keys(bundle)
        .filter((name) => !name.endsWith(".map") && name !== "index.html")
        .map((name) => `/${name}`);
      const version = createHash("sha256").update(files.sort().join()).digest("hex").slice(0, 12);
      const source = readFileSync(new URL("serviceworker.js", import.meta.url), "utf8")
        .replaceAll("__FILES__", JSON.stringify(files))
        .replaceAll("__VERSION__", JSON.stringify(version));
      this.emitFile({ type: "asset", fileName: "serviceworker.js", source });
    },
  };
}

export default defineConfig({
  plugins: [englishOnly(), withoutDescriptions(), react(), serviceWorker()],
  build: { outDir: "dist", target: "es2023" },
  worker: { format: "es" },
  server: { proxy: { "/api": `http://127.0.0.1:${process.env.PORT ?? 3210}` } },
});
