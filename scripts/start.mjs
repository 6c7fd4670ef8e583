import { join } from "node:path";
import { onSignal, prepare } from "./lib/app.mjs";
import { needBuild, needModules, root } from "./lib/packages.mjs";
import { openCluster } from "./lib/postgres.mjs";
import { say } from "./lib/say.mjs";
import { supervise } from "./lib/supervise.mjs";

/** Serves the application on DATABASE_URL, or on the private database that `npm run demo` filled, and keeps it running. */
const port = Number(process.env.PORT ?? 4180);
let cluster;
let house;
let starting = Promise.resolve();
const end = onSignal(async () => {
  await starting.catch(() => {});
  await house?.stop();
  cluster?.stop();
});
try {
  await needModules();
  await needBuild();
  const own = process.env.DATABASE_URL;
  starting = own ? Promise.resolve() : openCluster(join(root, ".data")).then((c) => (cluster = c));
  await starting;
  const url = own ?? cluster.ensure("demo");
  await prepare(url);
  house = supervise({ url, port, cluster });
  await house.ready;
  say(`Nimble Gauge is at  http://127.0.0.1:${port}`);
  const { words, code } = await house.ended;
  console.error(words);
  await end(code);
} catch (error) {
  console.error(error.message);
  await end(error.exitCode ?? 1);
}
