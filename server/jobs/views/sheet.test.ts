import { randomUUID } from "node:crypto";
import { and, eq } from "drizzle-orm";
import { poolOf } from "../../../db/client";
import { sheetRow } from "../../../db/queries/jobs";
import { resultsBefore } from "../../../db/queries/results";
import { instrumentFrom, jobFrom } from "../../../db/queries/job-from";
import { kitOf } from "../../../db/queries/machines";
import { instrument, job, machine, signature } from "../../../db/schema";
import { standingOf } from "../../../core/job";
import { aGauge, aJob, aReading } from "../../../core/job/job.fixture";
import type { SignedIn } from "../../auth";
import { database } from "../../database";
import { personOf } from "../person-of";
import { addMove, addReading, takeFault } from "../commands/readings";
import { addNote } from "../commands/notes";
import { sign } from "../commands/signing";
import { beginJob } from "../fresh-machine";
import { sheetView } from "./sheet";
import { stationBrief } from "./station";
import { addTick } from "../commands/tasks";

/** The sheet as the screen gets it, from the demo’s jobs and from jobs of this test’s own. */

const db = database();
let lead: SignedIn;
beforeAll(async () => {
  lead = await personOf("ilka@lowtide.example");
});
afterAll(() => poolOf(db).end());

async function openJob(serial: string): Promise<string> {
  const [m] = await db.select().from(machine).where(eq(machine.serial, serial));
  const [j] = await db
    .select({ id: job.id })
    .from(job)
    .where(and(eq(job.machineId, m!.id), eq(job.state, "open")));
  return j!.id;
}

async function view(jobId: string, more: { picked?: string; loop?: string } = {}, who = lead) {
  const row = (await sheetRow(db, lead.workshop.id, jobId))!;
  const at = { workshopId: lead.workshop.id, jobId, visits: 5 };
  const [kit, visits] = await Promise.all([kitOf(db, lead.workshop.id), resultsBefore(db, at)]);
  return sheetView(jobFrom(row), kit.map(instrumentFrom), visits, who, { now: Date.now(), ...more });
}

const kitItem = async (name: string) =>
  (
    await db
      .select()
      .from(instrument)
      .where(and(eq(instrument.workshopId, lead.workshop.id), eq(instrument.name, name)))
  )[0]!;

describe("an offset whose first reading after the change is stale", () => {
  test("waits, says how fine each thermometer is, draws the curve", async () => {
    const { loop, open } = await view(await openJob("CA-T-4432"));
    expect(open!.id).toBe("temperature");
    expect(loop).toMatchObject({ id: "offset", unit: "dC", typedUnit: "C", setPoint: { last: 93 } });
    expect(loop!.advice).toMatchObject({ kind: "recheck", reason: "unsettled" });
    const [probe, coarse] = loop!.gauges;
    expect(probe).toMatchObject({ name: "Thin probe, type T class 1", fineness: "coarse" });
    expect(coarse!.fineness).toBe("too-coarse");
    expect(coarse!.finenessWords).toMatch(/^Too coarse to decide: accuracy .* °C would do\.$/);
    expect(loop!.chart.points.map((p) => p.at)).toEqual([0, 2]);
    expect(loop!.curve?.curve).toHaveLength(10);
  });

  test("only the station in hand is told in full", async () => {
    const { stations, open } = await view(await openJob("CA-T-4432"));
    expect(stations.some((s) => "tasks" in s)).toBe(false);
    expect(open!.tasks.map((t) => t.kind)).toContain("diagnosis");
    const found = stations.find((s) => s.id === "as-found")!.says!;
    expect(found.figures).toEqual([expect.objectContaining({ id: "opv", verdict: "holds" })]);
  });
});

describe("a dose that only the hand corrects", () => {
  const grinder = (grams: number) => {
    const scale = { ...aGauge("Scale"), quantity: "mass" as const, highest: 2000 };
    const weighed = aReading(1, grams, {}, { loop: "basket", instrument: scale });
    const standing = standingOf(aJob("K5", "service", { readings: [weighed] }));
    const station = standing.plan.find((s) => s.id === "grinder")!;
    return stationBrief(
      { station, state: "done" },
      { standing, instruments: [], now: Date.now(), pressureUnit: "bar" },
    );
  };

  test("off, it stays to be read: what to add is not gone with the step", () => {
    expect(grinder(17.1).leftover).toBe(true);
    expect(grinder(18).leftover).toBe(false);
  });
});

describe("two groups’ dose buttons", () => {
  test("the loop asked for is the one in hand; meters come with their line", async () => {
    const jobId = await openJob("HP2-1142");
    // The first group’s was read as found: the second’s comes next.
    expect((await view(jobId)).loop!.id).toBe("dose-2");
    const second = await view(jobId, { picked: "volumes", loop: "dose-2" });
    expect(second.loop).toMatchObject({ id: "dose-2", asFound: null });
    const meter = second.open!.tasks.find((t) => t.id === "volumes.meter.2");
    if (meter?.kind !== "table") throw new Error("The second group’s meter is no table.");
    const worn = meter.table;
    expect(worn.lines.map((l) => l.text).join(" ")).toContain("the meter of group 2 gives fewer pulses");
    expect(worn.meter!.points).toHaveLength(4);
    expect(worn.columns[1]!.instruments.map((i) => i.name)).toEqual(["Bench scale, 0.1 g"]);
  });
  test("a boiler’s band is judged beside its cut-out", async () => {
    const { loops } = await view(await openJob("HP2-1142"));
    expect(loops.find((l) => l.id === "pressurestat")).toMatchObject({ asFound: { verdict: "holds" }, accepted: true });
  });
});

test("pressures are told in the person’s own unit, all else in its stored one", async () => {
  const psi = { ...lead, preferences: { ...lead.preferences, pressureUnit: "psi" as const } };
  expect((await view(await openJob("BV-70418"), {}, psi)).loop).toMatchObject({ unit: "psi", typedUnit: "psi" });
  expect((await view(await openJob("HP2-1142"), {}, psi)).loop!.unit).toBe("g");
});

test("a job says what it begins with was learnt from", async () => {
  const { loop } = await view(await openJob("BV-70418"));
  expect(loop!.learnt).toMatch(/\d+ machines of this model/);
});

describe("a test that ended: no water back over the limit", () => {
  test("fault, no more readings, a line for the parts, and the report carries it", async () => {
    const gauge = await kitItem("Portafilter gauge A");
    const [m] = await db.select().from(machine).where(eq(machine.serial, "BV-70433"));
    const jobId = await beginJob(lead, m!.id, "check", { schools: { opv: "regulate" } });
    const target = () => ({ by: lead, jobId, commandId: randomUUID() });
    await addNote(target(), { station: "look-over", area: "", text: "Clean." });
    await addTick(target(), { key: "tools" });
    const shown = (indicated: number, detail = {}) => ({
      loop: "opv" as const,
      instrumentId: gauge.id,
      place: "group" as const,
      typed: String(indicated),
      unit: "bar",
      indicated,
      detail,
      supersedes: null,
      reason: "",
    });
    await expect(addReading(target(), { ...shown(1), loop: "offset" })).rejects.toThrow("not on this sheet");
    await expect(addReading(target(), { ...shown(9), place: "line" })).rejects.toThrow(
      "gauge for this sits at the group or pump",
    );
    const probe = await kitItem("Thin probe, type T class 1");
    await expect(addReading(target(), { ...shown(9), instrumentId: probe.id })).rejects.toThrow(
      "measures something else",
    );
    await addReading(target(), shown(11.2, { returned: "none" }));
    await expect(addReading(target(), shown(9))).rejects.toThrow("The test has ended");

    const ended = await view(jobId);
    expect(ended.loop).toMatchObject({ stopped: true, advice: { kind: "fault", fault: "no-return" } });
    // The rule speaks for itself: no probability is made up for it.
    expect(JSON.stringify(ended.loop!.advice)).not.toMatch(/\d %/);
    const causes = ended.open!.tasks.find((t) => t.kind === "diagnosis");
    // One reading is no two checks: nothing is named from it.
    expect(causes?.kind === "diagnosis" && causes.diagnosis.named).toBeNull();

    await takeFault(target(), { loop: "opv", text: "Seized." });
    await expect(
      addMove(target(), { loop: "opv", amount: 9, typed: "9", zero: false, supersedes: null, reason: "" }),
    ).rejects.toThrow();
    // Nothing was opened: nothing is to be closed, and the way to the signature is open.
    await expect(sign(target(), { name: "Ilka", remark: "" })).rejects.toThrow("Say what the owner should know");
    await sign(target(), { name: "Ilka", remark: "The valve is renewed next week." });
    const [signed] = await db.select().from(signature).where(eq(signature.jobId, jobId));
    expect(signed!.finding).toBe(
      "No water came back while the pressure was over its limit: the OPV does not open. Seized. Parts: OPV: clean or renew.",
    );
  });
});
