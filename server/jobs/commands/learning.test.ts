import { atOf } from "../../../core/knobs";
import { randomUUID } from "node:crypto";
import { and, eq } from "drizzle-orm";
import { poolOf } from "../../../db/client";
import { job, model, repair, response } from "../../../db/schema";
import type { SignedIn } from "../../auth";
import { database } from "../../database";
import { beginJob, freshMachine } from "../fresh-machine";
import { learnFrom, learntFor } from "./learning";
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

const modelRow = async (id = modelId) => (await db.select().from(model).where(eq(model.id, id)))[0]!;

const fresh = () => freshMachine(lead, modelId, "Learn");

/** A job of this machine shows this, and is signed. */
async function show(machineId: string, value: number, times = 1, modelled = modelId) {
  const [workshopId, at] = [lead.workshop.id, new Date()];
  const jobId = await beginJob(lead, machineId, "check");
  for (let i = 0; i < times; i++)
    await db.transaction((tx) =>
      learnFrom(tx, {
        workshopId,
        jobId,
        ...atOf("opv")!,
        machineId,
        modelId: modelled,
        value,
        sd: 0.15,
        moves: 1,
        at,
      }),
    );
  await db.update(job).set({ state: "signed", signedAt: at }).where(eq(job.id, jobId));
}

const learnt = async (machineId: string, modelled = modelId, at = new Date()) =>
  learntFor(db, { id: machineId, model: await modelRow(modelled) }, at);

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
  expect((await learnt(id)).opv!.own).toBe(1);
  expect(await db.$count(response, eq(response.machineId, id))).toBe(1);
});

test("its own figure counts once: alone of its model, the model is what is usual, and the machine is what it showed", async () => {
  const alone = randomUUID();
  await db.insert(model).values({ ...(await modelRow()), id: alone, name: `Alone ${alone.slice(0, 6)}` });
  const id = await freshMachine(lead, alone, "Learn");
  await show(id, 3, 1, alone);
  const own = (await learnt(id, alone)).opv!;
  expect(own.ofModel).toEqual({ mean: 2, sd: 0.7 });
  expect(own.mean).toBeGreaterThan(2.8);
});

test("years fade it, and what was before a repair is another valve", async () => {
  const id = await fresh();
  await show(id, 4);
  const [soon, late] = [await learnt(id), await learnt(id, modelId, new Date(Date.now() + 6 * 365 * 864e5))];
  expect(late.opv!.sd).toBeGreaterThan(1.3 * soon.opv!.sd);
  const jobId = await beginJob(lead, id, "check");
  const record = { workshopId: lead.workshop.id, jobId, by: lead.id, at: new Date(Date.now() + 1000) };
  await db.insert(repair).values({ id: randomUUID(), ...record, ...atOf("opv")!, sequence: 1, text: "Valve renewed" });
  expect((await learnt(id)).opv!.own).toBe(0);
});

test("the demo’s own year has taught its models", async () => {
  const taught = await db
    .selectDistinct({ machineId: response.machineId })
    .from(response)
    .innerJoin(model, eq(model.id, response.modelId))
    .where(and(eq(model.workshopId, lead.workshop.id), eq(model.name, "Skerry")));
  expect(taught.length).toBeGreaterThanOrEqual(3);
});
