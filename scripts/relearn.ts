import { connect, poolOf } from "../db/client";
import { relearnAll } from "../server/jobs/commands/learning";

/** Learns anew on DATABASE_URL, one workshop after the other. */
const db = connect(process.env.DATABASE_URL!);
const { models, machines } = await relearnAll(db, new Date(), (done, of) => console.log(`${done} of ${of} workshops`));
console.log(`Learnt anew: ${models} knobs of models, from ${machines} knobs of machines.`);
await poolOf(db).end();
