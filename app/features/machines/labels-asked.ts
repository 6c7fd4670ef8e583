import { z } from "zod";

/** Which machines an address asks labels of. */

/** At a time. Our choice: a sheet of the usual size. */
export const MOST_LABELS = 24;

export const pickedIn = (url: URL): string[] =>
  [...new Set(url.searchParams.getAll("machine"))].filter((m) => z.uuid().safeParse(m).success).slice(0, MOST_LABELS);
