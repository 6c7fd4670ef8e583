import { join } from "node:path";
import { prepare } from "./lib/app.mjs";
import { needModules, root } from "./lib/packages.mjs";
import { openCluster } from "./lib/postgres.mjs";
import { say } from "./lib/say.mjs";

/** Empties the private database and fills in the demo again. */
await needModules();
const cluster = await openCluster(join(root, ".data"));
try {
  await prepare(cluster.ensure("demo", { fresh: true }), { demo: true });
  say("The demo data is as new.");
} finally {
  cluster.stop();
}
