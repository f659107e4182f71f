import vue from "@vitejs/plugin-vue";
import { fileURLToPath } from "node:url";
import { defineConfig } from "vitest/config";

export default defineConfig({
  plugins: [vue() as never],
  resolve: { alias: { "@": fileURLToPath(new URL("./src", import.meta.url)) } },
  test: {
    // Beside a build on two processors the first of a file takes seconds.
    testTimeout: 30_000,
    environment: "happy-dom",
  },
});
