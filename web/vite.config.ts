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

export default defineConfig({
  plugins: [englishOnly(), withoutDescriptions(), react()],
  build: { outDir: "dist", target: "es2023" },
  worker: { format: "es" },
  server: { proxy: { "/api": `http://127.0.0.1:${process.env.PORT ?? 3210}` } },
});
