import { standingShots } from "../../../core/job";
import type { Trace } from "../../../core/shot";
import { tracesOf } from "../../../db/queries/traces";
import { shotTrace } from "../../../db/schema";
import { Refused } from "../../refused";
import { type Target, inJob, keys } from "./in-job";

/** What a logger wrote down of a shot. */

export interface TraceInput {
  file: string;
  trace: Trace;
  /** The shot it is of; null: of none that was written down. */
  shotId: string | null;
  /** The trace this one replaces, with the reason. */
  supersedes: string | null;
  reason: string;
}

export function addTrace(target: Target, input: TraceInput) {
  return inJob(target, "trace", input, async (tx, job) => {
    const { shotId, supersedes, reason } = input;
    if (shotId && !standingShots(job).some((s) => s.id === shotId))
      throw new Refused("That shot is not on this sheet, or was corrected since.", "shotId");
    const before = await tracesOf(tx, target.by.workshop.id, target.jobId);
    if (supersedes && !before.some((t) => t.id === supersedes))
      throw new Refused("That trace was replaced already. Load the page again.", "supersedes");
    if (supersedes && reason.length < 3) throw new Refused("Say why it is replaced.", "reason");
    if (shotId && before.some((t) => t.shotId === shotId && t.id !== supersedes))
      throw new Refused("That shot has a trace. Choose to replace it, or another shot.", "shotId");
    await tx.insert(shotTrace).values({ ...keys(target), ...input });
  });
}
