import { join } from "node:path";
import { onSignal, prepare, serve, serveWorker } from "./app.mjs";
import { needBuild, needModules, root } from "./packages.mjs";
import { freePort, openCluster } from "./postgres.mjs";
import { run } from "./run.mjs";

/**
 * Runs TypeScript scripts, one after the other, against the built application with demo data on a database of their own, which is thrown
 * away after. Ends the process: with the first script’s code that is not 0, or with 0.
 *
 * @param {string} name of the database and its folder
 * @param {string[][]} scripts each with its arguments
 * @param {string} [logLevel] of the application
 */
export async function runOnDemo(name, scripts, logLevel = "silent") {
  await needModules();
  await needBuild();
  const cluster = await openCluster(join(root, ".data", `${name}-${process.pid}`), { throwaway: true });
  let app;
  let worker;
  const end = onSignal(async () => {
    await Promise.all([app?.stop(), worker?.stop()]);
    cluster.stop();
  });
  try {
    const url = cluster.ensure(name);
    await prepare(url, { demo: true });
    const port = await freePort();
    app = serve(url, port, { LOG_LEVEL: logLevel });
    worker = serveWorker(url, { LOG_LEVEL: logLevel });
    await Promise.all([app.ready, worker.ready]);
    const env = { ...process.env, DATABASE_URL: url, BASE_URL: `http://127.0.0.1:${port}` };
    for (const script of scripts) {
      const code = await run("node", ["--import", "tsx", ...script], { cwd: root, env });
      if (code !== 0) return await end(code);
    }
    await end(0);
  } catch (error) {
    console.error(error.message);
    await end(1);
  }
}
