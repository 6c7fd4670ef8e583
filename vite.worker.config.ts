import { defineConfig } from "vite";

/** The second process, as a file of its own beside the server. */
export default defineConfig({
  resolve: { tsconfigPaths: true },
  build: {
    ssr: "server/worker.ts",
    outDir: "build/worker",
    emptyOutDir: true,
    copyPublicDir: false,
    target: "node20",
    rollupOptions: { output: { entryFileNames: "worker.js" } },
  },
});
