import type { Job, ShotRecord } from "./job";

/** Shots that were not corrected since, in order. */
export function standingShots({ shots }: Pick<Job, "shots">): ShotRecord[] {
  const corrected = new Set(shots.map((s) => s.supersedes));
  return shots.filter((s) => !corrected.has(s.id));
}
