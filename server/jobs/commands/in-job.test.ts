import { createHash, randomUUID } from "node:crypto";
import { and, eq, sql } from "drizzle-orm";
import { poolOf } from "../../../db/client";
import { sheetRow } from "../../../db/queries/jobs";
import { command, instrument, job, machine, reading, signature } from "../../../db/schema";
import { stationInHand } from "../../../core/sheet";
import type { SignedIn } from "../../auth";
import { database } from "../../database";
import { addMove, addReading } from "./readings";
import { addNote } from "./notes";
import { changeLink } from "./links";
import { sign } from "./signing";
import { beginJob, freshMachine } from "../fresh-machine";
import { personOf } from "../person-of";
import { readDocument, runOf, standingOf } from "../../../core/job";
import { knobOf } from "../../../core/job/job.fixture";
import { jobFrom } from "../../../db/queries/job-from";
import { addTick, strike } from "./tasks";

/** Writes on the demo's database: order of work, one record per command, the wall, and what the database itself refuses. */

const db = database();
let lead: SignedIn;
let stranger: SignedIn;
let gauge: string;

beforeAll(async () => {
  lead = await personOf("ilka@lowtide.example");
  stranger = await personOf("runa@chandlery.example");
  const [row] = await db
    .select()
    .from(instrument)
    .where(and(eq(instrument.workshopId, lead.workshop.id), eq(instrument.name, "Portafilter gauge A")));
  gauge = row!.id;
});

afterAll(() => poolOf(db).end());

const target = (jobId: string, by = lead, commandId: string = randomUUID()) => ({ by, jobId, commandId });
const shown = (indicated: number, supersedes: string | null = null) => ({
  loop: "opv" as const,
  detail: {},
  instrumentId: gauge,
  place: "group" as const,
  typed: String(indicated),
  unit: "bar",
  indicated,
  supersedes,
  reason: "",
});
const turn = (amount: number) => ({
  loop: "opv" as const,
  amount,
  typed: String(amount),
  zero: false,
  supersedes: null,
  reason: "",
});

/** A new job on a machine of this serial. */
async function start(serial: string): Promise<string> {
  const [m] = await db.select().from(machine).where(eq(machine.serial, serial));
  return beginJob(lead, m!.id, "check", { schools: { opv: "regulate" } });
}

async function standing(jobId: string) {
  return standingOf(jobFrom((await sheetRow(db, lead.workshop.id, jobId))!));
}

test("the order of work holds, whatever is sent", async () => {
  const jobId = await start("CA-S-0088");
  await expect(addReading(target(jobId), shown(8))).rejects.toThrow("The look over comes first");
  await addNote(target(jobId), { station: "look-over", area: "", text: "Clean." });
  await expect(addReading(target(jobId), shown(8))).rejects.toThrow("Set out the tools first");
  await addTick(target(jobId), { key: "tools" });
  // A case is opened only once it is known that something is to be adjusted behind it.
  await expect(addTick(target(jobId), { key: "covers" })).rejects.toThrow("not on this sheet now");
  // This kind always has a flow control: half shut it would throttle the pump.
  await expect(addReading(target(jobId), shown(8))).rejects.toThrow("First: Flow control fully open.");
  await addTick(target(jobId), { key: "flow.open" });
  await addReading(target(jobId), shown(8));
  await expect(addMove(target(jobId), turn(0.5))).rejects.toThrow("Brew pressure as found comes first.");
  await expect(sign(target(jobId), { name: "Ilka", remark: "" })).rejects.toThrow(
    "Before the signature: brew pressure: as found.",
  );
  await expect(addReading(target(jobId), shown(16.5))).rejects.toThrow("from 0 to 16");
  await expect(addReading(target(jobId), { ...shown(8), instrumentId: randomUUID() })).rejects.toThrow(
    "Choose an instrument",
  );
  expect(stationInHand((await standing(jobId)).at(Date.now()))!.station.id).toBe("as-found");
});

test("a whole job: signed once, its hash is that of its document, frozen ever after", async () => {
  const jobId = await start("CA-T-4410");
  await addNote(target(jobId), { station: "look-over", area: "", text: "Clean." });
  await addTick(target(jobId), { key: "tools" });
  await addReading(target(jobId), shown(7.9));
  await addReading(target(jobId), shown(8));
  await expect(addMove(target(jobId), turn(0.5))).rejects.toThrow("The cover comes off first.");
  await addTick(target(jobId), { key: "covers" });
  const { advice, loop } = knobOf(await standing(jobId), "opv");
  // By what this machine showed at its earlier visits, not by the trade's 2 bar a turn.
  const learnt = loop.knob!.response.mean;
  expect(learnt).not.toBe(2);
  const { action } = advice!;
  expect(action.kind === "move" && Math.abs(8.03 + action.amount * learnt - 9)).toBeLessThan(0.2);
  await addMove(target(jobId), turn(0.5));
  for (const x of [8.9, 8.9]) await addReading(target(jobId), shown(x));
  await addTick(target(jobId), { key: "refit" });
  const commandId = randomUUID();
  expect(await sign(target(jobId, lead, commandId), { name: "Ilka", remark: "" })).toBe("done");
  expect(await sign(target(jobId, lead, commandId), { name: "Ilka", remark: "" })).toBe("repeated");
  expect(await sign(target(jobId, lead, commandId), { name: "Someone else", remark: "" })).toBe("clash");

  const [signed] = await db.select().from(signature).where(eq(signature.jobId, jobId));
  expect(signed!.hash).toBe(createHash("sha256").update(JSON.stringify(signed!.document)).digest("hex"));
  const { asFound, asLeft, moves, held } = readDocument(signed!.document).results[0]!;
  // The gauge's certificate adds 0.08 to 0.1 bar there.
  expect(asFound).toMatchObject({ value: expect.closeTo(8.03, 1), verdict: "off" });
  expect(asLeft).toMatchObject({ value: expect.closeTo(9.0, 1), verdict: "holds" });
  expect([moves, held]).toEqual([["OPV turned ½ turn clockwise"], "OPV regulates what the group sees"]);

  await expect(addNote(target(jobId), { station: "look-over", area: "", text: "Later." })).rejects.toThrow(
    "This job is signed.",
  );
  await expect(db.update(job).set({ complaint: "x" }).where(eq(job.id, jobId))).rejects.toThrow();
  await changeLink(target(jobId), { change: "revoke", linkId: null });
  expect((await sheetRow(db, lead.workshop.id, jobId))!.links.every((l) => l.revokedAt !== null)).toBe(true);
});

test("a correction supersedes: the old reading stays and stands no more", async () => {
  const jobId = await start("NTA-8071");
  await addNote(target(jobId), { station: "look-over", area: "", text: "Clean." });
  await addTick(target(jobId), { key: "tools" });
  const first = randomUUID();
  await addReading(target(jobId, lead, first), shown(6));
  await addReading(target(jobId), shown(9, first));
  await expect(addReading(target(jobId), shown(9.1, first))).rejects.toThrow("corrected already");
  await expect(addReading(target(jobId), shown(9.1, randomUUID()))).rejects.toThrow("not on this sheet");
  const { log, question } = knobOf(await standing(jobId), "opv");
  expect(log.map((line) => line.stands)).toEqual([false, true]);
  expect(question!.events).toEqual([expect.objectContaining({ kind: "reading", value: expect.closeTo(9.1, 2) })]);
});

test("a reading is excluded with a reason and counts no more; counted again, it is as it was; all of it stays on record", async () => {
  const [known] = await db.select().from(machine).where(eq(machine.serial, "NTA-8071"));
  const machineId = await freshMachine(lead, known!.modelId, "Exclude");
  const jobId = await beginJob(lead, machineId, "check", { schools: { opv: "regulate" } });
  await addNote(target(jobId), { station: "look-over", area: "", text: "Clean." });
  await addTick(target(jobId), { key: "tools" });
  const misread = randomUUID();
  await addReading(target(jobId), shown(9));
  await addReading(target(jobId, lead, misread), shown(6));
  const run = async () => runOf(knobOf(await standing(jobId), "opv").log, "as-found").map((r) => r.indicated);
  expect(await run()).toEqual([9, 6]);
  await expect(strike(target(jobId), { entryId: misread, reason: "" })).rejects.toThrow("Say why");
  const exclusion = randomUUID();
  await strike(target(jobId, lead, exclusion), { entryId: misread, reason: "Misread" });
  await strike(target(jobId, lead, exclusion), { entryId: misread, reason: "Misread" });
  expect(await run()).toEqual([9]);
  const { log, question } = knobOf(await standing(jobId), "opv");
  expect(log.map((line) => line.stands)).toEqual([true, false]);
  expect(question!.events).toHaveLength(1);
  await expect(strike(target(jobId), { entryId: misread, reason: "Misread" })).rejects.toThrow("excluded already");
  await strike(target(jobId), { entryId: exclusion, reason: "" });
  expect(await run()).toEqual([9, 6]);
  // And once more.
  await strike(target(jobId), { entryId: misread, reason: "Not steady yet" });
  expect(await run()).toEqual([9]);
  await expect(strike(target(jobId, stranger), { entryId: misread, reason: "Misread" })).rejects.toThrow("no such job");
});

test("the wall: another workshop's job is not there, and its command ids are nobody else's", async () => {
  const jobId = await start("BV-20077");
  await expect(addNote(target(jobId, stranger), { station: "look-over", area: "", text: "Hello." })).rejects.toThrow(
    "no such job",
  );
  await expect(changeLink(target(jobId, stranger), { change: "new", linkId: null })).rejects.toThrow(
    "Only a signed job",
  );
  const commandId = randomUUID();
  expect(await addNote(target(jobId, lead, commandId), { station: "look-over", area: "", text: "Mine." })).toBe("done");
  expect(await addNote(target(jobId, stranger, commandId), { station: "look-over", area: "", text: "Mine." })).toBe(
    "clash",
  );
  expect(await sheetRow(db, stranger.workshop.id, jobId)).toBeUndefined();
});

test("one open service per machine, none where there is no pump", async () => {
  const serial = "BV-70502";
  await start(serial);
  await expect(start(serial)).rejects.toThrow("open on this machine already");
  await expect(start("NTD-3307")).rejects.toThrow("has nothing of a pressure check");
});

test("the database itself refuses to change or drop a record", async () => {
  const refused = (query: Promise<unknown>, why = "append-only") =>
    expect(query.catch((e: { cause?: Error }) => Promise.reject(e.cause ?? e))).rejects.toThrow(why);
  const all = sql`true`;
  await refused(db.update(reading).set({ value: 9 }).where(all));
  await refused(db.delete(reading).where(all));
  await refused(db.update(signature).set({ hash: "x" }).where(all));
  await refused(db.update(signature).set({ kept: true, finding: "x" }).where(all));
  await refused(db.delete(command).where(all), "kept for 60 days");
  await refused(db.execute(sql`update adjustment set amount = 0`));
});
