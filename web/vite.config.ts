import react from "@vitejs/plugin-react";
import { defineConfig } from "vitest/config";
import { serviceWorker } from "./tools/serviceWorker.ts";

export default defineConfig({
  base: "/static/",
  plugins: [react(), serviceWorker()],
  build: {
    target: "es2022",
    sourcemap: false,
    chunkSizeWarningLimit: 900,
    // The server tells a page's files with the page itself: on a thin line each question costs half a second.
    manifest: "files.json",
    cssCodeSplit: false,
    rolldownOptions: {
      output: {
        codeSplitting: {
          groups: [
            { name: "start", tags: ["$initial"], priority: 2 },
            { name: "parts", minShareCount: 3, priority: 1 },
          ],
        },
      },
    },
  },
  test: {
    alias: [{ find: /.*\/language$/, replacement: new URL("tools/firstLanguage.ts", import.meta.url).pathname }],
  },
  server: { proxy: { "/api": "http://127.0.0.1:8765" } },
});
