import { type Job, livesOf } from "../../../core/job";
import { unitOf } from "../../../core/knobs";
import { formatQuantity, unitById } from "../../../core/quantity";
import type { ResultRow } from "../../../db/queries/results";

/** What whoever begins a visit should know of the one before: how it was left, and what was changed since. */

interface Change {
  readonly id: string;
  readonly doneOn: string;
  readonly at: Date;
  readonly by: string;
  readonly said: string;
}

/**
 * Since the last visit at which something was read.
 *
 * @param results of earlier visits, newest first
 * @param changes on the machine, newest first
 * @returns null on a machine that was never read
 */
export function sinceLast(
  job: Pick<Job, "carried">,
  results: readonly ResultRow[],
  { changes, groups, pressureUnit }: { changes: readonly Change[]; groups: number; pressureUnit: string },
) {
  const newest = results[0];
  if (!newest) return null;
  const lives = livesOf(
    results.filter((r) => r.jobId === newest.jobId),
    groups,
  );
  return {
    jobId: newest.jobId,
    on: newest.at.toISOString(),
    left: lives.flatMap(({ id, title, dimension, resolution, visits }) => {
      const { left = null, found = null } = visits[0] ?? {};
      const point = left ?? found;
      if (!point) return [];
      const unit = unitById(unitOf({ judged: dimension }, pressureUnit));
      return [{ id, title, text: formatQuantity(point.value, resolution, unit), verdict: point.verdict }];
    }),
    changes: changes.filter((c) => c.at > newest.at).map(({ id, doneOn, by, said }) => ({ id, on: doneOn, by, said })),
    carried: job.carried.map(({ id, said }) => ({ id, said })),
  };
}

export type SinceLast = NonNullable<ReturnType<typeof sinceLast>>;
