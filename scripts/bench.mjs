import { needBrowser, needModules } from "./lib/packages.mjs";
import { runOnDemo } from "./lib/throwaway.mjs";

/** Speed, as ratios side by side in one run. Nothing here passes or fails: tests are never timed. */
await needModules();
await needBrowser();
await runOnDemo(
  "bench",
  ["taps", "pages", "engine", "learning"].map((part) => [`scripts/bench/${part}.ts`]),
);
