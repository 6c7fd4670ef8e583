import { spawn } from "node:child_process";
import { hearAlive } from "../../server/alive.mjs";
import { restoreInto } from "./dump.mjs";
import { must } from "./run.mjs";
import { root } from "./packages.mjs";
import { servingUrl } from "./postgres.mjs";
import { say } from "./say.mjs";

/**
 * Migrates and, with `demo`, fills an empty database: from the file that DEMO_DUMP names, where somebody has made it before (its past
 * visits take long), or anew.
 */
export async function prepare(url, { demo = false } = {}) {
  const made = demo && process.env.DEMO_DUMP;
  if (made) await restoreInto(url, made);
  return must("node", ["--import", "tsx", "scripts/prepare-db.ts", ...(demo && !made ? ["--demo"] : [])], {
    cwd: root,
    env: { ...process.env, DATABASE_URL: url },
  });
}

/** Starts the built application; resolves when it listens. */
export const serve = (url, port, env = {}) => child("server/serve.mjs", url, { PORT: String(port), ...env });

/** Starts the second process, for what takes long. */
export function serveWorker(url, env = {}) {
  const worker = child("build/worker/worker.js", url, env);
  hearAlive(worker.process, { silence: WORKER_SILENCE, onHung: () => say("The worker hangs.") });
  return worker;
}

/** The worker may be long over one row of a file, but not so long, ms. */
const WORKER_SILENCE = 30_000;

function child(script, url, env) {
  const child = spawn("node", [script], {
    cwd: root,
    stdio: ["ignore", "inherit", "inherit", "ipc"],
    env: { ...process.env, NODE_ENV: "production", LOG_LEVEL: "warn", DATABASE_URL: servingUrl(url), ...env },
    // A signal to the terminal's group must not end it before its parent says so.
    detached: true,
  });
  const ready = new Promise((resolve, reject) => {
    child.once("message", resolve);
    child.once("exit", (code) =>
      reject(Object.assign(new Error(`The application ended (${code}).`), { exitCode: code })),
    );
  });
  const ended = new Promise((resolve) => child.once("exit", (code, signal) => resolve(code ?? signal)));
  // Asked for or not: an application that ends before it is ready is heard of through `ended` too.
  ready.catch(() => {});
  return {
    ready,
    ended,
    process: child,
    pid: child.pid,
    async stop() {
      if (child.exitCode === null && child.signalCode === null) child.kill("SIGTERM");
      await ended;
    },
  };
}

/** Runs `close` once on the first signal, then ends. Put in place before anything is started. */
export function onSignal(close) {
  let closing;
  const end = (code) => (closing ??= Promise.resolve(close()).finally(() => process.exit(code)));
  for (const signal of ["SIGINT", "SIGTERM", "SIGHUP"]) process.on(signal, () => end(0));
  return end;
}
