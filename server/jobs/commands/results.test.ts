import { randomUUID } from "node:crypto";
import { and, asc, eq, sql } from "drizzle-orm";
import { readDocument } from "../../../core/job";
import { keyOf } from "../../../core/knobs";
import { connect, poolOf } from "../../../db/client";
import { command, entryInstrument, instrument, machine, result, resultInstrument, signature } from "../../../db/schema";
import { database } from "../../database";
import { KEPT_DAYS, forgetCommands } from "../../forget-commands";
import { saveInstrument } from "../../kit/instruments";
import { touchedBy } from "../../kit/touched";
import { personOf } from "../person-of";
import { keepEarlier } from "./results";

/** Results as rows beside what was signed, for new jobs and for those of earlier versions; what an instrument touched; ids that go. */

const db = database();
afterAll(() => poolOf(db).end());

/** Without the guards of the database: for a past that today’s application would not write. */
async function unguarded(query: string) {
  const own = connect(process.env.DATABASE_URL!);
  const client = await poolOf(own).connect();
  try {
    await client.query("set session_replication_role = replica");
    await client.query(query);
  } finally {
    client.release(true);
    await poolOf(own).end();
  }
}

const rowsOf = (jobId: string) => db.select().from(result).where(eq(result.jobId, jobId)).orderBy(asc(result.no));

test("every signed document and its rows say the same, figure for figure", async () => {
  const all = await db.select().from(signature);
  expect(all.length).toBeGreaterThan(60);
  for (const { jobId, document } of all) {
    const { results, instruments } = readDocument(document);
    const rows = await rowsOf(jobId);
    const points = results.flatMap((r) =>
      (["asFound", "asLeft"] as const).flatMap((p) =>
        r[p] ? [[keyOf(r), p === "asFound" ? "as-found" : "as-left", r[p]] as const] : [],
      ),
    );
    expect(rows.map((r) => [keyOf(r), r.phase])).toEqual(points.map(([key, phase]) => [key, phase]));
    rows.forEach((row, i) => {
      const point = points[i]![2];
      const { value, u, k, U, resolution, pInside, verdict, readings, method } = point;
      expect(row).toMatchObject({ value, u, k, expanded: U, resolution, pInside, verdict, n: readings.length, method });
    });
    // What figures were read with is on the report’s list, by id.
    const listed = new Set(instruments.map((i) => i.id));
    for (const [, , point] of points) for (const id of point.instruments!) expect(listed.has(id)).toBe(true);
  }
});

test("a job that an earlier version signed gets the same rows from what was signed then", async () => {
  const [one] = await db
    .select({ jobId: result.jobId })
    .from(result)
    .innerJoin(machine, and(eq(machine.id, result.machineId), eq(machine.serial, "BV-70461")))
    .where(and(eq(result.knob, "opv"), eq(result.phase, "as-left")))
    .limit(1);
  const { jobId } = one!;
  const before = await rowsOf(jobId);
  const used = await db
    .select()
    .from(resultInstrument)
    .where(eq(resultInstrument.jobId, jobId))
    .orderBy(asc(resultInstrument.no));
  await unguarded(`delete from result_instrument where job_id = '${jobId}'; delete from result where job_id = '${jobId}';
    update signature set kept = false where job_id = '${jobId}'`);
  expect(await keepEarlier(db)).toBe(1);
  expect(await rowsOf(jobId)).toEqual(before);
  expect(
    await db.select().from(resultInstrument).where(eq(resultInstrument.jobId, jobId)).orderBy(asc(resultInstrument.no)),
  ).toEqual(used);
  // Done once.
  expect(await keepEarlier(db)).toBe(0);
});

test("what an instrument touched follows the thing through its papers; another workshop’s is not found", async () => {
  const lead = await personOf("ilka@lowtide.example");
  const stranger = await personOf("runa@chandlery.example");
  const [probe] = await db
    .select()
    .from(instrument)
    .where(
      and(
        eq(instrument.workshopId, lead.workshop.id),
        eq(instrument.name, "Thin probe, type T class 1"),
        eq(instrument.inKit, true),
      ),
    );
  const question = { since: new Date(0), after: null, add: null };
  const before = (await touchedBy(lead.workshop.id, probe!.id, question))!;
  expect(before.total.visits).toBeGreaterThan(10);
  expect(before.visits.every((v) => v.recall && !v.recall.changes)).toBe(true);
  const seen = new Set<string>();
  let page = before;
  for (;;) {
    for (const v of page.visits) seen.add(v.jobId);
    if (!page.next) break;
    page = (await touchedBy(lead.workshop.id, probe!.id, { ...question, after: page.next }))!;
  }
  expect(seen.size).toBe(before.total.visits);

  // Its new certificate says that it shows 1.5 °C too much.
  const { name, quantity, place, lowest, highest, resolution, error, repeatability, corrections } = probe!;
  const { calibratedOn, dueOn, note, driftPerYear, hysteresis } = probe!;
  const scale = { lowest, highest, resolution, error, repeatability, driftPerYear, hysteresis, corrections };
  const papers = { name, quantity, place, calibratedOn, dueOn, note, ...scale };
  const renewed = randomUUID();
  await saveInstrument(lead, renewed, probe!.id, {
    ...papers,
    corrections: [
      [0, -1.5],
      [150, -1.5],
    ],
  });
  const after = (await touchedBy(lead.workshop.id, renewed, question))!;
  expect(after.instrument.versions).toBe(2);
  expect(after.total).toEqual(before.total);
  expect(after.visits.some((v) => v.recall!.changes)).toBe(true);
  // Asked by its old papers it is the same thing.
  expect((await touchedBy(lead.workshop.id, probe!.id, question))!.total).toEqual(before.total);
  expect(await touchedBy(stranger.workshop.id, renewed, question)).toBeNull();
  await saveInstrument(lead, randomUUID(), renewed, papers);
});

test("entries name their instrument by id", async () => {
  const [of] = await db
    .select({ named: sql<number>`count(*)::int` })
    .from(entryInstrument)
    .innerJoin(
      instrument,
      and(eq(instrument.workshopId, entryInstrument.workshopId), eq(instrument.id, entryInstrument.instrumentId)),
    );
  expect(of!.named).toBeGreaterThan(5);
});

test("command ids go when nobody can repeat them any more, and not a day sooner", async () => {
  const lead = await personOf("ilka@lowtide.example");
  const made = (days: number) => ({
    id: randomUUID(),
    workshopId: lead.workshop.id,
    accountId: lead.id,
    kind: "tick",
    payloadHash: "x",
    at: new Date(Date.now() - days * 864e5),
  });
  const [old, young] = [made(KEPT_DAYS + 1), made(KEPT_DAYS - 1)];
  await db.insert(command).values([old, young]);
  expect(await forgetCommands()).toBeGreaterThanOrEqual(1);
  const left = async (id: string) => db.$count(command, eq(command.id, id));
  expect([await left(old.id), await left(young.id)]).toEqual([0, 1]);
});
