import { createHash } from "node:crypto";
import { standingNotes } from "../../../core/job";
import { entry, note, photo } from "../../../db/schema";
import { Refused } from "../../refused";
import { type Target, inJob, keys } from "./in-job";

/** The machine as it stands: words and photos. */

export interface NoteInput {
  station: string;
  area: string;
  text: string;
  /** The note that this one corrects, or takes back where it has no words. */
  supersedes?: string | null;
  reason?: string;
  /** Accessories counted in the same look over. */
  accessories?: string;
}

const ACCESSORIES = "look-over.accessories";

export function addNote(target: Target, { accessories = "", ...input }: NoteInput) {
  return inJob(target, "note", { ...input, ...(accessories ? { accessories } : {}) }, async (tx, job, standing) => {
    if (input.supersedes && !standingNotes(job).some((n) => n.id === input.supersedes))
      throw new Refused("That note was corrected or taken back already. Nothing changed.");
    // Nothing written and nothing taken back: accessories alone.
    if (input.text || input.supersedes || !accessories) await tx.insert(note).values({ ...keys(target), ...input });
    const asked = standing().plan.some((s) => s.tasks.some((t) => t.id === ACCESSORIES));
    if (accessories && asked)
      await tx.insert(entry).values({
        ...keys(target),
        task: ACCESSORIES,
        typed: accessories.slice(0, 200),
        value: { form: "text", text: accessories },
      });
  });
}

export interface StoredPhoto {
  station: string;
  area: string;
  mime: string;
  width: number;
  height: number;
  data: Buffer;
}

export function addPhoto(target: Target, input: StoredPhoto) {
  const digest = createHash("sha256").update(input.data).digest("hex");
  return inJob(target, "photo", { station: input.station, digest }, async (tx) => {
    await tx.insert(photo).values({ ...keys(target), ...input, size: input.data.length });
  });
}
