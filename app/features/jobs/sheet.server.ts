import { z } from "zod";
import { instrumentFrom, jobFrom } from "~db/queries/job-from";
import { sheetRow } from "~db/queries/jobs";
import { kindOf } from "~core/job";
import { isUsable } from "~core/metrology";
import { changesOf, kitOf } from "~db/queries/machines";
import { additionsOf } from "~db/queries/owner-card";
import { resultsBefore } from "~db/queries/results";
import type { SignedIn } from "~server/auth";
import { FORM_BYTES, type Posted, Unread, formOf } from "~server/body";
import { database } from "~server/database";
import { PHOTO_BYTES, PHOTO_TOO_LARGE, storable } from "~server/jobs/commands/photos";
import { endTimer, startTimer, tryAnew } from "~server/jobs/commands/clocks";
import { addMove, addReading, addRepair, takeFault } from "~server/jobs/commands/readings";
import { amend } from "~server/jobs/commands/amend";
import { changeLink } from "~server/jobs/commands/links";
import { addNote, addPhoto } from "~server/jobs/commands/notes";
import { sign } from "~server/jobs/commands/signing";
import { addEntries, addEntry, addEvidence, addRow, addTick, skipStation, strike } from "~server/jobs/commands/tasks";
import {
  changeScopes,
  chooseLevel,
  chooseSchools,
  chooseWanted,
  reopenJob,
  takeParticulars,
  withdrawJob,
} from "~server/jobs/commands/visit";
import { addFaultLeft, addWork } from "~server/jobs/commands/work";
import { benchOf } from "~server/jobs/views/bench";
import { sheetView } from "~server/jobs/views/sheet";
import { sinceLast } from "~server/jobs/views/since-last";
import { sayChange } from "~server/machines/changes";
import { answer, commandId, fieldOf } from "~server/web";
import {
  amendSchema,
  commandSchema,
  entriesSchema,
  entrySchema,
  evidenceSchema,
  faultLeftSchema,
  faultSchema,
  linkSchema,
  levelSchema,
  moveSchema,
  noteSchema,
  noteUndoSchema,
  readingSchema,
  repairSchema,
  rowSchema,
  schoolsSchema,
  scopesSchema,
  signSchema,
  skipSchema,
  strikeSchema,
  takeUpSchema,
  tickSchema,
  timerEndSchema,
  timerSchema,
  tryAnewSchema,
  wantedSchema,
  withdrawSchema,
  workSchema,
} from "./schema";

/** Visits that are looked back on: the last ones are shown, all of them tell how a setting wanders. */
const VISITS = 12;
/** Changes of a machine looked through. */
const CHANGES = 30;
/** Jobs of the bench shown beside a sheet. */
const BESIDE = 12;

/** All a sheet shows, or null when it isn't this workshop's. */
export async function loadSheet(person: SignedIn, jobId: string, at: { picked?: string; loop?: string }) {
  const db = database();
  const now = Date.now();
  const workshopId = person.workshop.id;
  const [row, kit, bench, results] = await Promise.all([
    sheetRow(db, workshopId, jobId),
    kitOf(db, workshopId),
    benchOf(workshopId, { now, limit: BESIDE }),
    resultsBefore(db, { workshopId, jobId, visits: VISITS }),
  ]);
  if (!row) return null;
  const added = row.state === "signed" ? await additionsOf(db, workshopId, jobId) : [];
  const { tiles, open, over } = bench;
  const job = jobFrom(row);
  const changes = row.state === "open" ? await changesOf(db, workshopId, job.machine.id, CHANGES) : [];
  return {
    since:
      row.state === "open"
        ? sinceLast(job, results, {
            changes: changes.map((c) => ({ ...c, by: c.doneBy, said: sayChange(c) })),
            groups: kindOf(job.particulars).groups,
            pressureUnit: person.preferences.pressureUnit,
          })
        : null,
    sheet: sheetView(job, kit.filter(isUsable).map(instrumentFrom), results, person, { now, ...at }),
    tiles,
    added: added.map((a) => ({ ...a, at: a.at.toISOString() })),
    /** How many are open beside those shown. */
    more: { count: open - tiles.length, over },
  };
}

/** The form that a request carries: only one with a photo in it may be larger than a form. */
export async function postedOf(request: Request): Promise<Posted> {
  const withFile = /^multipart\//i.test(request.headers.get("Content-Type") ?? "");
  const posted = await formOf(request, withFile ? PHOTO_BYTES + FORM_BYTES : FORM_BYTES);
  return withFile && posted instanceof Unread && posted.status === 413 ? new Unread(413, PHOTO_TOO_LARGE) : posted;
}

/** One write, picked by the form's intent. */
export function writeTo(person: () => SignedIn, jobId: string, form: Posted) {
  const target = (commandId: string) => ({ by: person(), jobId, commandId });
  switch (fieldOf(form, "intent")) {
    case "note":
      return answer(form, noteSchema, ({ commandId, ...input }) => addNote(target(commandId), input));
    case "note-undo":
      return answer(form, noteUndoSchema, ({ commandId, noteId, reason }) =>
        addNote(target(commandId), { station: "look-over", area: "", text: "", supersedes: noteId, reason }),
      );
    case "try-anew":
      return answer(form, tryAnewSchema, ({ commandId, ...input }) => tryAnew(target(commandId), input));
    case "withdraw":
      return answer(form, withdrawSchema, ({ commandId, ...input }) => withdrawJob(target(commandId), input));
    case "reopen":
      return answer(form, commandSchema, ({ commandId }) => reopenJob(target(commandId)));
    case "level":
      return answer(form, levelSchema, ({ commandId, ...input }) => chooseLevel(target(commandId), input));
    case "wanted":
      return answer(form, wantedSchema, ({ commandId, ...input }) => chooseWanted(target(commandId), input));
    case "photo":
      return answer(
        form,
        z.object({
          commandId,
          area: z.string().max(60).default(""),
          photo: z.file("Choose a photo.").min(1, "Choose a photo.").max(PHOTO_BYTES, PHOTO_TOO_LARGE),
        }),
        async ({ commandId, photo, area }) => {
          const made = await storable(new Uint8Array(await photo.arrayBuffer()));
          return addPhoto(target(commandId), { station: "look-over", area, ...made });
        },
      );
    case "tick":
      return answer(form, tickSchema, ({ commandId, key }) => addTick(target(commandId), { key }));
    case "entry":
      return answer(form, entrySchema, ({ commandId, ...input }) => addEntry(target(commandId), input));
    case "entries":
      return answer(form, entriesSchema, ({ commandId, ...input }) => addEntries(target(commandId), input));
    case "timer-start":
      return answer(form, timerSchema, ({ commandId, task }) => startTimer(target(commandId), { task }));
    case "timer-end":
      return answer(form, timerEndSchema, ({ commandId, ...input }) => endTimer(target(commandId), input));
    case "skip":
      return answer(form, skipSchema, ({ commandId, ...input }) => skipStation(target(commandId), input));
    case "take-up":
      return answer(form, takeUpSchema, ({ commandId, station }) =>
        skipStation(target(commandId), { station, reason: "" }),
      );
    case "schools":
      return answer(form, schoolsSchema, ({ commandId, schools }) => chooseSchools(target(commandId), { schools }));
    case "scopes":
      return answer(form, scopesSchema, ({ commandId, ...input }) => changeScopes(target(commandId), input));
    case "particulars":
      return answer(form, commandSchema, ({ commandId }) => takeParticulars(target(commandId)));
    case "reading":
      return answer(form, readingSchema, ({ commandId, ...input }) => addReading(target(commandId), input));
    case "move":
      return answer(form, moveSchema, ({ commandId, ...input }) => addMove(target(commandId), input));
    case "repair":
      return answer(form, repairSchema, ({ commandId, ...input }) => addRepair(target(commandId), input));
    case "fault":
      return answer(form, faultSchema, ({ commandId, ...input }) => takeFault(target(commandId), input));
    case "row":
      return answer(form, rowSchema, ({ commandId, ...input }) => addRow(target(commandId), input));
    case "work":
      return answer(form, workSchema, ({ commandId, ...input }) => addWork(target(commandId), input));
    case "fault-left":
      return answer(form, faultLeftSchema, ({ commandId, ...input }) => addFaultLeft(target(commandId), input));
    case "strike":
      return answer(form, strikeSchema, ({ commandId, ...input }) => strike(target(commandId), input));
    case "evidence":
      return answer(form, evidenceSchema, ({ commandId, ...input }) => addEvidence(target(commandId), input));
    case "sign":
      return answer(form, signSchema, ({ commandId, ...input }) => sign(target(commandId), input));
    case "link":
      return answer(form, linkSchema, ({ commandId, ...input }) => changeLink(target(commandId), input));
    case "amend":
      return answer(form, amendSchema, ({ commandId, ...input }) => amend(target(commandId), input));
    default:
      return answer(form, z.object({ intent: z.never() }), () => Promise.resolve("done" as const));
  }
}
