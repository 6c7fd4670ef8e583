import { join } from "node:path";
import { onSignal, prepare, serve } from "./lib/app.mjs";
import { needBrowser, needBuild, needModules, root } from "./lib/packages.mjs";
import { freePort, openCluster } from "./lib/postgres.mjs";
import { must } from "./lib/run.mjs";

/** Speed, as ratios side by side in one run. Nothing here passes or fails: tests are never timed. */
await needModules();
await needBrowser();
await needBuild();
const cluster = await openCluster(join(root, ".data", `bench-${process.pid}`), { throwaway: true });
let app;
const end = onSignal(async () => {
  await app?.stop();
  cluster.stop();
});
try {
  const url = cluster.ensure("bench");
  await prepare(url, { demo: true });
  const port = await freePort();
  app = serve(url, port, { LOG_LEVEL: "silent" });
  await app.ready;
  const env = { ...process.env, DATABASE_URL: url, BASE_URL: `http://127.0.0.1:${port}` };
  await must("node", ["--import", "tsx", "scripts/bench/taps.ts"], { cwd: root, env });
  await must("node", ["--import", "tsx", "scripts/bench/pages.ts"], { cwd: root, env });
  await must("node", ["--import", "tsx", "scripts/bench/engine.ts"], { cwd: root, env });
  await must("node", ["--import", "tsx", "scripts/bench/learning.ts"], { cwd: root, env });
  await end(0);
} catch (error) {
  console.error(error.message);
  await end(1);
}
