import { randomUUID } from "node:crypto";
import { and, eq, sql } from "drizzle-orm";
import { poolOf } from "../../../db/client";
import { sheetRow } from "../../../db/queries/jobs";
import { findMachines } from "../../../db/queries/register";
import { entry, instrument, job, machine, model, timer, workshop } from "../../../db/schema";
import { USUAL_SCHOOLS } from "../../../core/school";
import { tasksNow } from "../../../core/sheet";
import type { SignedIn } from "../../auth";
import { database } from "../../database";
import { saveSpec } from "../../library/cards";
import { addMachine } from "../../machines/register";
import { benchOf } from "../views/bench";
import { beginJob, entryOf, freshMachine } from "../fresh-machine";
import { addNote } from "./notes";
import { personOf } from "../person-of";
import { standingOf } from "../../../core/job";
import { knobOf } from "../../../core/job/job.fixture";
import { jobFrom } from "../../../db/queries/job-from";
import { endTimer, startTimer } from "./clocks";
import { addEntry, addEvidence, addRow, addTick, skipStation, strike } from "./tasks";
import { chooseSchools, takeParticulars } from "./visit";

/** The sheet's tasks on the demo's database: what is taken, what is refused, and what happens once however often it is sent. */

const db = database();
let lead: SignedIn;
let stranger: SignedIn;

beforeAll(async () => {
  lead = await personOf("ilka@lowtide.example");
  stranger = await personOf("runa@chandlery.example");
});
afterAll(() => poolOf(db).end());

const target = (jobId: string, by = lead, commandId: string = randomUUID()) => ({ by, jobId, commandId });
const typed = (task: string, words: string, more = {}) => ({ task, typed: words, unit: "", sure: false, ...more });

/** A machine of a model that no other test works on. */
async function fresh(modelName: string): Promise<string> {
  const [known] = await db.select().from(model).where(eq(model.name, modelName));
  return freshMachine(lead, known!.id, "Work");
}

/** A job on a fresh machine, looked over already. */
async function begin(modelName: string, type: "install" | "handover" | "service"): Promise<string> {
  const jobId = await beginJob(lead, await fresh(modelName), type);
  await addNote(target(jobId), { station: "look-over", area: "Front", text: "Sound." });
  await addEntry(target(jobId), typed("look-over.accessories", "all"));
  if (type === "install") await addEntry(target(jobId), typed("look-over.damage", "none"));
  return jobId;
}

async function states(jobId: string) {
  const stand = standingOf(jobFrom((await sheetRow(db, lead.workshop.id, jobId))!));
  return Object.fromEntries(stand.at(Date.now()).map((p) => [p.station.id, p.state]));
}

test("a blocked station takes nothing, and says why", async () => {
  const jobId = await begin("Packet Two", "install");
  await expect(addEntry(target(jobId), typed("line.idle", "4"))).rejects.toThrow("Hardness before the first fill.");
  await expect(addTick(target(jobId), { key: "heat.on" })).rejects.toThrow("Never heat an empty boiler");
  await expect(startTimer(target(jobId), { task: "fill.boiler" })).rejects.toThrow("Not yet");
  await expect(addEntry(target(jobId), typed("no.such.task", "1"))).rejects.toThrow("not on this sheet");
});

test.each([
  ["water.hardness", "4 bar", "is not a unit of hardness"],
  ["water.hardness", "", "Type what the strip shows"],
  ["water.hardness", "9000 ppm", "no tap gives"],
  ["water.alkalinity", "many", "is not a number"],
  ["water.alkalinity", "700", "is unusual"],
])("%s takes no “%s”", async (task, words, reason) => {
  const jobId = await begin("Lantern D", "handover");
  await addTick(target(jobId), { key: "tools" });
  await expect(addEntry(target(jobId), typed(task, words))).rejects.toThrow(reason);
  expect(await db.select().from(entry).where(eq(entry.jobId, jobId))).toHaveLength(1);
});

test("heat starts the clocks once, however often it is sent; a clock is ended once, whoever taps", async () => {
  const jobId = await begin("Lantern D", "handover");
  await addTick(target(jobId), { key: "tools" });
  await addEntry(target(jobId), typed("water.hardness", "30"));
  const command = randomUUID();
  await Promise.all(Array.from({ length: 4 }, () => addTick(target(jobId, lead, command), { key: "heat.on" })));
  await addTick(target(jobId), { key: "heat.on" });
  const clocks = await db.select().from(timer).where(eq(timer.jobId, jobId));
  expect(clocks.map((c) => c.task).sort()).toEqual(["warm.boiler-ready", "warm.machine-warm"]);
  // Cold water is not hot in no time; said to have been warm, it is taken.
  await expect(endTimer(target(jobId), { task: "warm.boiler-ready", outcome: "done", sure: false })).rejects.toThrow(
    "Cold water can’t be hot",
  );
  await Promise.all(
    Array.from({ length: 3 }, () =>
      endTimer(target(jobId), { task: "warm.boiler-ready", outcome: "done", sure: true }),
    ),
  );
  await endTimer(target(jobId), { task: "warm.boiler-ready", outcome: "done", sure: true });
  await expect(endTimer(target(jobId), { task: "warm.boiler-ready", outcome: "alarm", sure: true })).rejects.toThrow(
    "Already ended by",
  );
  const [ended] = await db
    .select()
    .from(timer)
    .where(sql`job_id = ${jobId} and task = 'warm.boiler-ready'`);
  expect(ended!.outcome).toBe("done");
  await expect(db.update(timer).set({ outcome: "alarm" }).where(eq(timer.id, ended!.id))).rejects.toThrow();
  const tile = (await benchOf(lead.workshop.id, { limit: 500 })).tiles.find((t) => t.jobId === jobId)!;
  expect(tile.clocks.map((c) => c.label)).toEqual(["Machine warm"]);
});

test("a station is left out with a reason, taken up again, and never when others rest on it", async () => {
  const jobId = await begin("Lantern D", "handover");
  await skipStation(target(jobId), { station: "water", reason: "Measured last week." });
  expect((await states(jobId)).water).toBe("skipped");
  await skipStation(target(jobId), { station: "water", reason: "" });
  expect((await states(jobId)).water).toBe("ready");
  await expect(skipStation(target(jobId), { station: "heat", reason: "It is hot." })).rejects.toThrow(
    "can’t be skipped",
  );
  await expect(skipStation(target(jobId), { station: "nowhere", reason: "because" })).rejects.toThrow(
    "not on this sheet",
  );
});

test("a job's own school moves its tolerance and nobody else's; a newer card moves no open job", async () => {
  const jobId = await begin("Skerry", "service");
  await chooseSchools(target(jobId), { schools: { ...USUAL_SCHOOLS, opv: "ceiling" } });
  const brew = async (id: string) =>
    knobOf(standingOf(jobFrom((await sheetRow(db, lead.workshop.id, id))!)), "opv").loop.tolerance;
  expect(await brew(jobId)).toMatchObject({ lower: 10.5, upper: 12 });
  const [house] = await db.select().from(workshop).where(eq(workshop.id, lead.workshop.id));
  expect(house!.schools.opv).toBe("regulate");

  const card = randomUUID();
  const limits = (lower: number) => ({
    name: `Card ${card}`,
    about: "",
    usual: false,
    lines: [{ quantity: "brew-pressure" as const, lower, upper: 9.5, condition: "", source: "ours" }],
  });
  await saveSpec(lead, card, null, limits(8.7));
  const pinned = await beginJob(lead, await fresh("Twinset"), "service", { specCardId: card });
  await saveSpec(lead, randomUUID(), card, limits(8));
  const row = (await sheetRow(db, lead.workshop.id, pinned))!;
  expect([(await brew(pinned)).lower, row.spec!.version]).toEqual([8.7, 1]);
  expect(() => saveSpec({ ...lead, role: "technician" }, randomUUID(), card, limits(8))).toThrow("Only a lead");
});

test("the sheet follows a changed kind only when told to, and keeps what was recorded", async () => {
  const jobId = await begin("Lantern D", "handover");
  const [cup] = await db.select().from(model).where(eq(model.name, "Cup One"));
  const row = (await sheetRow(db, lead.workshop.id, jobId))!;
  await db.update(machine).set({ modelId: cup!.id }).where(eq(machine.id, row.machineId));
  expect(await states(jobId)).toHaveProperty("milk");
  await takeParticulars(target(jobId));
  const after = await states(jobId);
  expect(after).not.toHaveProperty("milk");
  expect(after["look-over"]).toBe("done");
});

test("another workshop can't write here, and finds nothing", async () => {
  const jobId = await begin("Lantern D", "handover");
  for (const write of [
    addTick(target(jobId, stranger), { key: "tools" }),
    addEntry(target(jobId, stranger), typed("water.hardness", "30")),
    startTimer(target(jobId, stranger), { task: "fill.boiler" }),
    skipStation(target(jobId, stranger), { station: "water", reason: "none of yours" }),
  ])
    await expect(write).rejects.toThrow("no such job in this workshop");
  const page = { after: null, limit: 50 };
  expect(await findMachines(db, stranger.workshop.id, { ...page, text: "work owner" })).toEqual([]);
  expect((await findMachines(db, lead.workshop.id, { ...page, text: "OWNER work saltby" })).length).toBeGreaterThan(0);
  // Signs that mean something to the database are only letters here.
  expect(await findMachines(db, lead.workshop.id, { ...page, text: "%" })).toEqual([]);
});

test("a serial once more, in any case of letters, is refused by name of the field", async () => {
  const jobId = await begin("Lantern D", "handover");
  const row = (await sheetRow(db, lead.workshop.id, jobId))!;
  const input = entryOf(row.machine.model.id, { serial: row.machine.serial.toLowerCase(), owner: "x", site: "y" });
  await expect(addMachine(lead, randomUUID(), input)).rejects.toMatchObject({ field: "serial" });
});

test("every task on the demo's open sheets has words for what was recorded", async () => {
  const [lever] = await db
    .select({ id: job.id })
    .from(job)
    .innerJoin(machine, eq(machine.id, job.machineId))
    .where(sql`serial = 'HPL-0312' and state = 'open'`);
  const stand = standingOf(jobFrom((await sheetRow(db, lead.workshop.id, lever!.id))!));
  const known = new Set(stand.plan.flatMap((s) => tasksNow(s, stand.records).map((t) => t.id)));
  for (const task of stand.records.values.keys()) expect(known.has(task)).toBe(true);
});

describe("rows, evidence and instruments", () => {
  const row = (task: string, cells: Record<string, string>, instruments: Record<string, string> = {}) => ({
    task,
    cells,
    instruments,
    unit: "bar",
  });
  const kitItem = async (name: string) =>
    (
      await db
        .select()
        .from(instrument)
        .where(and(eq(instrument.workshopId, lead.workshop.id), eq(instrument.name, name)))
    )[0]!;

  test("a figure names its instrument, its uncertainty and that it is out of date; another quantity is refused", async () => {
    const jobId = await begin("Packet Two", "service");
    await addTick(target(jobId), { key: "tools" });
    await addEntry(target(jobId), typed("water.hardness", "40 ppm"));
    await skipStation(target(jobId), { station: "filter", reason: "No cartridge here." });
    const line = await kitItem("Line gauge, class 1.6");
    const scale = await kitItem("Bench scale, 0.1 g");
    await expect(addEntry(target(jobId), typed("line.idle", "4", { instrumentId: scale.id }))).rejects.toThrow(
      "measures something else",
    );
    await addEntry(target(jobId), typed("line.idle", "4", { instrumentId: line.id }));
    const [kept] = await db
      .select()
      .from(entry)
      .where(and(eq(entry.jobId, jobId), eq(entry.task, "line.idle")));
    expect(kept!.value).toMatchObject({ form: "figure", value: 4, instrument: line.name, U: expect.any(Number) });
    await expect(addEntry(target(jobId), typed("line.idle", "4", { instrumentId: randomUUID() }))).rejects.toThrow(
      "Choose an instrument",
    );
  });

  test("a row is kept whole or not at all; one taken out counts no more and stays on record", async () => {
    const jobId = await begin("Packet Two", "handover");
    await addTick(target(jobId), { key: "tools" });
    const sheet = async () => standingOf(jobFrom((await sheetRow(db, lead.workshop.id, jobId))!));
    await addEntry(target(jobId), typed("look-over.accessories", "All there."));
    await addTick(target(jobId), { key: "heat.on" });
    await endTimer(target(jobId), { task: "warm.boiler-ready", outcome: "done", sure: true });
    const task = "volumes.meter.1";
    const rowOf = (pulses: string, grams: string) => row(task, { pulses, grams });
    await expect(addRow(target(jobId), rowOf("6o", "30"))).rejects.toThrow("whole number");
    await expect(addRow(target(jobId), rowOf("60", ""))).rejects.toThrow("nothing is typed");
    await expect(addRow(target(jobId), rowOf("60", "-3"))).rejects.toThrow("can’t be");
    const odd = randomUUID();
    await addRow(target(jobId, lead, odd), rowOf("60", "93"));
    await addRow(target(jobId), rowOf("60", "30.1"));
    expect((await sheet()).records.values.get(task)).toHaveLength(2);
    await strike(target(jobId), { entryId: odd, reason: "Jug was not empty." });
    await expect(strike(target(jobId), { entryId: odd, reason: "Again." })).rejects.toThrow(
      "corrected or taken back already",
    );
    await expect(strike(target(jobId), { entryId: randomUUID(), reason: "No." })).rejects.toThrow("not on this sheet");
    expect((await sheet()).records.values.get(task)).toHaveLength(1);
    expect(await db.$count(entry, and(eq(entry.jobId, jobId), eq(entry.task, task)))).toBe(3);

    const alarm = "diagnosis.flow-alarm";
    await expect(
      addEvidence(target(jobId), { task: alarm, check: "basket", outcome: "purple", zero: false }),
    ).rejects.toThrow("Choose what");
    await addEvidence(target(jobId), { task: alarm, check: "basket", outcome: "coffee", zero: false });
    expect((await sheet()).records.values.get(alarm)).toEqual([
      { form: "evidence", check: "basket", outcome: "coffee" },
    ]);
  });
});
