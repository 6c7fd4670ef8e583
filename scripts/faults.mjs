import { needBuild, needModules, root } from "./lib/packages.mjs";
import { run } from "./lib/run.mjs";

/** `npm run faults -- 30`: so many kills of the application and its database under three writers. `npm run faults -- full`: a disk that is full. */
const args = process.argv.slice(2);
const [what] = args;
await needModules();
await needBuild();
process.exit(
  await run(
    "node",
    ["--import", "tsx", ...(what === "full" ? ["scripts/faults/full.ts"] : ["scripts/faults/faults.ts", ...args])],
    { cwd: root },
  ),
);
