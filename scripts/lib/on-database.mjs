import { join } from "node:path";
import { needModules, root } from "./packages.mjs";
import { openCluster } from "./postgres.mjs";
import { run } from "./run.mjs";

/**
 * Runs one of the project’s scripts on DATABASE_URL, else on the private database: what `npm start` made there, or with `-- --demo`, and where
 * there is no other, the demo’s. Its exit code becomes this process’s.
 */
export async function onDatabase(script, words = []) {
  await needModules();
  const own = process.env.DATABASE_URL;
  const cluster = own ? undefined : await openCluster(join(root, ".data"));
  const name = process.argv.includes("--demo") || !cluster?.has("workshop") ? "demo" : "workshop";
  try {
    const url = own ?? cluster.ensure(name);
    process.exitCode = await run("node", ["--import", "tsx", script, ...words], {
      cwd: root,
      env: { ...process.env, DATABASE_URL: url },
    });
  } finally {
    cluster?.stop();
  }
}
