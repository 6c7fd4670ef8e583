import type { Job, ShotRecord } from "./job";

/** Under this task name a shot is used as the recipe. */
export const SHOTS_TASK = "shots";

/** Shots that were not corrected since, in order. */
export function standingShots({ shots }: Pick<Job, "shots">): ShotRecord[] {
  const corrected = new Set(shots.map((s) => s.supersedes));
  return shots.filter((s) => !corrected.has(s.id));
}
