import type { CautionId } from "../../kind";
import type { LoopId } from "../../knobs";
import type { InstrumentQuantity, Place, Tolerance } from "../../metrology";
import type { SchoolId } from "../../school";
import type { Dimension } from "../../quantity";
import type { AnalysisId } from "../analyse";
import type { HardStop, Requirement, Station, StationId } from "../plan";
import type { Column, Task } from "../tasks";

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
    schools = [],
    ...more
  }: {
    cautions?: readonly CautionId[];
    after?: readonly (readonly [StationId, string, ("lasting" | Requirement["or"])?])[];
    hardStop?: HardStop;
    skippable?: boolean;
    schools?: readonly SchoolId[];
    beside?: { loop: LoopId; reads: boolean };
    list?: readonly string[];
    triesShots?: boolean;
    tellsScale?: boolean;
  } = {},
): Station {
  const requires: Requirement[] = [
    ...(id === "look-over"
      ? []
      : [{ station: "look-over" as const, because: "The look over comes first: condition before work." }]),
    ...after.map(([of, because, how]) => ({
      station: of,
      because,
      ...(how === "lasting" ? { lasting: true as const } : how ? { or: how } : {}),
    })),
  ];
  return {
    id,
    title,
    needs,
    tasks,
    cautions,
    requires,
    skippable,
    schools,
    ...(hardStop ? { hardStop } : {}),
    ...more,
  };
}

/** A task that is ticked off. */
export const tick = (id: string, label: string, more: Partial<Task> = {}): Task =>
  ({ id, label, kind: "tick", ...more }) as Task;

export const LOCAL_RULES = "Local codes and licensed practice decide who may do this.";

export const WARM: [StationId, string] = ["boiler-ready", "Boiler ready comes first."];

type Given = {
  optional?: boolean;
  hint?: string;
  tolerance?: Tolerance | undefined;
  possible: readonly [number, number];
  usual: readonly [number, number];
  resolution?: number;
  place?: Place;
  countsWarm?: boolean;
};

const READ_WITH: Partial<Record<Dimension, InstrumentQuantity>> = {
  pressure: "pressure",
  temperature: "temperature",
  mass: "mass",
  time: "time",
};

/** A figure read with an instrument of the kit. */
export function measured(
  id: string,
  label: string,
  dimension: Dimension,
  { tolerance, resolution = 0.1, ...given }: Given,
): Task {
  const instrument = READ_WITH[dimension];
  return {
    id,
    label,
    dimension,
    kind: "figure",
    resolution,
    ...given,
    ...(tolerance ? { tolerance } : {}),
    ...(instrument ? { instrument } : {}),
  };
}

/** A table for those who want it, or with a number of rows that the station needs. */
export function table(
  id: string,
  label: string,
  analysis: AnalysisId,
  columns: readonly Column[],
  {
    least = 0,
    ...more
  }: { least?: number; hint?: string; group?: number; countsWarm?: boolean; when?: Task["when"] } = {},
): Task {
  const { when, ...rest } = more;
  return {
    id,
    label,
    kind: "table",
    analysis,
    columns,
    least,
    ...rest,
    ...(when ? { when } : {}),
    ...(least === 0 ? { optional: true } : {}),
  };
}

/**
 * A column read with an instrument.
 *
 * @param possible lowest and highest figure that can be, stored unit
 */
export function read(
  name: string,
  label: string,
  dimension: Dimension,
  possible: readonly [number, number],
  {
    resolution = 0.1,
    optional = false,
    display = false,
    place,
  }: { resolution?: number; optional?: boolean; display?: boolean; place?: Place } = {},
): Column {
  // What the machine's own display says is read without an instrument.
  const instrument = display ? undefined : READ_WITH[dimension];
  return {
    name,
    label,
    ...(optional ? { optional } : {}),
    type: {
      kind: "quantity",
      dimension,
      possible,
      resolution,
      ...(instrument ? { instrument } : {}),
      ...(place ? { place } : {}),
    },
  };
}
