import { dirname, join } from "node:path";
import { fileURLToPath } from "node:url";
import { reactRouter } from "@react-router/dev/vite";
import tailwindcss from "@tailwindcss/vite";
import { defineConfig } from "vite";

// The router’s package offers its development files to every bundler; what is built to be served takes the others.
const router = join(dirname(fileURLToPath(import.meta.resolve("react-router/package.json"))), "dist/production");
const production = [
  { find: /^react-router$/, replacement: join(router, "index.mjs") },
  { find: /^react-router\/dom$/, replacement: join(router, "dom-export.mjs") },
];

export default defineConfig(({ command }) => ({
  plugins: [tailwindcss(), reactRouter()],
  resolve: { tsconfigPaths: true, alias: command === "build" ? production : [] },
  // Bundled with the server, so that there is one router in it: these parts of it would bring their own.
  ssr: command === "build" ? { noExternal: [/^react-router/, /^@react-router\//] } : {},
  worker: { format: "es" as const },
  server: { watch: { ignored: ["**/.data/**"] } },
  environments: { ssr: { build: { rollupOptions: { input: "./server/app.ts" } } } },
}));
