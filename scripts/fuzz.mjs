import { runOnDemo } from "./lib/throwaway.mjs";

/**
 * `npm run fuzz -- 100000 0.3`: so many bodies, from that seed, to every form; on a database of its own. Before that, signed visits are forged
 * there, and every address that shows one is asked.
 */
await runOnDemo(
  "fuzz",
  [["scripts/fuzz/forge.ts"], ["scripts/fuzz/fuzz.ts", ...process.argv.slice(2)]],
  process.env.LOG_LEVEL ?? "error",
);
