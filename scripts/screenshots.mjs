import { needBrowser, needModules } from "./lib/packages.mjs";
import { runOnDemo } from "./lib/throwaway.mjs";

/** Takes the pictures of docs/screenshots anew, from demo data on a throwaway database. */
await needModules();
await needBrowser();
await runOnDemo("pictures", [["scripts/screenshots/take.ts", ...process.argv.slice(2)]]);
