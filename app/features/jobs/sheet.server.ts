import { formatISO } from "date-fns";
import { MaxFileSizeExceededError, parseFormData } from "@remix-run/form-data-parser";
import { z } from "zod";
import { sheetRow, visitsBefore } from "~db/queries/jobs";
import { kitOf } from "~db/queries/machines";
import type { SignedIn } from "~server/auth";
import { database } from "~server/database";
import { PHOTO_LIMIT_BYTES, storable } from "~server/jobs/photos";
import {
  Refused,
  addMove,
  addNote,
  addPhoto,
  addReading,
  addTick,
  changeLink,
  sign,
  takeFault,
} from "~server/jobs/record";
import { tilesOf } from "~server/jobs/bench";
import { sheetView } from "~server/jobs/view";
import { answer, commandId } from "~server/web";
import { faultSchema, linkSchema, moveSchema, noteSchema, readingSchema, signSchema, tickSchema } from "./schema";

const VISITS = 5;

/** All a sheet shows, or null when it isn't this workshop's. */
export async function loadSheet(person: SignedIn, jobId: string) {
  const db = database();
  const [row, kit, tiles, visits] = await Promise.all([
    sheetRow(db, person.workshop.id, jobId),
    kitOf(db, person.workshop.id),
    tilesOf(person.workshop.id),
    visitsBefore(db, jobId, VISITS),
  ]);
  // The visits are only handed on with a job that is this workshop's.
  if (!row) return null;
  return { sheet: sheetView(row, kit, visits, person, formatISO(new Date(), { representation: "date" })), tiles };
}

/** The form's content; a photo over the limit is refused before it fills the memory. */
export async function formOf(request: Request): Promise<FormData | "too-large"> {
  if (!request.headers.get("Content-Type")?.startsWith("multipart/")) return request.formData();
  try {
    return await parseFormData(request, { maxFileSize: PHOTO_LIMIT_BYTES, maxFiles: 1 });
  } catch (error) {
    for (let e: unknown = error; e; e = (e as Error).cause)
      if (e instanceof MaxFileSizeExceededError) return "too-large";
    throw error;
  }
}

export function tooLarge() {
  const form = new FormData();
  form.set("intent", "photo");
  return answer(form, z.any(), () =>
    Promise.reject(
      new Refused(`The photo is over ${PHOTO_LIMIT_BYTES / 1024 / 1024} MB. Take it at a lower resolution.`, "photo"),
    ),
  );
}

/** One write, picked by the form's intent. */
export function writeTo(person: () => SignedIn, jobId: string, form: FormData) {
  const target = (commandId: string) => ({ by: person(), jobId, commandId });
  switch (form.get("intent")) {
    case "note":
      return answer(form, noteSchema, ({ commandId, ...input }) => addNote(target(commandId), input));
    case "photo":
      return answer(
        form,
        z.object({ commandId, photo: z.file("Choose a photo.").min(1, "Choose a photo.") }),
        async ({ commandId, photo }) => {
          const made = await storable(new Uint8Array(await photo.arrayBuffer()));
          return addPhoto(target(commandId), { station: "look-over", ...made });
        },
      );
    case "tick":
      return answer(form, tickSchema, ({ commandId, key }) => addTick(target(commandId), { key }));
    case "reading":
      return answer(form, readingSchema, ({ commandId, ...input }) => addReading(target(commandId), input));
    case "move":
      return answer(form, moveSchema, ({ commandId, ...input }) => addMove(target(commandId), input));
    case "fault":
      return answer(form, faultSchema, ({ commandId, text }) => takeFault(target(commandId), { text }));
    case "sign":
      return answer(form, signSchema, ({ commandId, ...input }) => sign(target(commandId), input));
    case "link":
      return answer(form, linkSchema, ({ commandId, ...input }) => changeLink(target(commandId), input));
    default:
      return answer(form, z.object({ intent: z.never() }), () => Promise.resolve("done" as const));
  }
}
