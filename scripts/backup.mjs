import { mkdirSync, statSync } from "node:fs";
import { dirname, join, resolve } from "node:path";
import { dropIt, dumpTo, makeBeside, restoreInto } from "./lib/dump.mjs";
import { withDatabase } from "./lib/on-database.mjs";
import { root } from "./lib/packages.mjs";
import { run } from "./lib/run.mjs";
import { say } from "./lib/say.mjs";

/**
 * A backup of the records, while they are in use: `npm run backup [-- FILE]`. It is one only when it has been restored: into a database of its
 * own beside, in which every signed record is looked through. The keys are not in it (docs/running.md).
 */
await withDatabase(async (url) => {
  const named = process.argv.slice(2).find((word) => !word.startsWith("--"));
  const stamp = new Date().toISOString().slice(0, 19).replaceAll(":", "");
  const file = resolve(named ?? join(root, "backups", `nimble-gauge-${stamp}.dump`));
  mkdirSync(dirname(file), { recursive: true, mode: 0o700 });
  const took = async (words, work) => {
    const start = performance.now();
    const result = await work();
    say(`${words} in ${((performance.now() - start) / 1000).toFixed(1)} s`);
    return result;
  };
  await took("Written", () => dumpTo(url, file));
  const scratch = await makeBeside(url, `restored_${process.pid}_${Date.now()}`);
  try {
    await took("Restored beside", () => restoreInto(scratch, file));
    const code = await took("Looked through", () =>
      run("node", ["--import", "tsx", "scripts/verify.ts", "--no-heads"], {
        cwd: root,
        env: { ...process.env, DATABASE_URL: scratch },
      }),
    );
    if (code !== 0) throw new Error("The backup was written and restored, but signed records in it do not hold.");
  } finally {
    await dropIt(scratch);
  }
  say(`${file}: ${(statSync(file).size / 1e6).toFixed(1)} MB. Keep it elsewhere, and the key folder apart from it.`);
});
