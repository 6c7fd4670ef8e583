import { readFileSync, rmSync } from "node:fs";
import { join } from "node:path";
import { onSignal, prepare, serve, serveWorker } from "./lib/app.mjs";
import { dumpTo } from "./lib/dump.mjs";
import { needBrowser, needBuild, needModules, root } from "./lib/packages.mjs";
import { freePort, openCluster } from "./lib/postgres.mjs";
import { slowness } from "./lib/probe.mjs";
import { run } from "./lib/run.mjs";
import { say } from "./lib/say.mjs";

/** Everything that must hold, from nothing: set-up, types, lint, dependency direction, Jest, build, Playwright. */
const folder = join(root, ".data", `test-${process.pid}`);
let cluster;
let app;
let worker;
const end = onSignal(async () => {
  await Promise.all([app?.stop(), worker?.stop()]);
  cluster?.stop();
});

// `npm test -- unit` or `-- e2e [words]` runs one part while working on it; without words it is everything.
const [only, ...words] = process.argv.slice(2);

let passed = 0;
let failed = 0;
const check = async (name, work) => {
  if (only && name !== "build") return true;
  say(`\n— ${name}`);
  const ok = await work().then(
    (code) => code === 0 || code === undefined,
    (error) => (console.error(error.message), false),
  );
  if (ok) passed++;
  else failed++;
  return ok;
};

await needModules();
await needBrowser();
cluster = await openCluster(folder, { throwaway: true });

// Made once, and copied for each part, by those that keep a server of their own from a file: past visits take longer than anything else.
const dump = join(folder, "demo.dump");
let made = false;
const demo = async (database) => {
  if (!made) {
    const url = cluster.ensure("demo");
    await prepare(url, { demo: true });
    await dumpTo(url, dump);
  }
  made = true;
  return cluster.ensure(database, { like: "demo" });
};

const bin = (name) => join(root, "node_modules", ".bin", name);
// Side by side, since each leaves a core free: what reads the code, and what runs it.
const [built] = await Promise.all([readOver(), suite("unit", "unit tests", jest)]);
if (built)
  await suite("e2e", "the real interface", async (tally) => {
    const url = await demo("e2e");
    const port = await freePort();
    app = serve(url, port, { LOG_LEVEL: "silent" });
    worker = serveWorker(url, { LOG_LEVEL: "silent" });
    await Promise.all([app.ready, worker.ready]);
    const slow = await slowness();
    if (slow > 1) say(`This machine is busy: deadlines are drawn out ${slow} times.`);
    return run(bin("playwright"), ["test", ...words], {
      cwd: root,
      env: {
        ...process.env,
        BASE_URL: `http://127.0.0.1:${port}`,
        DATABASE_URL: url,
        TALLY_FILE: tally,
        DEMO_DUMP: dump,
        SLOWNESS: String(slow),
      },
    });
  });

const filled = { cwd: root, env: { ...process.env, DEMO_DUMP: dump } };
await check("what nobody types and somebody sends", () => run("node", ["scripts/fuzz.mjs", "2000"], filled));
await check("a disk that is full", () => run("node", ["scripts/faults.mjs", "full"], filled));
await check("killed under three writers", () => run("node", ["scripts/faults.mjs", "20"], filled));

say(`\n${passed} passed, ${failed} failed`);
await end(failed === 0 ? 0 : 1);

/** Types, rules and layers, and what is served to browsers. @returns whether that could be built */
async function readOver() {
  await check(
    "types",
    async () =>
      (await run(bin("react-router"), ["typegen"], { cwd: root, quiet: true })) ||
      run(bin("tsc"), ["--noEmit"], { cwd: root }),
  );
  await check("lint", () => run(bin("eslint"), ["."], { cwd: root }));
  await check("format", () => run(bin("prettier"), ["--check", "--log-level", "warn", "."], { cwd: root }));
  await check("dependency direction", () =>
    run(bin("depcruise"), ["app", "server", "db", "core", "--config", ".dependency-cruiser.cjs"], { cwd: root }),
  );
  return check("build", () => needBuild());
}

async function jest(tally) {
  const url = await demo("unit");
  return run(bin("jest"), words, {
    cwd: root,
    env: {
      ...process.env,
      NODE_OPTIONS: "--experimental-vm-modules --no-warnings",
      DATABASE_URL: url,
      LOG_LEVEL: "silent",
      TALLY_FILE: tally,
    },
  });
}

/** A test runner: its own count of tests, or one failure if it never got to count. */
async function suite(part, name, work) {
  if (only && only !== part) return;
  say(`\n— ${name}`);
  const tally = join(root, ".data", `tally-${process.pid}.json`);
  try {
    const code = await work(tally);
    const counts = JSON.parse(readFileSync(tally, "utf8"));
    passed += counts.passed;
    failed += counts.failed;
    if (code !== 0 && counts.failed === 0) failed++;
  } catch (error) {
    console.error(error.message);
    failed++;
  } finally {
    rmSync(tally, { force: true });
  }
}
