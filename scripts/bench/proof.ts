import { mkdtempSync, rmSync, statSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { sql } from "drizzle-orm";
import { connect, poolOf } from "../../db/client";
import { seal } from "../../db/schema";
import { sealEarlier } from "../../server/proof/seal";
import { verify } from "../../server/proof/verify";
import { dropIt, dumpTo, makeBeside, restoreInto } from "../lib/dump.mjs";
import { grow, prepareGrowth } from "./grow";
import { table } from "./measure";

/** What proof costs at 10,000 whole visits: statements made, all of them looked through, a backup taken, restored and looked through again. */

const url = process.env.DATABASE_URL!;
const db = connect(url);
const folder = mkdtempSync(join(tmpdir(), "proof-"));
const file = join(folder, "all.dump");
const rows = [["what", "s", "a visit, ms"]];
let visits = 0;
const took = async (what: string, work: () => Promise<unknown>) => {
  const start = performance.now();
  await work();
  const ms = performance.now() - start;
  rows.push([what, (ms / 1000).toFixed(1), visits > 0 ? (ms / visits).toFixed(2) : ""]);
};

await prepareGrowth(db);
await took("filled", () =>
  grow(db, { workshops: 1, machines: 100, visits: 100, open: 0, mark: "PROOF", own: true }, (name) =>
    console.log(`filling ${name}`),
  ),
);
visits = 10_000;
await took("statements made", () =>
  sealEarlier(db, { onDone: (done) => void (done % 2000 === 0 && console.log(`${done} sealed`)) }),
);
await took("all looked through", async () => {
  const { found } = await verify(db);
  if (found.length > 0) throw new Error(`${found.length} do not hold: ${found[0]!.what}`);
});
await took("backup written", () => dumpTo(url, file));
const copy = await makeBeside(url, "restored_proof");
await took("restored", () => restoreInto(copy, file));
const restored = connect(copy);
await took("looked through there", async () => {
  const { found, seals } = await verify(restored);
  if (found.length > 0 || seals !== (await db.$count(seal))) throw new Error("What was restored does not hold.");
});
await poolOf(restored).end();
await dropIt(copy);
const { rows: sizes } = await db.execute<{ bytes: number }>(
  sql`select pg_total_relation_size('seal')::float8 as bytes`,
);
console.log(`\nProof, 10,000 visits\n${table(rows)}`);
console.log(
  `Backup ${(statSync(file).size / 1e6).toFixed(1)} MB; statements ${(sizes[0]!.bytes / visits / 1000).toFixed(1)} kB a visit`,
);
rmSync(folder, { recursive: true });
await poolOf(db).end();
