import { randomUUID } from "node:crypto";
import { and, eq } from "drizzle-orm";
import { standingOf } from "../../../core/job";
import { knobOf } from "../../../core/job/job.fixture";
import { tasksNow } from "../../../core/sheet";
import { poolOf } from "../../../db/client";
import { jobFrom } from "../../../db/queries/job-from";
import { sheetRow } from "../../../db/queries/jobs";
import { instrument, model } from "../../../db/schema";
import type { SignedIn } from "../../auth";
import { database } from "../../database";
import { saveInstrument } from "../../kit/instruments";
import { beginJob, freshMachine } from "../fresh-machine";
import { personOf } from "../person-of";
import { addNote } from "./notes";
import { addMove, addReading } from "./readings";
import { addEntry, addEvidence, addTick, skipStation } from "./tasks";

/** What lies behind a cover is opened only for an adjustment, closed after it, and never on a coarse reading where a finer gauge is at hand. */

const db = database();
let lead: SignedIn;

beforeAll(async () => {
  lead = await personOf("ilka@lowtide.example");
});
afterAll(() => poolOf(db).end());

const target = (jobId: string) => ({ by: lead, jobId, commandId: randomUUID() });

async function jobOn(kind: "K5" | "K6" | "K10" | "K13", visit: Parameters<typeof beginJob>[2]) {
  const [of] = await db
    .select({ id: model.id })
    .from(model)
    .where(and(eq(model.workshopId, lead.workshop.id), eq(model.kind, kind)));
  const jobId = await beginJob(lead, await freshMachine(lead, of!.id, "Opened"), visit, {
    schools: { opv: "regulate" },
  });
  await addNote(target(jobId), { station: "look-over", area: "", text: "Clean." });
  return jobId;
}

const standing = async (jobId: string) => standingOf(jobFrom((await sheetRow(db, lead.workshop.id, jobId))!));
const due = async (jobId: string, station: string) => {
  const { plan, records } = await standing(jobId);
  return tasksNow(
    plan.find((s) => s.id === station)!,
    records,
  ).map((t) => t.id);
};

const gaugeCalled = async (name: string) =>
  (
    await db
      .select()
      .from(instrument)
      .where(and(eq(instrument.workshopId, lead.workshop.id), eq(instrument.name, name)))
  )[0]!.id;

/** A gauge of class 2.5 on 16 bar in the kit: what a machine’s own is like. */
async function coarse(place: "group" | "boiler", highest: number): Promise<string> {
  const id = randomUUID();
  await saveInstrument(lead, id, null, {
    name: `Old dial ${id.slice(0, 4)}`,
    quantity: "pressure",
    place,
    lowest: 0,
    highest,
    resolution: highest / 160,
    error: { form: "class", percentOfSpan: 2.5 },
    repeatability: 0.1,
    driftPerYear: null,
    hysteresis: null,
    corrections: null,
    calibratedOn: null,
    dueOn: null,
    note: "",
  });
  return id;
}

const reading = (loop: "opv" | "pressurestat" | "basket", instrumentId: string, indicated: number, detail = {}) => ({
  loop,
  instrumentId,
  place: loop === "pressurestat" ? ("boiler" as const) : ("group" as const),
  typed: String(indicated),
  unit: loop === "basket" ? "g" : "bar",
  indicated,
  detail,
  supersedes: null,
  reason: "",
});
const move = (loop: "opv" | "pressurestat", amount: number) => ({
  loop,
  amount,
  typed: String(amount),
  zero: true,
  supersedes: null,
  reason: "",
});

test("read coarsely, the finer gauge of the kit is asked for before the cover; with it the coarse one decides nothing", async () => {
  const jobId = await jobOn("K5", "check");
  await addTick(target(jobId), { key: "tools" });
  const dial = await coarse("group", 16);
  for (const x of [9.9, 9.9]) await addReading(target(jobId), reading("opv", dial, x));
  const before = knobOf(await standing(jobId), "opv");
  expect(before.advice!.action).toEqual({ kind: "recheck", reason: "finer-first" });
  expect(before.record.finer).toMatch(/^Portafilter gauge/);
  expect(await due(jobId, "as-found")).toContain("opv.finer");
  expect(await due(jobId, "covers")).toEqual([]);
  await expect(addTick(target(jobId), { key: "covers" })).rejects.toThrow("not on this sheet now");
  const fine = await gaugeCalled("Portafilter gauge A");
  for (const x of [8.9, 8.9]) await addReading(target(jobId), reading("opv", fine, x));
  const after = knobOf(await standing(jobId), "opv");
  expect(after.advice!.action).toEqual({ kind: "accept" });
  expect(await due(jobId, "as-found")).not.toContain("opv.finer");
  expect(await due(jobId, "covers")).toEqual([]);
});

test("not at hand: said with a tick, and the work goes on with the coarse one", async () => {
  const jobId = await jobOn("K5", "check");
  await addTick(target(jobId), { key: "tools" });
  const dial = await coarse("group", 16);
  for (const x of [11, 11]) await addReading(target(jobId), reading("opv", dial, x));
  await addTick(target(jobId), { key: "opv.finer" });
  const { action } = knobOf(await standing(jobId), "opv").advice!;
  expect(action.kind === "move" && action.amount).toBeLessThan(0);
  await expect(addMove(target(jobId), move("opv", -1))).rejects.toThrow("The cover comes off first.");
  await addTick(target(jobId), { key: "covers" });
  await addMove(target(jobId), move("opv", -1));
});

test("in spec nothing is opened; who means to turn it all the same ticks that, and the cover comes first", async () => {
  const jobId = await jobOn("K5", "check");
  await addTick(target(jobId), { key: "tools" });
  const fine = await gaugeCalled("Portafilter gauge A");
  for (const x of [9, 9]) await addReading(target(jobId), reading("opv", fine, x));
  await expect(addMove(target(jobId), move("opv", 0.125))).rejects.toThrow("No adjustment is advised now");
  await addTick(target(jobId), { key: "opv.meant" });
  expect(await due(jobId, "covers")).toEqual(["covers"]);
  await addTick(target(jobId), { key: "covers" });
  await addMove(target(jobId), move("opv", 0.125));
});

test("a pressurestat wheel beside live terminals has a stop before it and a check after it", async () => {
  const jobId = await jobOn("K10", ["steam"]);
  const boiler = randomUUID();
  await saveInstrument(lead, boiler, null, {
    name: "Boiler check gauge",
    quantity: "pressure",
    place: "boiler",
    lowest: 0,
    highest: 4,
    resolution: 0.02,
    error: { form: "certificate", U: 0.02, k: 2 },
    repeatability: 0.01,
    driftPerYear: null,
    hysteresis: null,
    corrections: null,
    calibratedOn: null,
    dueOn: null,
    note: "",
  });
  const { plan } = await standing(jobId);
  expect(plan.map((s) => s.id)).toEqual(expect.arrayContaining(["steam", "steam-refit"]));
  expect(plan.find((s) => s.id === "steam")!.hardStop!.title).toMatch(/live parts/);
  await skipStation(target(jobId), { station: "boiler-ready", reason: "Hot when it came in." });
  for (const x of [0.9, 0.9]) await addReading(target(jobId), reading("pressurestat", boiler, x, { cutIn: x - 0.2 }));
  await expect(addMove(target(jobId), move("pressurestat", 3))).rejects.toThrow("First: Off, unplugged");
  expect(await due(jobId, "steam")).toContain("steam.covers");
  await addTick(target(jobId), { key: "steam.covers" });
  await addMove(target(jobId), move("pressurestat", 3));
  expect(await due(jobId, "steam-refit")).toEqual(["steam.refit"]);
});

test("no three-way valve: the handle is not turned to find a cause before the pressure was let out, and never by a program", async () => {
  const jobId = await jobOn("K13", "check");
  await addTick(target(jobId), { key: "tools" });
  const fine = await gaugeCalled("Portafilter gauge A");
  for (const x of [7, 7]) await addReading(target(jobId), reading("opv", fine, x));
  const free = { task: "diagnosis.brew-pressure", check: "free-flow", outcome: "low" };
  await expect(addEvidence(target(jobId), { ...free, zero: false })).rejects.toThrow("Let it out slowly");
  const program = { ...target(jobId), by: { ...lead, way: "program" as const } };
  await expect(addEvidence(program, { ...free, zero: true })).rejects.toThrow("Let it out slowly");
  await addEvidence(target(jobId), { ...free, zero: true });
  // A turn of an OPV that this machine has no screw for is no check any more.
  const turn = { task: "diagnosis.brew-pressure", check: "turn", outcome: "nothing", zero: true };
  await expect(addEvidence(target(jobId), turn)).rejects.toThrow("Choose what the check showed");
});

test("a program confirms no hard stop: that is a person’s at the machine", async () => {
  const jobId = await jobOn("K5", "check");
  await addTick(target(jobId), { key: "tools" });
  const fine = await gaugeCalled("Portafilter gauge A");
  for (const x of [8, 8]) await addReading(target(jobId), reading("opv", fine, x));
  const program = { ...target(jobId), by: { ...lead, way: "program" as const } };
  await expect(addTick(program, { key: "covers" })).rejects.toThrow("confirmed by a person at the machine");
  await addTick(target(jobId), { key: "covers" });
});

test("a three-way valve found blocked at back-flush stops the work until the pressure is out", async () => {
  const jobId = await jobOn("K5", ["clean"]);
  expect(await due(jobId, "clean")).not.toContain("clean.bled");
  await addEntry(target(jobId), { task: "clean.back-flush", typed: "none", unit: "", sure: true });
  expect(await due(jobId, "clean")).toContain("clean.bled");
  const { plan } = await standing(jobId);
  expect(plan.find((s) => s.id === "clean")!.hardStop!.title).toBe("Trapped pressure");
});

test("a dose stop: which way gives more is asked before the first turn, and the model keeps the answer", async () => {
  await db
    .update(model)
    .set({ card: {} })
    .where(and(eq(model.workshopId, lead.workshop.id), eq(model.kind, "K6")));
  const jobId = await jobOn("K6", ["grinder"]);
  expect(knobOf(await standing(jobId), "basket").loop.knob).toBeNull();
  expect(await due(jobId, "grinder")).toContain("grinder.stop");
  await addEntry(target(jobId), { task: "grinder.stop", typed: "less", unit: "", sure: true });
  expect(knobOf(await standing(jobId), "basket").loop.knob!.direction).toBe(-1);
  const next = await standing(await jobOn("K6", ["grinder"]));
  expect(next.card.stopThreads).toBe("less");
});
