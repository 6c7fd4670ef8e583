import { randomUUID } from "node:crypto";
import { eq } from "drizzle-orm";
import { poolOf } from "../../../db/client";
import { additionsOf } from "../../../db/queries/owner-card";
import { job, seal } from "../../../db/schema";
import type { SignedIn } from "../../auth";
import { database } from "../../database";
import { personOf } from "../person-of";
import { amend } from "./amend";

/** Words that join a job after its signature. */

const db = database();
let lead: SignedIn;
beforeAll(async () => {
  lead = await personOf("ilka@lowtide.example");
});
afterAll(() => poolOf(db).end());

const oneOf = async (state: "open" | "signed") =>
  (await db.select().from(job).where(eq(job.state, state))).find((j) => j.workshopId === lead.workshop.id)!;
const words = { about: "reading" as const, text: "Read again with the new gauge: 9.0 bar." };

test("added once, with a statement of its own, and the job’s own row stays as it was", async () => {
  const before = await oneOf("signed");
  const target = { by: lead, jobId: before.id, commandId: randomUUID() };
  expect(await amend(target, words)).toBe("done");
  expect(await amend(target, words)).toBe("repeated");
  expect(await amend(target, { ...words, text: "Other words." })).toBe("clash");
  const added = await additionsOf(db, lead.workshop.id, before.id);
  expect(added.filter((a) => a.id === target.commandId)).toEqual([
    expect.objectContaining({ about: "A reading", said: words.text, by: lead.name }),
  ]);
  expect(await db.select().from(seal).where(eq(seal.amends, target.commandId))).toHaveLength(1);
  expect((await db.select().from(job).where(eq(job.id, before.id)))[0]).toEqual(before);
});

test("on an open job it is refused: its step takes it; another workshop’s is none", async () => {
  const open = await oneOf("open");
  const on = (by: SignedIn, jobId: string) => amend({ by, jobId, commandId: randomUUID() }, words);
  await expect(on(lead, open.id)).rejects.toMatchObject({ field: "text" });
  const stranger = await personOf("runa@chandlery.example");
  await expect(on(stranger, (await oneOf("signed")).id)).rejects.toThrow("There is no such job in this workshop.");
});
