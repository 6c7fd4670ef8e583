import { randomUUID } from "node:crypto";
import { and, eq } from "drizzle-orm";
import { standingOf } from "../../../core/job";
import { isDone, tasksNow, unsafeNow } from "../../../core/sheet";
import { poolOf } from "../../../db/client";
import { jobFrom } from "../../../db/queries/job-from";
import { sheetRow } from "../../../db/queries/jobs";
import { instrument, model, signature } from "../../../db/schema";
import type { SignedIn } from "../../auth";
import { database } from "../../database";
import { workPlain } from "../../demo/plain-task";
import { beginJob, freshMachine } from "../fresh-machine";
import { personOf } from "../person-of";
import { addReading } from "./readings";
import { sign } from "./signing";
import { addEntry, addRow, skipStation } from "./tasks";
import { type WorkInput, addWork } from "./work";

/** Nothing unsafe is signed without a word, and nothing honest is refused. */

const db = database();
let lead: SignedIn;
let technician: SignedIn;

beforeAll(async () => {
  lead = await personOf("ilka@lowtide.example");
  technician = await personOf("tobin@lowtide.example");
});
afterAll(() => poolOf(db).end());

const target = (jobId: string, by = lead) => ({ by, jobId, commandId: randomUUID() });
const standing = async (jobId: string) => standingOf(jobFrom((await sheetRow(db, lead.workshop.id, jobId))!));

async function jobOn(kind: "K2" | "K3" | "K7" | "K8", visit: Parameters<typeof beginJob>[2]) {
  const [of] = await db
    .select({ id: model.id })
    .from(model)
    .where(and(eq(model.workshopId, lead.workshop.id), eq(model.kind, kind)));
  return beginJob(lead, await freshMachine(lead, of!.id, "Unsafe"), visit);
}

/** Works all that takes no gauge, but the steps named. */
async function workOff(jobId: string, leave: readonly string[] = []) {
  for (let i = 0; i < 60; i++) {
    const { records, loops, ...stands } = await standing(jobId);
    const now = Date.now();
    const at = { records, now, loops: loops.map((l) => l.loop) };
    const next = stands
      .at(now)
      .flatMap(({ station, state }) =>
        state === "ready" && station.id !== "sign" && !leave.includes(station.id)
          ? tasksNow(station, records).filter((t) => !t.optional && !isDone(t, at))
          : [],
      )[0];
    if (!next) return;
    await workPlain(next, {
      target: () => target(jobId),
      wait: () => Promise.resolve(),
      typed: undefined,
      today: "2026-12-01",
    });
  }
}

const answer = (jobId: string, task: string, typed: string) =>
  addEntry(target(jobId), { task, typed, unit: "", sure: true });
const leak = (jobId: string, where: string, after: "leaks" | "tight") =>
  addRow(target(jobId), {
    task: "leaks.found",
    cells: { where, side: "water", tried: "nothing", after },
    instruments: {},
    unit: "bar",
  });
const line = (over: Partial<WorkInput>): WorkInput => ({
  what: "",
  how: "",
  reason: "cracked at the seat",
  seen: "",
  outcome: "done",
  until: "",
  safetyCritical: false,
  minutes: "",
  price: "",
  licensedName: "",
  licence: "",
  exception: "",
  critical: "",
  act: "",
  notCritical: false,
  partId: null,
  count: "",
  sure: false,
  loop: null,
  supersedes: null,
  ...over,
});
const signs = (jobId: string, more: object = {}, by = lead) =>
  sign(target(jobId, by), { name: "Ilka Sandbourne", remark: "Left as it is.", ...more });
const documentOf = async (jobId: string) =>
  (await db.select().from(signature).where(eq(signature.jobId, jobId)))[0]!.document as {
    outOfUse?: string[];
    exception?: { why: string; of: string[] };
  };

test("a boiler that leaks holds the signature until it is tight, marked, or a lead answers for it", async () => {
  const jobId = await jobOn("K7", ["work"]);
  await workOff(jobId, ["leaks"]);
  // “Still leaks” and “no leak” never stand beside each other.
  await leak(jobId, "boiler", "leaks");
  await expect(answer(jobId, "leaks.water", "tight")).rejects.toThrow("still leaks on this side");
  await answer(jobId, "leaks.water", "left");
  await workOff(jobId);
  await expect(signs(jobId)).rejects.toMatchObject({
    field: "release",
    message: expect.stringContaining("boiler leaks"),
  });
  await expect(signs(jobId, { release: "exception", exception: "It drips once an hour." }, technician)).rejects.toThrow(
    "Only a lead can sign an exception",
  );
  await expect(signs(jobId, { release: "exception", exception: "no" })).rejects.toMatchObject({ field: "exception" });
  await signs(jobId, { release: "out-of-use" }, technician);
  expect((await documentOf(jobId)).outOfUse).toEqual([expect.stringContaining("The boiler leaks")]);
});

test("mended, it holds nothing; another leak that is left is said and signed", async () => {
  const jobId = await jobOn("K3", ["work"]);
  await workOff(jobId, ["leaks"]);
  await expect(answer(jobId, "leaks.water", "left")).rejects.toThrow("First save the leak above");
  await leak(jobId, "boiler", "leaks");
  await leak(jobId, "boiler", "tight");
  await leak(jobId, "hose", "leaks");
  await answer(jobId, "leaks.water", "left");
  await workOff(jobId);
  expect(unsafeNow((await standing(jobId)).records)).toEqual([]);
  await signs(jobId);
  expect((await documentOf(jobId)).outOfUse).toBeUndefined();
});

test("a protection left out, acid against the rule, nothing rinsed, a valve that lets nothing go, a part found faulty: each holds it", async () => {
  const held = async (jobId: string) => unsafeNow((await standing(jobId)).records);
  const never = await jobOn("K8", ["work", "clean"]);
  await workOff(never, ["parts", "clean"]);
  await answer(never, "parts.protections", "defeated");
  expect(await held(never)).toEqual([expect.stringMatching(/protection is bridged/)]);
  await answer(never, "parts.protections", "as-built");
  await answer(never, "parts.acid", "against");
  await answer(never, "clean.rinse", "0");
  expect(await held(never)).toEqual([
    expect.stringMatching(/against the model/),
    expect.stringMatching(/Nothing was rinsed/),
  ]);
  await answer(never, "parts.acid", "apart");
  await answer(never, "clean.back-flush", "none");
  expect(await held(never)).toEqual([expect.stringMatching(/three-way valve lets no pressure go/)]);
  await answer(never, "clean.back-flush", "returns");
  const faulty = line({ critical: "safety-valve", act: "out-of-use" });
  await addWork(target(never, technician), faulty);
  expect(await held(never)).toEqual([expect.stringMatching(/^Safety valve: found faulty/)]);
  await addWork(target(never, technician), {
    ...faulty,
    act: "replaced",
    licensedName: "Orrin Feld",
    licence: "PV 2217",
  });
  expect(await held(never)).toEqual([]);
});

test("after an element was replaced the earth is measured before anybody signs", async () => {
  const jobId = await jobOn("K3", ["work"]);
  await workOff(jobId, ["parts"]);
  await addWork(target(jobId), line({ critical: "element", act: "replaced", reason: "open circuit" }));
  const { plan, records } = await standing(jobId);
  expect(
    tasksNow(
      plan.find((s) => s.id === "parts")!,
      records,
    ).map((t) => t.id),
  ).toContain("parts.element");
});

test("water of 88.0 °C on a thin probe is signed as what it is", async () => {
  const jobId = await jobOn("K2", ["temperature"]);
  for (const station of ["boiler-ready", "warm"])
    await skipStation(target(jobId), { station, reason: "Hot when it came in." }).catch(() => undefined);
  await workOff(jobId, ["temperature"]);
  const probes = await db
    .select()
    .from(instrument)
    .where(and(eq(instrument.workshopId, lead.workshop.id), eq(instrument.quantity, "temperature")));
  const probe = probes.find((p) => p.inKit)!;
  for (const indicated of [84.4, 88])
    await addReading(target(jobId), {
      loop: "temperature",
      instrumentId: probe.id,
      place: "group",
      typed: String(indicated),
      unit: "C",
      indicated,
      detail: {},
      supersedes: null,
      reason: "",
    });
  await workOff(jobId);
  expect(await signs(jobId)).toBe("done");
});
