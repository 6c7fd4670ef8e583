import { join } from "node:path";
import { needModules, root } from "./packages.mjs";
import { openCluster } from "./postgres.mjs";
import { run } from "./run.mjs";

/**
 * Work on DATABASE_URL, else on the private database: what `npm start` made there, or with `-- --demo`, and where there is no other, the
 * demo’s.
 *
 * @param {(url: string) => Promise<void>} work
 */
export async function withDatabase(work) {
  await needModules();
  const own = process.env.DATABASE_URL;
  const cluster = own ? undefined : await openCluster(join(root, ".data"));
  const name = process.argv.includes("--demo") || !cluster?.has("workshop") ? "demo" : "workshop";
  try {
    await work(own ?? cluster.ensure(name));
  } catch (error) {
    console.error(error.message);
    process.exitCode = 1;
  } finally {
    cluster?.stop();
  }
}

/** Runs one of the project’s scripts on it. Its exit code becomes this process’s. */
export function onDatabase(script) {
  return withDatabase(async (url) => {
    process.exitCode = await run("node", ["--import", "tsx", script], {
      cwd: root,
      env: { ...process.env, DATABASE_URL: url },
    });
  });
}
