import react from "@vitejs/plugin-react";
import { defineConfig } from "vite";

export default defineConfig({
  plugins: [react()],
  build: { outDir: "dist", target: "es2023", chunkSizeWarningLimit: 1500 },
  worker: { format: "es" },
  server: { proxy: { "/api": `http://127.0.0.1:${process.env.PORT ?? 3210}` } },
});
