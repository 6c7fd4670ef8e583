import { createServer } from "node:net";
import { join } from "node:path";
import { onSignal } from "./app.mjs";
import { needBuild, needModules, root } from "./packages.mjs";
import { openCluster } from "./postgres.mjs";
import { say } from "./say.mjs";
import { supervise } from "./supervise.mjs";

/**
 * From nothing to an application that is kept running, until a signal or a last word: packages, build, database, server.
 * DATABASE_URL uses an existing server instead of the private one.
 *
 * @param {(database: { own: string | undefined, cluster: object | undefined }) => Promise<string>} furnish
 *   brings the database up to date; returns its address
 * @param {string | (() => string)} greeting what is said once it is served
 * @param {Record<string, string>} [env] what the application is told beside
 * @param {number} [workers] processes that share the port
 */
export async function keepHouse({ furnish, greeting, env = {}, workers = 1 }) {
  const port = portWanted();
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
    house = supervise({
      url: await furnish({ own, cluster }),
      port,
      cluster,
      env: { WORKERS: String(workers), ...env },
    });
    await house.ready;
    say(`\nNimble Gauge is at  http://127.0.0.1:${port}\n${typeof greeting === "function" ? greeting() : greeting}`);
    const { words, code } = await house.ended;
    console.error(words);
    await end(code);
  } catch (error) {
    console.error(error.message);
    await end(error.exitCode ?? 1);
  }
}

function portWanted() {
  const port = Number(process.env.PORT ?? 4180);
  if (Number.isInteger(port) && port >= 1 && port <= 65535) return port;
  console.error(`PORT is “${process.env.PORT}”. It must be a number from 1 to 65535.`);
  process.exit(1);
}

/** Asked first, so that a taken port is known before minutes of setting up. */
function portIsFree(number) {
  return new Promise((resolve, reject) => {
    const probe = createServer();
    probe.once("error", (error) =>
      reject(
        Object.assign(
          new Error(
            error.code === "EADDRINUSE" ? `Port ${number} is taken. Choose another: PORT=${number + 1}` : error.message,
          ),
          { exitCode: 98 },
        ),
      ),
    );
    probe.listen(number, "127.0.0.1", () => probe.close(resolve));
  });
}
