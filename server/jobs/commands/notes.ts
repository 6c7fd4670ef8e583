import { createHash } from "node:crypto";
import { note, photo } from "../../../db/schema";
import { type Target, inJob, keys } from "./in-job";

/** The machine as it stands: words and photos. */

export function addNote(target: Target, input: { station: string; area: string; text: string }) {
  return inJob(target, "note", input, async (tx) => {
    await tx.insert(note).values({ ...keys(target), ...input });
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
