import { randomUUID } from "node:crypto";
import { and, eq, sql } from "drizzle-orm";
import { poolOf } from "../../../db/client";
import { instrument, job, machine, model, programme, response, shotTap } from "../../../db/schema";
import type { SignedIn } from "../../auth";
import { database } from "../../database";
import { benchOf } from "../views/bench";
import { beginJob, freshMachine } from "../fresh-machine";
import { personOf } from "../person-of";
import { signNow } from "../sign-now";
import { addMove, addReading } from "./readings";
import { addNote } from "./notes";
import { tapClock } from "./shots";
import { addTick } from "./tasks";

/** What must not get past a signature, from one knob to another, or from one broken row to a whole list. */

const db = database();
let lead: SignedIn;
let gauge: string;

beforeAll(async () => {
  lead = await personOf("ilka@lowtide.example");
  const [row] = await db
    .select()
    .from(instrument)
    .where(and(eq(instrument.workshopId, lead.workshop.id), eq(instrument.name, "Portafilter gauge A")));
  gauge = row!.id;
});
afterAll(() => poolOf(db).end());

const target = (jobId: string) => ({ by: lead, jobId, commandId: randomUUID() });

async function begin(type: "check" | "service", modelName = "Skerry"): Promise<string> {
  const [known] = await db.select().from(model).where(eq(model.name, modelName));
  return beginJob(lead, await freshMachine(lead, known!.id, "Wall"), type);
}

const bar = (indicated: number, more: object = {}) => ({
  loop: "opv" as const,
  detail: {},
  instrumentId: gauge,
  place: "group" as const,
  typed: String(indicated),
  unit: "bar",
  indicated,
  supersedes: null,
  reason: "",
  ...more,
});

test("a correction stays with its knob: a reading of one strikes none of another, nor a move", async () => {
  const jobId = await begin("check");
  await addNote(target(jobId), { station: "look-over", area: "", text: "Clean." });
  for (const key of ["tools"]) await addTick(target(jobId), { key }).catch(() => {});
  const first = target(jobId);
  await addReading(first, bar(8));
  const strike = { supersedes: first.commandId, reason: "wrong knob" };
  await expect(addReading(target(jobId), bar(91, { loop: "offset", ...strike }))).rejects.toThrow(/not on this sheet/);
  const move = { loop: "opv" as const, amount: 0.25, typed: "1/4", zero: true };
  await expect(addMove(target(jobId), { ...move, ...strike })).rejects.toThrow(/not on this sheet/);
  await addReading(target(jobId), bar(9, { ...strike, reason: "misread" }));
});

test("taps, programmes and what was learnt join no signed job, whoever writes", async () => {
  const jobId = await begin("service");
  await signNow(lead, jobId);
  const tap = { clockId: randomUUID(), what: "pump" as const, moment: Date.now() };
  await expect(tapClock(target(jobId), tap)).rejects.toThrow("signed");
  const [signed] = await db.select().from(job).where(eq(job.id, jobId));
  const [of] = await db.select().from(machine).where(eq(machine.id, signed!.machineId));
  const cause = (query: Promise<unknown>) => query.catch((e: { cause?: Error }) => Promise.reject(e.cause ?? e));
  const workshopId = lead.workshop.id;
  const shared = { workshopId, jobId, machineId: of!.id, at: new Date() };
  for (const write of [
    db.insert(shotTap).values({ id: randomUUID(), workshopId, jobId, by: lead.id, ...tap, moment: new Date() }),
    db.insert(programme).values({
      id: randomUUID(),
      ...shared,
      group: 1,
      button: "double",
      target: 36,
      mean: 36,
      shots: 3,
      verdict: "holds",
    }),
    db.insert(response).values({ ...shared, knob: "opv", modelId: of!.modelId, value: 2, sd: 0.2, moves: 1 }),
  ])
    await expect(cause(write)).rejects.toThrow("This job is signed or withdrawn.");
});

test("a job whose records make no sense keeps its place on the bench and takes no other down", async () => {
  const jobId = await begin("check");
  await db.execute(sql`update job set particulars = jsonb_set(particulars, '{kind}', '"K99"') where id = ${jobId}`);
  const { tiles } = await benchOf(lead.workshop.id, { limit: 500 });
  expect(tiles.find((t) => t.jobId === jobId)).toMatchObject({ inHand: "This sheet can’t be worked out", until: null });
  expect(tiles.filter((t) => t.inHand !== "This sheet can’t be worked out").length).toBeGreaterThan(3);
  await db.execute(
    sql`update job set particulars = jsonb_set(particulars, '{kind}', '"K7"'), revision = revision + 1 where id = ${jobId}`,
  );
});
