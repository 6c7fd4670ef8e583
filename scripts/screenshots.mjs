import { join } from "node:path";
import { onSignal, prepare, serve } from "./lib/app.mjs";
import { needBrowser, needBuild, needModules, root } from "./lib/packages.mjs";
import { freePort, openCluster } from "./lib/postgres.mjs";
import { must } from "./lib/run.mjs";

/** Takes the pictures of docs/screenshots anew, from demo data on a throwaway database. */
await needModules();
await needBrowser();
await needBuild();
const cluster = await openCluster(join(root, ".data", `pictures-${process.pid}`), { throwaway: true });
let app;
const end = onSignal(async () => {
  await app?.stop();
  cluster.stop();
});
try {
  const url = cluster.ensure("pictures");
  await prepare(url, { demo: true });
  const port = await freePort();
  app = serve(url, port, { LOG_LEVEL: "silent" });
  await app.ready;
  const env = { ...process.env, DATABASE_URL: url, BASE_URL: `http://127.0.0.1:${port}` };
  await must("node", ["--import", "tsx", "scripts/screenshots/take.ts", ...process.argv.slice(2)], { cwd: root, env });
  await end(0);
} catch (error) {
  console.error(error.message);
  await end(1);
}
