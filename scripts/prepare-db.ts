import { eq } from "drizzle-orm";
import { connect, poolOf } from "../db/client";
import { migrateUp } from "../db/migrate";
import { grantRoles } from "../db/roles";
import { standingOf } from "../core/job";
import { jobFrom } from "../db/queries/job-from";
import { sheetRow } from "../db/queries/jobs";
import { workshopIds } from "../db/queries/doors";
import { ensureStartingCards } from "../db/queries/specs";
import { account, job, workshop } from "../db/schema";
import { seedDemo } from "../db/seed/demo";
import { DEMO_PASSWORD } from "../db/seed/people";
import { hashPassword } from "../server/auth";
import { database } from "../server/database";
import { workPast } from "../server/demo/past";
import { forgetCommands } from "../server/forget-commands";
import { learntFor } from "../server/jobs/commands/learning";
import { keepEarlier } from "../server/jobs/commands/results";
import { makeQueue } from "../server/intake/queue";
import { KEY_FOLDER } from "../server/keys";
import { forgetLooks } from "../server/proof/memory";
import { sealEarlier } from "../server/proof/seal";
import { writeSignature } from "../server/jobs/commands/signing";

/** Brings the database of DATABASE_URL up to date, and fills it with the demo when it is empty and `--demo` is given. */
const db = connect(process.env.DATABASE_URL!);
await migrateUp(db);
const demo = process.argv.includes("--demo");

if (demo && (await db.select({ id: workshop.id }).from(workshop).limit(1)).length === 0) {
  // All or nothing: a seed cut short leaves an empty database that the next start fills.
  await db.transaction(async (tx) => {
    const inside = tx as unknown as typeof db;
    await seedDemo(inside, {
      now: new Date(),
      passwordHash: await hashPassword(DEMO_PASSWORD),
      async sign({ id, workshopId, by, name, at }) {
        const [shop] = await tx.select().from(workshop).where(eq(workshop.id, workshopId));
        const [person] = await tx
          .select({ id: account.id, role: account.role })
          .from(account)
          .where(eq(account.id, by));
        const standing = standingOf(jobFrom((await sheetRow(inside, workshopId, id))!));
        const target = {
          by: { id: person!.id, role: person!.role, way: "password" as const, workshop: shop! },
          jobId: id,
          commandId: id,
        };
        await writeSignature(tx, standing, target, { name, remark: "" }, at).catch(() =>
          writeSignature(tx, standing, target, { name, remark: "Left as it is: the owner decides on the repair." }, at),
        );
      },
    });
    // Open jobs begin with what the year has taught, as they would have.
    for (const open of await tx.query.job.findMany({
      where: eq(job.state, "open"),
      with: { machine: { with: { model: true } } },
    }))
      await tx
        .update(job)
        .set({ learnt: await learntFor(inside, open.machine) })
        .where(eq(job.id, open.id));
  });
  // The same workshops as in a demo before it: what was looked at there is gone with it.
  forgetLooks(KEY_FOLDER(), await workshopIds(db));
}

await ensureStartingCards(db);
// What takes longer is done piece by piece: a start that is cut off goes on with it the next time.
if (demo) await workPast(db, new Date(), (done, of) => done % 8 === 0 && console.log(`Past visits: ${done} of ${of}`));
await keepEarlier(db, (done) => console.log(`Results of earlier visits: ${done}`));
await sealEarlier(db, {
  onDone: (done) => console.log(`Statements under earlier signatures: ${done}`),
  memory: KEY_FOLDER(),
});
await forgetCommands();
if (!(await grantRoles(db)))
  console.log("The database’s roles were not set: docs/running.md says how whoever keeps the server makes them.");
await makeQueue(db, process.env.DATABASE_URL!);
await poolOf(db).end();
await poolOf(database()).end();
