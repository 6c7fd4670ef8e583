import { runOnDemo } from "./lib/throwaway.mjs";

/** `npm run fuzz -- 100000 0.3`: so many bodies, from that seed, to every form; on a database of its own. */
await runOnDemo("fuzz", [["scripts/fuzz/fuzz.ts", ...process.argv.slice(2)]], process.env.LOG_LEVEL ?? "error");
