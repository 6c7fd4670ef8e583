import { randomUUID } from "node:crypto";
import { eq, sql } from "drizzle-orm";
import { standingOf } from "../core/job";
import { type Preset, type Scope, type Task, isDone, tasksNow } from "../core/sheet";
import { jobFrom } from "../db/queries/job-from";
import { sheetRow } from "../db/queries/jobs";
import { machine } from "../db/schema";
import type { SignedIn } from "../server/auth";
import { database } from "../server/database";
import { workPlain } from "../server/demo/plain-task";
import { personOf } from "../server/jobs/person-of";
import { startJob } from "../server/jobs/commands/start";
import { addEntry, addTick, skipStation } from "../server/jobs/commands/tasks";
import { Refused } from "../server/refused";
import { LEAD } from "./people";

/** Sheets half way, by the product’s own commands: what a person would have done before the story begins. */

export interface Prepared {
  ticks?: string[];
  skips?: string[];
  /** What is typed for a task, where the usual will not do. */
  entries?: Record<string, string>;
  /** False: the boiler is ready, the machine is not warm yet. */
  warm?: boolean;
  /** Work and parts are the story’s own too. */
  workByHand?: boolean;
  /** Methods chosen for this visit. */
  schools?: Parameters<typeof startJob>[2]["schools"];
  /** This station is the story’s own. */
  stopAt?: string;
  /** Whose work it is, where it is not the demo’s lead’s. */
  by?: string;
}

/** Worked by the stories themselves. */
const BY_HAND: readonly Task["kind"][] = ["readings", "adjust", "loop", "table", "shots", "sign"];

/** Starts a job and works it off to the first station that is read, moved, poured or signed. Returns its id. */
export async function prepared(serial: string, visit: Preset | readonly Scope[], given: Prepared): Promise<string> {
  const lead = await personOf(given.by ?? LEAD);
  const [of] = await database().select({ id: machine.id }).from(machine).where(eq(machine.serial, serial));
  const jobId = randomUUID();
  const start = {
    machineId: of!.id,
    visit,
    complaint: "",
    schools: given.schools ?? {},
    level: "machine-warm" as const,
    specCardId: null,
  };
  await startJob(lead, jobId, start);
  const target = () => ({ by: lead, jobId, commandId: randomUUID() });
  for (const station of given.skips ?? [])
    await ifThere(() => skipStation(target(), { station, reason: "Not part of this test." }));
  await workOff(jobId, given);
  for (const key of given.ticks ?? []) await ifThere(() => addTick(target(), { key }));
  for (const [task, typed] of Object.entries(given.entries ?? {}))
    await ifThere(() => addEntry(target(), { task, typed, unit: "", sure: true }));
  return jobId;
}

/** Goes on with a job up to what is the story’s own. */
export async function workOff(jobId: string, given: Prepared = {}): Promise<void> {
  const lead = await personOf(given.by ?? LEAD);
  for (let i = 0; i < 80; i++) {
    const next = await nextOf(jobId, lead, given);
    if (!next) break;
    await workPlain(next, {
      target: () => ({ by: lead, jobId, commandId: randomUUID() }),
      wait: (seconds) => passTime(jobId, seconds),
      typed: given.entries?.[next.id],
      today: "2026-05-01",
    });
  }
}

/** The first thing undone of the first station that can be worked on; null when that is the story’s own. */
async function nextOf(jobId: string, by: SignedIn, { warm, workByHand, stopAt }: Prepared): Promise<Task | null> {
  const standing = standingOf(jobFrom((await sheetRow(database(), by.workshop.id, jobId))!));
  const { records, loops } = standing;
  const now = Date.now();
  for (const { station, state } of standing.at(now)) {
    if (state !== "ready" && state !== "running") continue;
    if (station.id === "warm" && warm === false) continue;
    if (station.id === stopAt) return null;
    const undone = tasksNow(station, records).filter(
      (t) => !t.optional && !isDone(t, { records, now, loops: loops.map((l) => l.loop) }),
    );
    const stops = undone.some((t) => t.label === station.hardStop?.confirm);
    if (stops || undone.some((t) => BY_HAND.includes(t.kind) || (workByHand && t.kind === "work"))) return null;
    if (undone[0]) return undone[0];
  }
  return null;
}

/** What this sheet does not have, or does not take yet, is no part of the way. */
async function ifThere(write: () => Promise<unknown>) {
  await write().catch((error: unknown) => {
    if (!(error instanceof Refused)) throw error;
  });
}

/** The clocks of a job run ahead: what a person would wait for. */
export async function passTime(jobId: string, seconds: number) {
  await database().transaction(async (tx) => {
    // The guard that no clock is ever set back is lifted, here alone, for the test's pretence of waiting.
    await tx.execute(sql`SET LOCAL session_replication_role = replica`);
    await tx.execute(sql`UPDATE job SET revision = revision + 1 WHERE id = ${jobId}`);
    await tx.execute(sql`
      UPDATE timer SET at = at - make_interval(secs => ${seconds}), due_at = due_at - make_interval(secs => ${seconds}),
        ended_at = ended_at - make_interval(secs => ${seconds}) WHERE job_id = ${jobId}`);
  });
}
