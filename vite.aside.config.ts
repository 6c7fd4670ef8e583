import { defineConfig } from "vite";

/** What is done beside the process that serves pages, as a file of its own beside the server. */
export default defineConfig({
  resolve: { tsconfigPaths: true },
  build: {
    ssr: "server/aside/worker.ts",
    outDir: "build/aside",
    emptyOutDir: true,
    copyPublicDir: false,
    rollupOptions: { output: { entryFileNames: "worker.js" } },
  },
});
