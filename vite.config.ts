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

/**
 * A page is a handful of files. Left alone, what pages share is cut into three dozen files of a few hundred bytes, and
 * on a phone far from the router each costs its own wait. Only modules without far-reaching imports stand here: a group takes with it
 * whatever its modules import.
 */
const FILES = [
  { name: "framework", test: /node_modules\/(react|react-dom|scheduler|react-router)\//, priority: 3 },
  {
    name: "work",
    test: /\/app\/ui\/(strip|correction|use-awake|remaining|use-entry|entry-form|field)|\/core\/(metrology\/strip|school|sheet\/visit|work|volume\/buttons)|node_modules\/(d3-scale|@conform-to)\//,
    minShareCount: 2,
    priority: 1,
  },
  {
    name: "shared",
    // What only some pages have stays theirs.
    test: /\/app\/(root|keep-the-page|ui\/(?!toast|chart|columns|transfer|export|token-list|register-search|use-table-form|strip|correction|use-awake|remaining|use-entry|entry-form|field))|\/core\/(quantity|keys|day|metrology\/verdict)|preload-helper/,
    minShareCount: 2,
    priority: 2,
  },
];

export default defineConfig(({ command }) => ({
  plugins: [tailwindcss(), reactRouter()],
  resolve: { tsconfigPaths: true, alias: command === "build" ? production : [] },
  // Bundled with the server, so that there is one router in it: these parts of it would bring their own.
  ssr: command === "build" ? { noExternal: [/^react-router/, /^@react-router\//] } : {},
  worker: { format: "es" as const },
  server: { watch: { ignored: ["**/.data/**"] } },
  environments: {
    ssr: { build: { rollupOptions: { input: "./server/app.ts" } } },
    client: {
      build: { rollupOptions: { output: { codeSplitting: { groups: FILES } } } },
    },
  },
}));
