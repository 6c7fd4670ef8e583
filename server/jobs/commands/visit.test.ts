import { randomUUID } from "node:crypto";
import { and, eq } from "drizzle-orm";
import { documentOf, standingOf } from "../../../core/job";
import { knobOf } from "../../../core/job/job.fixture";
import { SCOPE_IDS, type Scope } from "../../../core/sheet";
import { poolOf } from "../../../db/client";
import { jobFrom } from "../../../db/queries/job-from";
import { sheetRow } from "../../../db/queries/jobs";
import { instrument, model } from "../../../db/schema";
import type { SignedIn } from "../../auth";
import { database } from "../../database";
import { beginJob, freshMachine } from "../fresh-machine";
import { personOf } from "../person-of";
import { endTimer } from "./clocks";
import { addNote } from "./notes";
import { addMove, addReading, addRepair } from "./readings";
import { addEntry, addTick } from "./tasks";
import { changeScopes, takeParticulars } from "./visit";

/** What a visit is for and on what machine, on the demo’s database; and what its readings and repairs come to. */

const db = database();
let lead: SignedIn;
beforeAll(async () => {
  lead = await personOf("ilka@lowtide.example");
});
afterAll(() => poolOf(db).end());

const target = (jobId: string, commandId: string = randomUUID()) => ({ by: lead, jobId, commandId });
const typed = (task: string, words: string) => ({ task, typed: words, unit: "", sure: false });
const stands = async (jobId: string) => standingOf(jobFrom((await sheetRow(db, lead.workshop.id, jobId))!));
const states = async (jobId: string) =>
  Object.fromEntries((await stands(jobId)).at(Date.now()).map((p) => [p.station.id, p.state]));

async function fresh(modelName: string): Promise<string> {
  const [known] = await db.select().from(model).where(eq(model.name, modelName));
  return freshMachine(lead, known!.id, "Visit");
}

async function begin(modelName: string, visit: "service" | "check" | readonly Scope[]): Promise<string> {
  const jobId = await beginJob(lead, await fresh(modelName), visit);
  await addNote(target(jobId), { station: "look-over", area: "", text: "Sound." });
  return jobId;
}

const kit = async (name: string) =>
  (
    await db
      .select()
      .from(instrument)
      .where(and(eq(instrument.workshopId, lead.workshop.id), eq(instrument.name, name)))
  )[0]!.id;

test("the model’s card is pinned when a job begins; taken anew it moves the sheet, and that stays on record", async () => {
  const [known] = await db.select().from(model).where(eq(model.name, "Skerry"));
  const own = randomUUID();
  await db.insert(model).values({ ...known!, id: own, name: `Skerry ${own}` });
  const machineId = await freshMachine(lead, own, "Pinned");
  const jobId = await beginJob(lead, machineId, "service");
  expect(await states(jobId)).toHaveProperty("covers");
  await db
    .update(model)
    .set({ opvRaises: "anticlockwise", card: { opvAccess: "outside" } })
    .where(eq(model.id, own));
  const stands = async () => standingOf(jobFrom((await sheetRow(db, lead.workshop.id, jobId))!));
  expect(await states(jobId)).toHaveProperty("covers");
  expect(knobOf(await stands(), "opv").loop.hand!.sign).toBe(1);
  await takeParticulars(target(jobId));
  expect(await states(jobId)).not.toHaveProperty("covers");
  expect(knobOf(await stands(), "opv").loop.hand!.sign).toBe(-1);
  const said = documentOf(await stands(), { workshop: "", name: "", remark: "", at: new Date() });
  expect(said.steps[0]).toMatchObject({
    title: "The visit",
    lines: [{ text: expect.stringMatching(/taken as they are now/) }],
  });
});

describe("a visit, not a job type", () => {
  test("one thing alone asks for nothing else", async () => {
    const alone = async (visit: Scope[]) => {
      const jobId = await beginJob(lead, await fresh("Lantern D"), visit);
      return Object.keys(await states(jobId));
    };
    expect(await alone(["clean"])).toEqual(["look-over", "tools", "clean", "sign"]);
    expect(await alone(["temperature"])).toEqual([
      "look-over",
      "tools",
      "heat",
      "boiler-ready",
      "warm",
      "temperature",
      "sign",
    ]);
    await expect(alone([])).rejects.toMatchObject({ field: "scopes" });
  });

  test("it grows while open; what was begun is taken out with a reason only, and the report says so", async () => {
    const jobId = await begin("Lantern D", "service");
    const before = await states(jobId);
    const scopes = SCOPE_IDS.filter((id) => id !== "setup" && id !== "volumes");
    await changeScopes(target(jobId), { scopes, reason: "" });
    const grown = await states(jobId);
    expect(Object.keys(grown)).toEqual(expect.arrayContaining([...Object.keys(before), "shots", "hand-over"]));
    expect(Object.keys(grown).filter((id) => id === "look-over" || id === "warm" || id === "sign")).toHaveLength(3);
    await addEntry(target(jobId), typed("look-over.accessories", "all"));
    await addEntry(target(jobId), typed("water.hardness", "40"));
    const dry = scopes.filter((id) => id !== "water");
    await expect(changeScopes(target(jobId), { scopes: dry, reason: "" })).rejects.toMatchObject({ field: "reason" });
    await changeScopes(target(jobId), { scopes: dry, reason: "The owner has it analysed." });
    expect(await states(jobId)).not.toHaveProperty("water");
    const standing = standingOf(jobFrom((await sheetRow(db, lead.workshop.id, jobId))!));
    const [visit] = documentOf(standing, { workshop: "", name: "", remark: "", at: new Date() }).steps;
    expect(visit!.lines.at(-1)!.text).toBe("taken out: water (The owner has it analysed.)");
    await expect(changeScopes(target(jobId), { scopes: [], reason: "" })).rejects.toMatchObject({ field: "scopes" });
  });
});

test("a reading before the chosen level of warm-up is marked early, one after it is not", async () => {
  const jobId = await begin("Lantern D", ["temperature"]);
  for (const key of ["tools", "heat.on"]) await addTick(target(jobId), { key });
  await endTimer(target(jobId), { task: "warm.boiler-ready", outcome: "done", sure: true });
  const probe = await kit("Thin probe, type T class 1");
  const read = (indicated: number) =>
    addReading(target(jobId), {
      loop: "offset",
      instrumentId: probe,
      place: "group",
      typed: String(indicated),
      unit: "C",
      indicated,
      detail: { setPoint: 93 },
      supersedes: null,
      reason: "",
    });
  await read(91);
  await endTimer(target(jobId), { task: "warm.machine-warm", outcome: "done", sure: true });
  await read(92.8);
  expect((await stands(jobId)).job.readings.map((r) => r.early)).toEqual([true, false]);
});

describe("a repair", () => {
  const bar = async (jobId: string, indicated: number, detail = {}) =>
    addReading(target(jobId), {
      loop: "opv",
      instrumentId: await kit("Portafilter gauge A"),
      place: "group",
      typed: String(indicated),
      unit: "bar",
      indicated,
      detail,
      supersedes: null,
      reason: "",
    });

  test("opens what had ended; it can be corrected, once, and only as what it is", async () => {
    const jobId = await begin("Skerry", "check");
    await addTick(target(jobId), { key: "tools" });
    await bar(jobId, 11.4, { returned: "none" });
    await expect(bar(jobId, 9)).rejects.toThrow("The test has ended");
    const repair = { loop: "opv" as const, text: "Valve renewed", supersedes: null, reason: "" };
    const first = randomUUID();
    await addRepair(target(jobId, first), repair);
    await bar(jobId, 9);
    await bar(jobId, 9);
    expect(knobOf(await stands(jobId), "opv").record).toMatchObject({ accepted: true, stopped: false });
    const correction = { ...repair, text: "Valve freed", supersedes: first, reason: "It was not renewed." };
    await expect(addMove(target(jobId), { ...correction, amount: 0.5, typed: "1/2", zero: false })).rejects.toThrow(
      "not on this sheet",
    );
    await addRepair(target(jobId), correction);
    await expect(addRepair(target(jobId), correction)).rejects.toThrow("corrected already");
    const { log } = knobOf(await stands(jobId), "opv");
    expect(log.map((line) => [line.kind, line.stands])).toEqual([
      ["reading", true],
      ["repair", false],
      ["repair", true],
      ["reading", true],
      ["reading", true],
    ]);
    await expect(addRepair(target(jobId), { ...repair, loop: "offset" })).rejects.toThrow("not on this sheet");
  });
});
