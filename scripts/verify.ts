import { connect, poolOf } from "../db/client";
import { KEY_FOLDER } from "../server/keys";
import { verify } from "../server/proof/verify";

/** Every signed record of DATABASE_URL, held against its statement. */
const db = connect(process.env.DATABASE_URL!);
let said = 0;
const { seals, found, unsealed } = await verify(db, {
  // A copy beside the records says nothing of what came before it.
  ...(process.argv.includes("--no-heads") ? {} : { memory: KEY_FOLDER() }),
  onSome(done) {
    if (done - said >= 1000) console.log(`${(said = done)} looked at`);
  },
});
for (const { workshop, serial, job, what } of found)
  console.log([workshop, serial && `machine ${serial}`, job && `job ${job}`, what].filter(Boolean).join(", "));
console.log(
  `${seals} signed records looked at: ${found.length === 0 ? "none was changed" : `${found.length} things do not hold`}.` +
    (unsealed > 0 ? ` ${unsealed} were signed by a version that made no statement.` : ""),
);
await poolOf(db).end();
process.exitCode = found.length === 0 ? 0 : 1;
