import { existsSync } from "node:fs";
import { isEmptyDatabase, restoreInto } from "./lib/dump.mjs";
import { root } from "./lib/packages.mjs";
import { run } from "./lib/run.mjs";
import { say, stop } from "./lib/say.mjs";

/**
 * `DATABASE_URL=… npm run restore -- FILE`: into an empty database, whole or not at all; then it is brought up to date, and every signed
 * record is looked through.
 */
const file = process.argv[2];
const url = process.env.DATABASE_URL;
if (!url) stop("DATABASE_URL names the empty database to restore into.");
if (!file || !existsSync(file)) stop(`There is no file “${file ?? ""}” to restore.`);
if (!(await isEmptyDatabase(url))) stop("That database is not empty. Nothing was restored: make an empty one.");

const start = performance.now();
await restoreInto(url, file);
say(`Restored in ${((performance.now() - start) / 1000).toFixed(1)} s`);
for (const script of ["scripts/prepare-db.ts", "scripts/verify.ts"]) {
  const code = await run("node", ["--import", "tsx", script], {
    cwd: root,
    env: { ...process.env, DATABASE_URL: url },
  });
  if (code !== 0) process.exit(code);
}
