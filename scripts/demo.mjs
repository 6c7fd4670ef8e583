import { createServer } from "node:net";
import { join } from "node:path";
import { onSignal, prepare } from "./lib/app.mjs";
import { fingerprint, needBuild, needModules, root } from "./lib/packages.mjs";
import { openCluster } from "./lib/postgres.mjs";
import { say, stop } from "./lib/say.mjs";
import { supervise } from "./lib/supervise.mjs";

/**
 * The whole product with demo data, from nothing: packages, database, build, server. A second start is quick and keeps
 * the data; `-- --fresh` starts over. DATABASE_URL uses an existing server instead of a private one.
 */
const port = Number(process.env.PORT ?? 4180);
const fresh = process.argv.includes("--fresh");
if (!Number.isInteger(port) || port < 1 || port > 65535)
  stop(`PORT is “${process.env.PORT}”. It must be a number from 1 to 65535.`);

let cluster;
let house;
let starting = Promise.resolve();
const end = onSignal(async () => {
  await starting.catch(() => {});
  await house?.stop();
  cluster?.stop();
});

try {
  await portIsFree(port);
  await needModules();
  await needBuild();
  const own = process.env.DATABASE_URL;
  starting = own ? Promise.resolve() : openCluster(join(root, ".data")).then((c) => (cluster = c));
  await starting;
  if (own && fresh) stop("--fresh would empty the database of DATABASE_URL. Empty it yourself if that is meant.");
  const url = own ?? cluster.ensure("demo", { fresh });
  const version = fingerprint(["db", "core", "server"], ["scripts/prepare-db.ts"]);
  if (own || fresh || cluster.state.prepared !== version) {
    say(fresh ? "Filling in the demo …" : "Bringing the database up to date …");
    await prepare(url, { demo: true });
    cluster?.note({ prepared: version });
  }
  house = supervise({ url, port, cluster });
  await house.ready;
  say(`
Nimble Gauge is at  http://127.0.0.1:${port}
Sign in as          ilka@lowtide.example (lead) or tobin@lowtide.example (technician)
The other workshop  runa@chandlery.example
Password for all    wet-hands-9bar
Ctrl-C stops it. npm run demo -- --fresh starts over.`);
  const { words, code } = await house.ended;
  console.error(words);
  await end(code);
} catch (error) {
  console.error(error.message);
  await end(error.exitCode ?? 1);
}

/** Asked first, so that a taken port is known before minutes of setting up. */
function portIsFree(number) {
  return new Promise((resolve, reject) => {
    const probe = createServer();
    probe.once("error", (error) =>
      reject(
        Object.assign(
          new Error(
            error.code === "EADDRINUSE"
              ? `Port ${number} is taken. Choose another: PORT=${number + 1} npm run demo`
              : error.message,
          ),
          { exitCode: 98 },
        ),
      ),
    );
    probe.listen(number, "127.0.0.1", () => probe.close(resolve));
  });
}
