import { data } from "react-router";
import { z } from "zod";
import { instrumentFrom, jobFrom } from "~db/queries/job-from";
import { sheetRow } from "~db/queries/jobs";
import { isUsable } from "~core/metrology";
import { kitOf } from "~db/queries/machines";
import { programmesOf, shotsBefore, tapsOf } from "~db/queries/shots";
import { traceBehind, tracesOf } from "~db/queries/traces";
import type { SignedIn } from "~server/auth";
import type { Posted } from "~server/body";
import { database } from "~server/database";
import { recordShot, takeShot, tapClock } from "~server/jobs/commands/shots";
import { shotsView } from "~server/jobs/views/shots";
import { answer, fieldOf } from "~server/web";
import { shotSchema, takeSchema, tapSchema } from "./schema";

/** All the room shows, or null when the job isn't this workshop's. */
export async function loadShots(person: SignedIn, jobId: string, trace: string | null = null) {
  const db = database();
  const [row, kit, clock, traces] = await Promise.all([
    sheetRow(db, person.workshop.id, jobId),
    kitOf(db, person.workshop.id),
    tapsOf(db, person.workshop.id, jobId),
    tracesOf(db, person.workshop.id, jobId),
  ]);
  if (!row) return null;
  const picked = traces.find((t) => t.id === trace) ?? traces[0];
  const [before, programmes, logged] = await Promise.all([
    shotsBefore(db, person.workshop.id, row.machine.id, jobId),
    programmesOf(db, person.workshop.id, row.machine.id),
    picked ? traceBehind(db, person.workshop.id, jobId, picked.id) : null,
  ]);
  return shotsView({
    job: jobFrom(row),
    kit: kit.filter(isUsable).map(instrumentFrom),
    clock,
    before,
    programmes,
    traces,
    picked: picked && logged ? { id: picked.id, trace: logged } : null,
    now: Date.now(),
    unit: person.preferences.pressureUnit,
  });
}

/** One write; what was saved comes back with the room as it is now, so that a shot costs one request. */
export async function writeShots(person: () => SignedIn, jobId: string, form: Posted, trace: string | null) {
  const target = (commandId: string) => ({ by: person(), jobId, commandId });
  const reply =
    fieldOf(form, "intent") === "shot"
      ? await answer(form, shotSchema, ({ commandId, input }) => recordShot(target(commandId), input))
      : fieldOf(form, "intent") === "take"
        ? await answer(form, takeSchema, ({ commandId, ...input }) => takeShot(target(commandId), input))
        : await answer(form, z.object({ intent: z.never() }), () => Promise.resolve("done" as const));
  if (reply instanceof Response) return reply;
  const view = reply.data.outcome === "saved" ? await loadShots(person(), jobId, trace) : null;
  return data({ ...reply.data, view }, reply.init ?? {});
}

export async function writeTap(person: () => SignedIn, jobId: string, form: Posted): Promise<Response> {
  let revision = 0;
  const reply = await answer(form, tapSchema, async ({ commandId, ...input }) => {
    const tap = await tapClock({ by: person(), jobId, commandId }, input);
    revision = tap.revision;
    return tap.outcome;
  });
  return reply instanceof Response ? reply : Response.json({ ...reply.data, revision }, reply.init ?? {});
}
