import { randomUUID } from "node:crypto";
import { and, eq } from "drizzle-orm";
import { poolOf } from "../../../db/client";
import { entry, instrument, machine, model } from "../../../db/schema";
import type { SignedIn } from "../../auth";
import { database } from "../../database";
import { atMoment } from "../../moment";
import { saveInstrument } from "../../kit/instruments";
import { beginJob, freshMachine } from "../fresh-machine";
import { personOf } from "../person-of";
import { addNote } from "./notes";
import { recordShot } from "./shots";
import { addEntry, addTick } from "./tasks";

/** “Today” is the workshop’s: nine in the morning of 1 July in Auckland is the evening of 30 June where the server’s clock stands (UTC). */

const db = database();
const MORNING = new Date("2026-06-30T21:00:00Z");
let there: SignedIn;
let here: SignedIn;

beforeAll(async () => {
  there = await personOf("runa@chandlery.example");
  here = await personOf("ilka@lowtide.example");
  expect([there.workshop.timeZone, here.workshop.timeZone]).toEqual(["Pacific/Auckland", "Europe/London"]);
});
afterAll(() => poolOf(db).end());

const inTheMorning = <T>(work: () => Promise<T>) => atMoment(() => MORNING, work);

async function begin(by: SignedIn) {
  // By its kind: which row of a table comes first changes with every test that writes to it.
  const [of] = await db
    .select()
    .from(model)
    .where(and(eq(model.workshopId, by.workshop.id), eq(model.kind, "K7")))
    .limit(1);
  const machineId = await freshMachine(by, of!.id, "Zone");
  const jobId = await beginJob(by, machineId, ["water", "grinder", "shots"]);
  expect(await db.$count(machine, eq(machine.id, machineId))).toBe(1);
  return { jobId, target: () => ({ by, jobId, commandId: randomUUID() }) };
}

const shot = (roastedOn: string) => ({
  pull: {
    group: 1,
    by: "manual" as const,
    coffee: { name: "First light", roastedOn },
    grinder: { name: "Mill", finer: -1 as const, step: 1 },
    setting: 10,
    dose: 18,
    basket: "double" as const,
    seconds: 25,
    from: "pump" as const,
    yield: 36,
    choked: false,
  },
  typed: {},
  scaleId: null,
  clockId: null,
  supersedes: null,
  reason: "",
  // A coffee of today is young: said and meant so.
  sure: true,
});

test("coffee roasted today is of today there, and still to come here", async () => {
  const [away, home] = [await begin(there), await begin(here)];
  await inTheMorning(() => recordShot(away.target(), shot("2026-07-01")));
  await expect(inTheMorning(() => recordShot(home.target(), shot("2026-07-01")))).rejects.toThrow("still to come");
  await inTheMorning(() => recordShot(home.target(), shot("2026-06-30")));
});

test("a certificate that ran out yesterday is out of date there, and runs out today here", async () => {
  for (const [by, late] of [
    [there, true],
    [here, undefined],
  ] as const) {
    const strips = randomUUID();
    await saveInstrument(by, strips, null, {
      name: `Strips ${strips}`,
      quantity: "hardness",
      place: "group",
      lowest: 0,
      highest: 500,
      resolution: 10,
      error: { form: "limit", limit: 10 },
      repeatability: 0,
      driftPerYear: null,
      hysteresis: null,
      corrections: null,
      calibratedOn: null,
      dueOn: "2026-06-30",
      note: "",
    });
    const { jobId, target } = await begin(by);
    await addNote(target(), { station: "look-over", area: "", text: "Sound." });
    await addTick(target(), { key: "tools" });
    const typed = { task: "water.hardness", typed: "40", unit: "", sure: true, instrumentId: strips };
    await inTheMorning(() => addEntry(target(), typed));
    const [kept] = await db
      .select()
      .from(entry)
      .where(and(eq(entry.jobId, jobId), eq(entry.task, "water.hardness")));
    expect(kept!.value).toMatchObject({ instrumentId: strips });
    expect((kept!.value as { outOfDate?: boolean }).outOfDate).toBe(late);
    await db.update(instrument).set({ inKit: false }).where(eq(instrument.id, strips));
  }
});
