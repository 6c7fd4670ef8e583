import { randomUUID } from "node:crypto";
import { and, eq } from "drizzle-orm";
import { poolOf } from "../../db/client";
import { job, machine } from "../../db/schema";
import { database } from "../database";
import { personOf } from "../jobs/person-of";
import { tapClock } from "../jobs/commands/shots";
import { scaleStream } from "./scale";

/** The simulated scale follows the clock of a job of the demo. */

const db = database();
afterAll(() => poolOf(db).end());

/** Grams said within some time. */
async function said({ workshopId, jobId }: { workshopId: string; jobId: string }, ms: number): Promise<number[]> {
  const abort = new AbortController();
  const reader = scaleStream(workshopId, jobId, 36, abort.signal).body!.getReader();
  const until = Date.now() + ms;
  const decoder = new TextDecoder();
  let text = "";
  while (Date.now() < until) {
    const { value, done } = await reader.read();
    if (done) break;
    text += decoder.decode(value);
  }
  abort.abort();
  return [...text.matchAll(/^event: grams\ndata: ([\d.]+)\n$/gm)].map((m) => Number(m[1]));
}

test("tared while no clock runs; then it fills, stops with the drip, and ends when nobody listens", async () => {
  const lead = await personOf("ilka@lowtide.example");
  const [open] = await db
    .select({ id: job.id })
    .from(job)
    .innerJoin(machine, eq(machine.id, job.machineId))
    .where(and(eq(machine.serial, "CA-T-4432"), eq(job.state, "open")));
  const jobId = open!.id;
  const at = { workshopId: lead.workshop.id, jobId };
  expect((await said(at, 600)).every((g) => g === 0)).toBe(true);

  const clockId = randomUUID();
  const tap = (what: "pump" | "stop" | "cleared", ago: number) =>
    tapClock({ by: lead, jobId, commandId: randomUUID() }, { clockId, what, moment: Date.now() - ago });
  await tap("pump", 20_000);
  const filling = await said(at, 900);
  expect(filling.length).toBeGreaterThan(1);
  expect(filling.at(-1)!).toBeGreaterThan(filling[0]!);
  await tap("stop", 8000);
  const rest = (await said(at, 600)).filter((g) => g > 0);
  // Twelve seconds of flow and the drip: it stands still, and holds less than what had poured at twenty.
  expect(Math.max(...rest) - Math.min(...rest)).toBeLessThan(0.2);
  expect(rest[0]!).toBeLessThan(filling.at(-1)! + 4);
  await tap("cleared", 0);
});
