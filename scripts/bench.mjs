import { stop } from "./lib/say.mjs";
import { needBrowser, needModules } from "./lib/packages.mjs";
import { runOnDemo } from "./lib/throwaway.mjs";

/** Speed, as ratios side by side in one run. Nothing here passes or fails: tests are never timed. */
await needModules();
await needBrowser();
const PARTS = ["taps", "pages", "slow", "engine", "learning"];
/** Asked for by name only: they take minutes. */
const LONG = ["exchange", "growth", "judgement", "papers", "proof"];
const asked = process.argv.slice(2);
const unknown = asked.filter((part) => ![...PARTS, ...LONG].includes(part));
if (unknown.length > 0) stop(`There is no “${unknown.join(", ")}” to measure: ${[...PARTS, ...LONG].join(", ")}.`);
await runOnDemo(
  "bench",
  (asked.length > 0 ? asked : PARTS).map((part) => [`scripts/bench/${part}.ts`]),
);
