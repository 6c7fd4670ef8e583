import { join } from "node:path";
import { onSignal, prepare, serve } from "./lib/app.mjs";
import { needBuild, needModules, root } from "./lib/packages.mjs";
import { freePort, openCluster } from "./lib/postgres.mjs";
import { run } from "./lib/run.mjs";

/** `npm run fuzz -- 100000 0.3`: so many bodies, from that seed, to every form; on a database of its own. */
await needModules();
await needBuild();
const cluster = await openCluster(join(root, ".data", `fuzz-${process.pid}`), { throwaway: true });
let app;
const end = onSignal(async () => {
  await app?.stop();
  cluster.stop();
});
try {
  const url = cluster.ensure("fuzz");
  await prepare(url, { demo: true });
  const port = await freePort();
  app = serve(url, port, { LOG_LEVEL: process.env.LOG_LEVEL ?? "error" });
  await app.ready;
  const env = { ...process.env, DATABASE_URL: url, BASE_URL: `http://127.0.0.1:${port}` };
  await end(
    await run("node", ["--import", "tsx", "scripts/fuzz/fuzz.ts", ...process.argv.slice(2)], { cwd: root, env }),
  );
} catch (error) {
  console.error(error.message);
  await end(1);
}
