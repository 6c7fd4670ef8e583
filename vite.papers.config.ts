import { defineConfig } from "vite";

/** The worker that lays papers out, as a file of its own beside the server. */
export default defineConfig({
  resolve: { tsconfigPaths: true },
  build: {
    ssr: "server/papers/worker.ts",
    outDir: "build/papers",
    emptyOutDir: true,
    copyPublicDir: false,
    rollupOptions: { output: { entryFileNames: "worker.js" } },
  },
});
