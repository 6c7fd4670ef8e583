import type { CautionId } from "../../kind";
import type { HardStop, Requirement, Station, StationId, Task } from "../plan";

/** How the station files write a station down: what is usual is left out. */
export function station(
  id: StationId,
  title: string,
  needs: string,
  tasks: readonly Task[],
  {
    cautions = [],
    after = [],
    hardStop,
    skippable = true,
  }: {
    cautions?: readonly CautionId[];
    after?: readonly (readonly [StationId, string])[];
    hardStop?: HardStop;
    skippable?: boolean;
  } = {},
): Station {
  const requires: Requirement[] = [
    ...(id === "look-over"
      ? []
      : [{ station: "look-over" as const, because: "The look over comes first: condition before work." }]),
    ...after.map(([of, because]) => ({ station: of, because })),
  ];
  return { id, title, needs, tasks, cautions, requires, skippable, ...(hardStop ? { hardStop } : {}) };
}

export const tick = (id: string, label: string, more: Partial<Task> = {}): Task =>
  ({ id, label, kind: "tick", ...more }) as Task;

export const LOCAL_RULES = "Local codes and licensed practice decide who may do this.";
