import { randomUUID } from "node:crypto";
import { and, eq, sql } from "drizzle-orm";
import { LEFT_TASK, WORK_TASK, documentOf, foundWork, standingOf } from "../../../core/job";
import { carriedTask } from "../../../core/sheet";
import { poolOf } from "../../../db/client";
import { carriedOf } from "../../../db/queries/carried";
import { jobFrom } from "../../../db/queries/job-from";
import { sheetRow } from "../../../db/queries/jobs";
import { movesOf, partRow, partsOf } from "../../../db/queries/parts";
import { job, model, part, repair } from "../../../db/schema";
import type { SignedIn } from "../../auth";
import { database } from "../../database";
import { addPart, changePart, countPart, importParts, keepPart } from "../../kit/parts";
import { beginJob, freshMachine } from "../fresh-machine";
import { personOf } from "../person-of";
import { signNow } from "../sign-now";
import { addNote, addPhoto } from "./notes";
import { addEntry, strike } from "./tasks";
import { withdrawJob } from "./visit";
import { type FaultInput, type WorkInput, addFaultLeft, addWork } from "./work";

/** Work and parts on the demo’s database: lines, the shelf they take from, faults left in, and what the next visit asks. */

const db = database();
let lead: SignedIn;
let technician: SignedIn;
let stranger: SignedIn;

beforeAll(async () => {
  lead = await personOf("ilka@lowtide.example");
  technician = await personOf("tobin@lowtide.example");
  stranger = await personOf("runa@chandlery.example");
});
afterAll(() => poolOf(db).end());

const target = (jobId: string, by = technician, commandId: string = randomUUID()) => ({ by, jobId, commandId });
const line = (over: Partial<WorkInput> = {}): WorkInput => ({
  what: "Group gasket",
  how: "renewed",
  reason: "hard, leaks",
  seen: "",
  outcome: "done",
  until: "",
  safetyCritical: false,
  minutes: "",
  price: "",
  licensedName: "",
  licence: "",
  critical: "",
  act: "",
  notCritical: false,
  exception: "",
  partId: null,
  count: "",
  sure: false,
  loop: null,
  supersedes: null,
  ...over,
});
const fault = (over: Partial<FaultInput> = {}): FaultInput => ({
  what: "Pump hums when cold",
  since: "spring",
  comesAndGoes: true,
  decision: "wish",
  why: "",
  reduction: "",
  mayTry: "",
  supersedes: null,
  ...over,
});

async function fresh(modelName = "Skerry"): Promise<string> {
  const [known] = await db.select().from(model).where(eq(model.name, modelName));
  return freshMachine(lead, known!.id, "Work");
}
async function begin(machineId?: string): Promise<{ jobId: string; machineId: string }> {
  const on = machineId ?? (await fresh());
  const jobId = await beginJob(lead, on, "service");
  await addNote(target(jobId), { station: "look-over", area: "", text: "Sound." });
  await addEntry(target(jobId), { task: "look-over.accessories", typed: "all", unit: "", sure: false });
  return { jobId, machineId: on };
}
const standing = async (jobId: string) => standingOf(jobFrom((await sheetRow(db, lead.workshop.id, jobId))!));
const lines = async (jobId: string) => (await standing(jobId)).records.values.get(WORK_TASK) ?? [];
async function newPart(stock: number, over = {}): Promise<string> {
  const id = randomUUID();
  await addPart(lead, id, { name: `Part ${id}`, number: "", fits: [], reorderAt: null, price: null, stock, ...over });
  return id;
}
const stock = async (id: string) => (await partRow(db, lead.workshop.id, id))!.stock;

test("a line takes from the shelf; corrected it gives back what it took, and taken back all of it", async () => {
  const { jobId } = await begin();
  const [gasket, screen] = [await newPart(3), await newPart(5)];
  const first = randomUUID();
  expect(await addWork(target(jobId, technician, first), line({ partId: gasket, count: "2" }))).toBe("done");
  expect(await stock(gasket)).toBe(1);
  // The same request twice is one line, and one thing taken.
  expect(await addWork(target(jobId, technician, first), line({ partId: gasket, count: "2" }))).toBe("repeated");
  expect(await stock(gasket)).toBe(1);
  const second = randomUUID();
  await addWork(target(jobId, technician, second), line({ partId: screen, count: "1", supersedes: first }));
  expect([await stock(gasket), await stock(screen)]).toEqual([3, 4]);
  await strike(target(jobId), { entryId: second, reason: "other machine" });
  expect(await stock(screen)).toBe(5);
  expect(await lines(jobId)).toEqual([]);
  const moves = await movesOf(db, lead.workshop.id, screen);
  expect(moves.map((m) => m.count).toSorted((a, b) => a - b)).toEqual([-1, 1, 5]);
});

test("never below nothing without a word: refused, and taken as far as it goes once it was meant so", async () => {
  const { jobId } = await begin();
  const id = await newPart(1);
  const three = line({ partId: id, count: "3" });
  await expect(addWork(target(jobId), three)).rejects.toMatchObject({ field: "sure" });
  expect(await stock(id)).toBe(1);
  const entryId = randomUUID();
  await addWork(target(jobId, technician, entryId), { ...three, sure: true });
  expect(await stock(id)).toBe(0);
  // Given back is what was taken, not what was used.
  await strike(target(jobId), { entryId, reason: "" });
  expect(await stock(id)).toBe(1);
  await expect(addWork(target(jobId), line({ partId: id, count: "-1" }))).rejects.toMatchObject({ field: "count" });
  await expect(addWork(target(jobId), line({ partId: randomUUID() }))).rejects.toMatchObject({ field: "partId" });
});

test("a table read in: known parts are counted anew, others put on the list; sent twice it is one", async () => {
  const id = await newPart(3);
  const name = (await partRow(db, lead.workshop.id, id))!.name;
  const other = `Table ${randomUUID()}`;
  const about = { number: "", fits: [], reorderAt: null, price: 2.5 };
  const rows = [
    { ...about, name: name.toUpperCase(), stock: 5 },
    { ...about, name: other, stock: 2 },
  ];
  const commandId = randomUUID();
  expect(await importParts(lead, commandId, rows)).toBe("done");
  expect(await importParts(lead, commandId, rows)).toBe("repeated");
  expect(await stock(id)).toBe(5);
  expect((await movesOf(db, lead.workshop.id, id)).map((m) => m.count).toSorted((a, b) => a - b)).toEqual([2, 3]);
  const listed = (await partsOf(db, lead.workshop.id)).filter((p) => p.name === other);
  expect(listed).toEqual([expect.objectContaining({ stock: 2, price: 2.5 })]);
});

test("a part put away while a form still names it: the line is taken, and its shelf is counted down", async () => {
  const { jobId } = await begin();
  const id = await newPart(2);
  await keepPart(lead, randomUUID(), { id, active: false });
  await addWork(target(jobId), line({ partId: id, count: "1" }));
  expect(await stock(id)).toBe(1);
  expect((await lines(jobId)).at(-1)).toMatchObject({ part: { id, count: 1, taken: 1 } });
});

test("a line shows photos of its own job and of no other", async () => {
  const [{ jobId }, { jobId: other }] = [await begin(), await begin()];
  const [own, theirs] = [randomUUID(), randomUUID()];
  const photo = { station: "look-over", area: "", mime: "image/webp", width: 1, height: 1 };
  await addPhoto(target(jobId, technician, own), { ...photo, data: Buffer.from([1]) });
  await addPhoto(target(other, technician, theirs), { ...photo, data: Buffer.from([2]) });
  await expect(addWork(target(jobId), line({ photos: [theirs] }))).rejects.toMatchObject({ field: "photos" });
  await addWork(target(jobId), line({ photos: [own, own] }));
  expect((await lines(jobId)).at(-1)).toMatchObject({ photos: [own] });
});

test("declined or put off takes nothing; what is still to be decided holds the step open", async () => {
  const { jobId } = await begin();
  const id = await newPart(2);
  await addWork(target(jobId), line({ outcome: "declined", partId: id }));
  expect(await stock(id)).toBe(2);
  for (const [task, typed] of [
    ["parts.protections", "as-built"],
    ["parts.acid", "none"],
  ])
    await addEntry(target(jobId), { task: task!, typed: typed!, unit: "", sure: true });
  const state = async () => (await standing(jobId)).at(Date.now()).find((p) => p.station.id === "parts")!.state;
  expect(await state()).toBe("done");
  const entryId = randomUUID();
  await addWork(target(jobId, technician, entryId), line({ what: "Pump", outcome: "open", partId: id }));
  expect(await state()).toBe("ready");
  await addWork(target(jobId), line({ what: "Pump", outcome: "done", partId: id, supersedes: entryId }));
  expect(await state()).toBe("done");
  expect(await stock(id)).toBe(1);
  await expect(addWork(target(jobId), line({ what: "Pump", supersedes: entryId }))).rejects.toThrow(
    "corrected or taken back already",
  );
});

test("a rule refuses a technician and takes a lead’s words", async () => {
  const { jobId } = await begin();
  const lapped = line({ what: "Safety valve lapped and refitted", how: "renewed" });
  await expect(addWork(target(jobId), lapped)).rejects.toMatchObject({ field: "notCritical" });
  await db.execute(
    sql`UPDATE job SET particulars = jsonb_set(particulars, '{card,descaling}', '"dismantle-only"') WHERE id = ${jobId}`,
  );
  const acid = line({ what: "Boiler", how: "descaled", reason: "scale" });
  await expect(addWork(target(jobId), acid)).rejects.toMatchObject({ field: "how" });
  const why = { ...acid, exception: "The maker’s bulletin allows it once." };
  await expect(addWork(target(jobId), why)).rejects.toMatchObject({ field: "how" });
  expect(await addWork(target(jobId, lead), why)).toBe("done");
  const said = documentOf(await standing(jobId), { workshop: "", name: "", remark: "", at: new Date() }).work!;
  expect(said[0]!.said).toContain("Exception by a lead");
});

test("renewing what a knob hangs on is a repair of that knob, once", async () => {
  const { jobId } = await begin();
  const id = randomUUID();
  await addWork(target(jobId, technician, id), line({ what: "OPV spring", loop: "opv" }));
  const found = () => db.select().from(repair).where(eq(repair.jobId, jobId));
  expect((await found()).map((r) => r.text)).toEqual(["OPV spring: renewed, hard, leaks"]);
  await addWork(target(jobId), line({ what: "OPV spring", reason: "tired", loop: "opv", supersedes: id }));
  expect(await found()).toHaveLength(1);
});

test("a fault left in is asked for on the next visit until it is settled, and stands on each report", async () => {
  const { jobId, machineId } = await begin();
  const [hums, wobbles] = [randomUUID(), randomUUID()];
  await addFaultLeft(target(jobId, technician, hums), fault());
  await addFaultLeft(target(jobId, technician, wobbles), fault({ what: "Tray wobbles", comesAndGoes: false }));
  await addWork(target(jobId), line({ what: "Steam tip", outcome: "postponed" }));
  const report = async (id: string) =>
    documentOf(await standing(id), { workshop: "", name: "", remark: "", at: new Date() }).left!;
  expect((await report(jobId)).map((f) => f.what)).toEqual(["Pump hums when cold", "Tray wobbles"]);
  await signNow(lead, jobId);

  const next = (await begin(machineId)).jobId;
  const asked = (await standing(next)).job.carried;
  expect(asked.map((c) => [c.kind, c.what]).toSorted()).toEqual([
    ["fault", "Pump hums when cold"],
    ["fault", "Tray wobbles"],
    ["work", "Steam tip"],
  ]);
  const state = async () => (await standing(next)).at(Date.now()).find((p) => p.station.id === "look-over")!.state;
  expect(await state()).toBe("ready");
  for (const { id, kind } of asked) {
    const typed = id === hums ? "still" : kind === "work" ? "done" : "mended";
    await addEntry(target(next), { task: carriedTask(id), typed, unit: "", sure: false });
  }
  expect(await state()).toBe("done");
  expect(await report(next)).toMatchObject([{ what: "Pump hums when cold", since: "still" }]);
  expect(foundWork(await standing(next)).map((f) => f.what)).toContain("Steam tip");
  expect((await carriedOf(db, lead.workshop.id, machineId)).map((c) => c.what)).toEqual(["Pump hums when cold"]);
  expect(await carriedOf(db, stranger.workshop.id, machineId)).toEqual([]);
  // Begun by mistake, what it answered counts for nothing.
  await withdrawJob(target(next, lead), { reason: "wrong machine" });
  expect(await carriedOf(db, lead.workshop.id, machineId)).toHaveLength(3);
});

test("a fault corrected or taken back is carried no further", async () => {
  const { jobId, machineId } = await begin();
  const [first, second] = [randomUUID(), randomUUID()];
  await addFaultLeft(target(jobId, technician, first), fault());
  await addFaultLeft(target(jobId, technician, second), fault({ what: "Pump hums always", supersedes: first }));
  const task = (await standing(jobId)).records.values.get(LEFT_TASK)!;
  expect(task).toMatchObject([{ what: "Pump hums always" }]);
  expect((await carriedOf(db, lead.workshop.id, machineId)).map((c) => c.what)).toEqual(["Pump hums always"]);
  await strike(target(jobId), { entryId: second, reason: "" });
  expect(await carriedOf(db, lead.workshop.id, machineId)).toEqual([]);
});

test("the list: one of a name and number, counted with what changed, put away and still named by its lines", async () => {
  const id = await newPart(4, { number: "N-1", reorderAt: 2 });
  const again = { name: `PART ${id}`, number: "n-1", fits: [], reorderAt: null, price: null };
  await expect(addPart(lead, randomUUID(), { ...again, stock: 1 })).rejects.toMatchObject({ field: "name" });
  await countPart(technician, randomUUID(), { id, stock: 9, reason: "Parcel." });
  expect(await stock(id)).toBe(9);
  expect((await movesOf(db, lead.workshop.id, id))[0]).toMatchObject({
    count: 5,
    reason: "Parcel.",
    by: "Tobin Marsh",
  });
  const [skerry] = await db.select().from(model).where(eq(model.name, "Skerry"));
  await changePart(lead, randomUUID(), { id, ...again, fits: [skerry!.id] });
  const fitting = async (modelId: string) => (await partsOf(db, lead.workshop.id, modelId)).some((p) => p.id === id);
  expect([await fitting(skerry!.id), await fitting(randomUUID())]).toEqual([true, false]);
  const { jobId } = await begin();
  await addWork(target(jobId), line({ partId: id }));
  await keepPart(lead, randomUUID(), { id, active: false });
  expect(await fitting(skerry!.id)).toBe(false);
  expect(await lines(jobId)).toMatchObject([{ part: { name: `PART ${id}`, count: 1, taken: 1 } }]);
  for (const write of [
    countPart(stranger, randomUUID(), { id, stock: 1, reason: "" }),
    keepPart(stranger, randomUUID(), { id, active: true }),
  ])
    await expect(write).rejects.toThrow("not on this workshop’s list");
});

test("the database holds the shelf at nothing or more, and a signed job takes no more from it", async () => {
  const id = await newPart(1);
  const below = db.update(part).set({ stock: -1 }).where(eq(part.id, id));
  await expect(below.catch((e: { cause?: unknown }) => Promise.reject(e.cause))).rejects.toThrow("part_stock");
  const { jobId } = await begin();
  await signNow(lead, jobId);
  await expect(addWork(target(jobId), line({ partId: id }))).rejects.toThrow("signed");
  expect(await db.$count(job, and(eq(job.id, jobId), eq(job.state, "signed")))).toBe(1);
});
