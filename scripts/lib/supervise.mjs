import { statfsSync } from "node:fs";
import { setTimeout as wait } from "node:timers/promises";
import { serve, serveWorker } from "./app.mjs";
import { say } from "./say.mjs";

/** How often in a row something may fail to start before it is given up, and the pause before each next try, ms. */
const TRIES = 6;
const pauseAfter = (failures) => Math.min(8000, 250 * 2 ** failures);
/** How often the private database is looked at, ms. */
const WATCH = 300;
/** Bytes without which the database does not start: two of the files that it writes ahead. */
const ROOM = 32 * 1024 * 1024;

function hasRoom(folder) {
  const { bavail, bsize } = statfsSync(folder);
  return bavail * bsize >= ROOM;
}

/**
 * Keeps the application, and the private database behind it, running: what dies is started again, with a longer pause each time it does
 * not come up. When one will not start any more, `ended` says so and why.
 *
 * @param {object} what
 * @param {string} what.url the database
 * @param {number} what.port
 * @param {Record<string, string>} [what.env]
 * @param {{ folder: string, alive(): boolean, start(): Promise<void>, url(name: string): string }} [what.cluster] the private one, when it is ours
 */
export function supervise({ url, port, env = {}, cluster }) {
  let stopping = false;
  let app;
  let worker;
  let give;
  let first;
  const ended = new Promise((resolve) => (give = resolve));
  const ready = new Promise((resolve, reject) => (first = { resolve, reject }));

  const lastWord = (words, code = 1) => {
    stopping = true;
    void worker?.stop();
    first.reject(Object.assign(new Error(words), { exitCode: code }));
    give({ words, code });
  };

  async function keepApp() {
    for (let failures = 0; !stopping;) {
      app = serve(url, port, env);
      const up = await app.ready.then(
        () => true,
        () => false,
      );
      if (up) {
        failures = 0;
        first.resolve();
      }
      const code = await app.ended;
      if (stopping) return;
      // A taken port is for a person to settle.
      if (code === 98) return lastWord(`Port ${port} is taken. Choose another: PORT=${port + 1}`, 98);
      if (!up && ++failures >= TRIES)
        return lastWord(
          `The application did not start ${TRIES} times in a row, and is not tried again. Its last words stand above.`,
        );
      say(`The application ended (${code ?? "killed"}). Starting it again …`);
      await wait(up ? 50 : pauseAfter(failures));
    }
  }

  /** Nobody’s page waits for the worker: it may come later, and is started again for as long as the application is there. */
  async function keepWorker() {
    for (let failures = 0; !stopping; failures++) {
      worker = serveWorker(url, env);
      await worker.ready.then(
        () => (failures = 0),
        () => {},
      );
      await worker.ended;
      if (stopping) return;
      say("The worker ended. Starting it again …");
      await wait(pauseAfter(failures));
    }
  }

  async function keepDatabase() {
    let waits = false;
    for (let failures = 0; !stopping; await wait(WATCH)) {
      if (cluster.alive()) continue;
      // Somebody has to make room: however long that takes, it is no reason to give up.
      if (!hasRoom(cluster.folder)) {
        if (!waits) say("The database ended, and there is no room on the disk. It is started again once there is.");
        waits = true;
        continue;
      }
      waits = false;
      say("The database ended. Starting it again …");
      try {
        await cluster.start();
        failures = 0;
      } catch (error) {
        if (stopping) return;
        if (++failures >= TRIES) {
          lastWord(`The database did not start ${TRIES} times in a row, and is not tried again.\n${error.message}`);
          await Promise.all([app?.stop(), worker?.stop()]);
          return;
        }
        await wait(pauseAfter(failures));
      }
    }
  }

  const loops = [keepApp(), keepWorker(), ...(cluster ? [keepDatabase()] : [])];
  // Whoever waits for `ended` only is not to be surprised by `ready`.
  ready.catch(() => {});
  return {
    ready,
    ended,
    /** The application’s process as it is now. */
    get pid() {
      return app?.pid;
    },
    async stop() {
      stopping = true;
      await Promise.all([app?.stop(), worker?.stop()]);
      await Promise.all(loops);
    },
  };
}
