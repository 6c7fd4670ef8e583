import { needBuild, needModules, root } from "./lib/packages.mjs";
import { run } from "./lib/run.mjs";

/** `npm run faults -- 30`: so many kills of the application and its database under three writers. */
await needModules();
await needBuild();
process.exit(
  await run("node", ["--import", "tsx", "scripts/faults/faults.ts", ...process.argv.slice(2)], { cwd: root }),
);
