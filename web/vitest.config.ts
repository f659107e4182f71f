import vue from "@vitejs/plugin-vue";
import { fileURLToPath } from "node:url";
import { defineConfig } from "vitest/config";

export default defineConfig({
  plugins: [vue() as never],
  resolve: { alias: { "@": fileURLToPath(new URL("./src", import.meta.url)) } },
  // Some types every sixteenth of an inch: on a slow machine that takes longer than the usual five seconds.
  test: { environment: "happy-dom", testTimeout: 30_000 },
});
