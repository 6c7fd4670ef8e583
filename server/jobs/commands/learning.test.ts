import { atOf } from "../../../core/knobs";
import { randomUUID } from "node:crypto";
import { and, eq } from "drizzle-orm";
import { poolOf } from "../../../db/client";
import { job, machine, machineResponse, model, modelResponse } from "../../../db/schema";
import type { SignedIn } from "../../auth";
import { database } from "../../database";
import { beginJob, freshMachine } from "../fresh-machine";
import { learnFrom, modelNow, learntFor, relearnAll } from "./learning";
import { personOf } from "../person-of";

/** What machines of a model have shown, on a model of this test’s own. */

const db = database();
let lead: SignedIn;
let modelId: string;

beforeAll(async () => {
  lead = await personOf("ilka@lowtide.example");
  modelId = randomUUID();
  await db.insert(model).values({
    id: modelId,
    workshopId: lead.workshop.id,
    maker: "Tryout",
    name: `Learner ${modelId.slice(0, 6)}`,
    kind: "K7",
    opvResponse: 2,
    opvResponseSd: 0.7,
    opvRaises: "clockwise",
  });
});
afterAll(() => poolOf(db).end());

const modelRow = async () => (await db.select().from(model).where(eq(model.id, modelId)))[0]!;

const fresh = () => freshMachine(lead, modelId, "Learn");

/** A job of this machine shows this, and is signed. */
async function show(machineId: string, value: number, times = 1) {
  const of = await modelRow();
  const [workshopId, at] = [lead.workshop.id, new Date()];
  const jobId = await beginJob(lead, machineId, "check");
  for (let i = 0; i < times; i++)
    await db.transaction((tx) =>
      learnFrom(tx, modelNow(of), { workshopId, jobId, ...atOf("opv")!, machineId, value, sd: 0.15, moves: 1, at }),
    );
  await db.update(job).set({ state: "signed", signedAt: at }).where(eq(job.id, jobId));
}

const learnt = async (machineId: string) => learntFor(db, { id: machineId, model: await modelRow() });
const prior = async () =>
  (
    await db
      .select()
      .from(modelResponse)
      .where(and(eq(modelResponse.modelId, modelId), eq(modelResponse.knob, "opv")))
  )[0];

test("nothing shown: nothing is taken for granted", async () => expect(await learnt(await fresh())).toEqual({}));

test("what one machine showed serves the next of its model, and itself more", async () => {
  const shown = [];
  for (const value of [2.9, 3.0, 3.1, 2.95]) {
    const id = await fresh();
    await show(id, value);
    shown.push(id);
  }
  const stranger = (await learnt(await fresh())).opv!;
  expect(stranger).toMatchObject({ machines: 4, own: 0 });
  expect(stranger.mean).toBeGreaterThan(2.7);
  expect(stranger.sd).toBeLessThan(0.5);
  const known = (await learnt(shown[2]!)).opv!;
  expect(known).toMatchObject({ machines: 4, own: 1 });
  expect(known.sd).toBeLessThan(stranger.sd);
});

test("a job teaches once, however often it is asked", async () => {
  const id = await fresh();
  await show(id, 3, 2);
  const [row] = await db.select().from(machineResponse).where(eq(machineResponse.machineId, id));
  expect(row!.jobs).toBe(1);
});

test("kept up signature by signature or worked out anew from all: the same prior", async () => {
  const before = await prior();
  await relearnAll(db, new Date());
  const after = await prior();
  expect(after!.mean).toBeCloseTo(before!.mean, 9);
  expect(after!.sd).toBeCloseTo(before!.sd, 9);
  expect(after!.machines).toBe(before!.machines);
});

test("the demo’s own year has taught its models", async () => {
  const rows = await db
    .select({ name: model.name, machines: modelResponse.machines })
    .from(modelResponse)
    .innerJoin(model, eq(model.id, modelResponse.modelId))
    .where(and(eq(model.workshopId, lead.workshop.id), eq(model.name, "Skerry")));
  expect(rows[0]!.machines).toBeGreaterThanOrEqual(3);
  expect(await db.$count(machine)).toBeGreaterThan(10);
});
