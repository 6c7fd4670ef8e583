import { randomUUID } from "node:crypto";
import { eq } from "drizzle-orm";
import { readTrace } from "../../../core/logger";
import { poolOf } from "../../../db/client";
import { traceBehind, tracesOf } from "../../../db/queries/traces";
import { model, shot } from "../../../db/schema";
import type { SignedIn } from "../../auth";
import { database } from "../../database";
import { beginJob, freshMachine } from "../fresh-machine";
import { personOf } from "../person-of";
import { tableOfText } from "../../table-text";
import { understand } from "../views/traces";
import { type TraceInput, addTrace } from "./traces";

/** Traces of loggers: a file as it is understood, and stored once, as it stands or replaced. */

const db = database();
let lead: SignedIn;
let jobId: string;
let shots: string[];

const tableOf = (text: string) => tableOfText(text, 1000, "file");
const FILE = ["Elapsed (ms);Druck (bar);Goal pressure", ...Array.from({ length: 8 }, (_, i) => `${i * 500};${i},5;9`)];

beforeAll(async () => {
  lead = await personOf("ilka@lowtide.example");
  const [known] = await db.select().from(model).where(eq(model.name, "Packet Two"));
  jobId = await beginJob(lead, await freshMachine(lead, known!.id, "Trace"), "service");
  const pull = {
    group: 1,
    by: "manual",
    coffee: { name: "" },
    grinder: { name: "", finer: -1, step: 1 },
    setting: 5,
    dose: 18,
    basket: "double",
    seconds: 27,
    from: "pump",
    yield: 36,
    choked: false,
  };
  shots = [randomUUID(), randomUUID()];
  for (const [i, id] of shots.entries())
    await db.insert(shot).values({
      ...{
        id,
        workshopId: lead.workshop.id,
        jobId,
        by: lead.id,
        at: new Date(),
        sequence: i + 1,
        pull: pull as never,
        typed: {},
      },
      ...{ scale: "", uDose: 0.06, uYield: 0.06, early: false, amends: false, reason: "" },
    });
});
afterAll(() => poolOf(db).end());

test("a file is understood: semicolons, decimal commas, thousandths; a goal is no reading", async () => {
  const { heads, plan, read, lines } = understand(await tableOf(FILE.join("\r\n")), null);
  expect(heads).toEqual(["Elapsed (ms)", "Druck (bar)", "Goal pressure"]);
  expect(plan).toEqual(["time.ms", "pressure.bar", null]);
  expect(lines[0]).toEqual({ line: 2, cells: ["0", "0,5", "9"] });
  expect(read).toEqual({
    ok: true,
    trace: { time: [0, 0.5, 1, 1.5, 2, 2.5, 3, 3.5], pressure: [0.5, 1.5, 2.5, 3.5, 4.5, 5.5, 6.5, 7.5] },
  });
  // Without heads nothing is guessed; a choice counts before a guess.
  const bare = FILE.slice(1).join("\n");
  expect(understand(await tableOf(bare), null)).toMatchObject({ plan: [null, null, null], read: { ok: false } });
  const chosen = understand(await tableOf(bare), ["time.ms", "weight.g", "pressure.bar"]);
  expect(chosen.read).toMatchObject({ ok: true, trace: { pressure: Array(8).fill(9) } });
  expect(understand(await tableOf(""), null)).toMatchObject({ heads: [], read: { ok: false } });
});

test("stored once, of one shot; replaced with a reason; what it was stays", async () => {
  const read = readTrace(
    [0, 1, 2, 3, 4].map((t) => ({ line: t + 1, cells: [String(t), "9"] })),
    ["time.s", "pressure.bar"],
  );
  if (!read.ok) throw new Error(read.message);
  const input = { file: "a.csv", trace: read.trace, shotId: shots[0]!, supersedes: null, reason: "" };
  const first = randomUUID();
  const add = (commandId: string, more: Partial<TraceInput>) =>
    addTrace({ by: lead, jobId, commandId }, { ...input, ...more });
  expect(await add(first, {})).toBe("done");
  expect(await add(first, {})).toBe("repeated");
  expect(await add(first, { file: "b.csv" })).toBe("clash");
  await expect(add(randomUUID(), {})).rejects.toMatchObject({
    field: "shotId",
    message: expect.stringContaining("has a trace") as unknown,
  });
  await expect(add(randomUUID(), { shotId: randomUUID() })).rejects.toMatchObject({ field: "shotId" });
  await expect(add(randomUUID(), { supersedes: first })).rejects.toMatchObject({ field: "reason" });
  const second = randomUUID();
  expect(await add(second, { supersedes: first, shotId: shots[1]!, reason: "wrong shot" })).toBe("done");
  await expect(add(randomUUID(), { supersedes: first, shotId: shots[0]!, reason: "again" })).rejects.toMatchObject({
    field: "supersedes",
  });
  expect((await tracesOf(db, lead.workshop.id, jobId)).map((t) => [t.id, t.shotId, t.file])).toEqual([
    [second, shots[1], "a.csv"],
  ]);
  expect(await traceBehind(db, lead.workshop.id, jobId, first)).toEqual(read.trace);
  const stranger = await personOf("runa@chandlery.example");
  await expect(addTrace({ by: stranger, jobId, commandId: randomUUID() }, input)).rejects.toThrow("no such job");
});
