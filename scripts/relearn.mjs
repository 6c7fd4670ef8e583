import { join } from "node:path";
import { needModules, root } from "./lib/packages.mjs";
import { openCluster } from "./lib/postgres.mjs";
import { run } from "./lib/run.mjs";

/** What knobs of each model answer, learnt anew from all signed jobs: after a changed method, or for a restored database. Ctrl-C stops it; what was done stays. */
await needModules();
const own = process.env.DATABASE_URL;
const cluster = own ? undefined : await openCluster(join(root, ".data"));
try {
  const url = own ?? cluster.ensure("demo");
  process.exitCode = await run("node", ["--import", "tsx", "scripts/relearn.ts"], {
    cwd: root,
    env: { ...process.env, DATABASE_URL: url },
  });
} finally {
  cluster?.stop();
}
