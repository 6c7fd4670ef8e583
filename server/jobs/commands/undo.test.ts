import { randomUUID } from "node:crypto";
import { and, eq } from "drizzle-orm";
import { standingEntries, standingOf } from "../../../core/job";
import { poolOf } from "../../../db/client";
import { jobFrom } from "../../../db/queries/job-from";
import { sheetRow } from "../../../db/queries/jobs";
import { entry, job, model, note, tick } from "../../../db/schema";
import type { SignedIn } from "../../auth";
import { database } from "../../database";
import { beginJob, freshMachine } from "../fresh-machine";
import { personOf } from "../person-of";
import { benchOf } from "../views/bench";
import { sheetView } from "../views/sheet";
import { addNote } from "./notes";
import { addEntries, addEntry, addTick, strike } from "./tasks";
import { chooseLevel, chooseWanted, reopenJob, withdrawJob } from "./visit";

/** Taking back, correcting and withdrawing: nothing is deleted, and what was taken back counts for nothing. */

const db = database();
let lead: SignedIn;
let stranger: SignedIn;

beforeAll(async () => {
  lead = await personOf("ilka@lowtide.example");
  stranger = await personOf("runa@chandlery.example");
});
afterAll(() => poolOf(db).end());

const target = (jobId: string, by = lead, commandId: string = randomUUID()) => ({ by, jobId, commandId });

async function begin(type: "install" | "service" = "service"): Promise<{ jobId: string; machineId: string }> {
  const [known] = await db.select().from(model).where(eq(model.name, "Packet Two"));
  const machineId = await freshMachine(lead, known!.id, "Undo");
  return { jobId: await beginJob(lead, machineId, type), machineId };
}

async function lookOver(jobId: string) {
  await addNote(target(jobId), { station: "look-over", area: "Front", text: "Sound." });
  await addEntry(target(jobId), { task: "look-over.accessories", typed: "all", unit: "", sure: false });
}

const stand = async (jobId: string) => standingOf(jobFrom((await sheetRow(db, lead.workshop.id, jobId))!));
const state = async (jobId: string, station: string) =>
  (await stand(jobId)).at(Date.now()).find((p) => p.station.id === station)!.state;

test("a tick taken back opens its step again; both records stay, and the second time changes nothing", async () => {
  const { jobId } = await begin();
  await lookOver(jobId);
  await addTick(target(jobId), { key: "tools" });
  expect(await state(jobId, "tools")).toBe("done");
  const ticks = () =>
    db
      .select()
      .from(tick)
      .where(and(eq(tick.jobId, jobId), eq(tick.key, "tools")));
  const [first] = await ticks();
  const command = randomUUID();
  await strike(target(jobId, lead, command), { entryId: first!.id, reason: "" });
  await strike(target(jobId, lead, command), { entryId: first!.id, reason: "" });
  expect(await state(jobId, "tools")).toBe("ready");
  expect(await ticks()).toHaveLength(1);
  expect(await db.select().from(entry).where(eq(entry.jobId, jobId))).toHaveLength(2);
  await addTick(target(jobId), { key: "tools" });
  expect(await state(jobId, "tools")).toBe("done");
  // Struck through on the sheet, with who and when, beside the tick that stands.
  const row = (await sheetRow(db, lead.workshop.id, jobId))!;
  const { open } = sheetView(jobFrom(row), [], [], lead, { now: Date.now(), picked: "tools" });
  const { lines, undo } = open!.tasks.find((t) => t.id === "tools")!;
  expect(lines).toMatchObject([{ text: "All set out", struck: { by: lead.name, reason: "" } }]);
  expect(undo).toMatchObject({ by: lead.name });
});

test("words corrected name what they supersede, and the later ones count", async () => {
  const { jobId } = await begin("install");
  const task = "look-over.accessories";
  await addEntry(target(jobId), { task, typed: "all", unit: "", sure: false });
  const rows = () =>
    db
      .select()
      .from(entry)
      .where(and(eq(entry.jobId, jobId), eq(entry.task, task)));
  const [first] = await rows();
  await addEntry(target(jobId), { task, typed: "No blind basket", unit: "", sure: false, supersedes: first!.id });
  expect(await rows()).toHaveLength(2);
  const found = jobFrom((await sheetRow(db, lead.workshop.id, jobId))!);
  expect(standingEntries(found).filter((e) => e.task === task)).toMatchObject([{ typed: "No blind basket" }]);
});

test("a condition note is taken back with who and when, and corrected once only", async () => {
  const { jobId } = await begin();
  await addNote(target(jobId), { station: "look-over", area: "Left", text: "Scratched." });
  const [first] = await db.select().from(note).where(eq(note.jobId, jobId));
  const back = { station: "look-over", area: "", text: "", supersedes: first!.id, reason: "other machine" };
  await addNote(target(jobId), back);
  await expect(addNote(target(jobId), back)).rejects.toThrow();
  expect(await db.select().from(note).where(eq(note.jobId, jobId))).toHaveLength(2);
});

test("values of one card are saved together or not at all", async () => {
  const { jobId } = await begin("install");
  const of = (task: string, typed: string) => ({ task, typed, unit: "", sure: true, instrumentId: undefined });
  const before = await db.select().from(entry).where(eq(entry.jobId, jobId));
  await expect(
    addEntries(target(jobId), { entries: [of("look-over.damage", "none"), of("no.such-task", "4")] }),
  ).rejects.toThrow();
  expect(await db.select().from(entry).where(eq(entry.jobId, jobId))).toHaveLength(before.length);
});

test("a job withdrawn leaves the bench, takes nothing more, and is reopened unless another began", async () => {
  const { jobId, machineId } = await begin();
  const onBench = async () =>
    (await benchOf(lead.workshop.id, { limit: 500 })).tiles.some((tile) => tile.jobId === jobId);
  expect(await onBench()).toBe(true);
  await expect(withdrawJob(target(jobId, stranger), { reason: "not mine" })).rejects.toThrow();
  await withdrawJob(target(jobId), { reason: "Wrong machine." });
  const row = async () => (await db.select().from(job).where(eq(job.id, jobId)))[0]!;
  expect((await row()).state).toBe("withdrawn");
  expect(await onBench()).toBe(false);
  await expect(addTick(target(jobId), { key: "tools" })).rejects.toThrow();
  await reopenJob(target(jobId));
  expect((await row()).state).toBe("open");
  await withdrawJob(target(jobId), { reason: "Wrong machine." });
  await beginJob(lead, machineId, "service");
  await expect(reopenJob(target(jobId))).rejects.toThrow();
});

test("warm-up level and wanted values change on the visit, with their reason", async () => {
  const { jobId } = await begin();
  await chooseLevel(target(jobId), { level: "heat-soaked" });
  await chooseWanted(target(jobId), { of: "brew", range: { lower: 8, upper: 8.6 }, reason: "The owner asked." });
  const [row] = await db.select().from(job).where(eq(job.id, jobId));
  expect(row).toMatchObject({ level: "heat-soaked", wanted: { brew: { lower: 8, upper: 8.6 } } });
  await chooseWanted(target(jobId), { of: "brew", range: null, reason: "" });
  const [after] = await db.select().from(job).where(eq(job.id, jobId));
  expect(after!.wanted).not.toHaveProperty("brew");
});
