import cluster from "node:cluster";
import { hearAlive } from "./alive.mjs";

/**
 * Serves the built application on loopback, by as many processes as WORKERS says, which share the port: one that dies is started again, one that
 * hangs is ended and started again, and the end of this one is the end of all.
 */
/** A worker that ends this soon was never of use, ms; so many in a row, and whoever started us is to hear of it. */
const SOON = 3000;
const TRIES = 3;
/** One that has said nothing for so long hangs, ms: with the time to start another it is replaced within ten seconds. */
const SILENCE = 5000;

process.env.NODE_ENV ??= "production";
const workers = Number(process.env.WORKERS ?? 1);

if (cluster.isPrimary) await keepWorkers(workers);
else {
  // Whoever forked it was killed while it started: nobody is there to be told.
  cluster.worker.on("error", () => process.exit(1));
  await import("./listen.mjs");
}

async function keepWorkers(count) {
  let failures = 0;
  let listening = 0;
  const stop = () => {
    for (const worker of Object.values(cluster.workers ?? {})) worker?.process.kill("SIGTERM");
    cluster.removeAllListeners("exit");
    cluster.disconnect(() => process.exit(0));
  };
  cluster.on("listening", () => {
    if (++listening === count) process.send?.("listening");
  });
  cluster.on("exit", (worker, code, signal) => {
    // A taken port is for a person to settle.
    if (code === 98) process.exit(98);
    failures = performance.now() - worker.startedAt < SOON ? failures + 1 : 0;
    if (failures >= TRIES * count) process.exit(1);
    console.error(`A process of the application ended (${signal ?? code}). Starting another.`);
    fork();
  });
  const fork = () => {
    const worker = Object.assign(cluster.fork(), { startedAt: performance.now() });
    const onHung = () => console.error("A process of the application hangs.");
    hearAlive(worker.process, { silence: SILENCE, onHung });
  };
  for (let i = 0; i < count; i++) fork();
  for (const name of ["SIGINT", "SIGTERM"]) process.on(name, stop);
  // Whoever started it is gone, perhaps killed: it must not hold the port against the next start.
  process.on("disconnect", stop);
}
