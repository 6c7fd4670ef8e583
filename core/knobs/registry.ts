import type { FaultKind, Knob } from "../adjust";
import { type Cause, PATTERNS } from "../diagnose";
import { BUTTONS, type ButtonId } from "../volume";
import { basket } from "./basket";
import { brewPressure } from "./brew-pressure";
import { button } from "./button";
import { groupTemperature, offset } from "./group-temperature";
import { lineRegulator, preInfusion } from "./line-regulator";
import { type Wanted, type WantedId, wantedTolerance } from "../spec";
import type { FaultWords, KnobHere, KnobModule, LearntKnob, LoopQuestion, Stop } from "./loop";
import { pressurestat } from "./pressurestat";
import { plainFault } from "./words";

/** Every knob there is, in the order in which a sheet comes to them. */
export const KNOBS = {
  opv: brewPressure,
  "line-regulator": lineRegulator,
  "pre-infusion": preInfusion,
  pressurestat,
  offset,
  temperature: groupTemperature,
  basket,
  button,
} as const satisfies Record<string, KnobModule>;

export type KnobId = keyof typeof KNOBS;
export const KNOB_IDS = Object.keys(KNOBS) as [KnobId, ...KnobId[]];

/** The module of a knob, as every other module: without what only this one has. */
export const moduleOf = (knob: KnobId): KnobModule => KNOBS[knob];

/** Groups a machine can have. */
export const GROUPS = [1, 2, 3, 4] as const;

/** Which knob of a machine: some there is one of, some belong to a group and a button. */
export interface KnobAt {
  readonly knob: KnobId;
  readonly group: number | null;
  readonly button: ButtonId | null;
}

/** The name of one knob of a machine, for addresses, forms and tasks. A name only: what it stands for is asked of {@link atOf}. */
export type LoopId = Exclude<KnobId, "button"> | `${"dose" | Exclude<ButtonId, "double">}-${(typeof GROUPS)[number]}`;

/** One knob on this machine: what is turned, what is read, and in which words. */
export interface Loop extends Omit<KnobHere, "group" | "button"> {
  readonly id: LoopId;
  readonly at: KnobAt;
}

/** The name of a knob at its place. The double button is “dose” there, as it was from the beginning. */
export function keyOf({ knob, group, button }: KnobAt): LoopId {
  return (knob === "button" ? `${button === "double" ? "dose" : button}-${group}` : knob) as LoopId;
}

/** What one machine of a model teaches the next: its knobs, and what a step of the grinder that is built into it is worth. */
export const LEARNT_IDS = [...KNOB_IDS, "grind"] as const;

export type LearntAt = Omit<KnobAt, "knob"> & { readonly knob: (typeof LEARNT_IDS)[number] };

/** The name under which a response is learnt: that of its knob, or “grind”. */
export function learntKey(at: LearntAt): LoopId | "grind" {
  return at.knob === "grind" ? "grind" : keyOf({ ...at, knob: at.knob });
}

const PLACES: ReadonlyMap<string, KnobAt> = new Map(
  KNOB_IDS.flatMap((knob): KnobAt[] =>
    knob === "button"
      ? GROUPS.flatMap((group) => BUTTONS.map((button) => ({ knob, group, button })))
      : [{ knob, group: null, button: null }],
  ).map((at) => [keyOf(at), at]),
);

/** What a name stands for; null where there is no such knob on any machine. */
export function atOf(id: string): KnobAt | null {
  return PLACES.get(id) ?? null;
}

/** All names there are. */
export const LOOP_IDS = [...PLACES.keys()] as [LoopId, ...LoopId[]];

/** The knobs that this machine has, by its card and the schools chosen. */
export function loopsOf(question: LoopQuestion): Loop[] {
  return KNOB_IDS.flatMap((knob) =>
    moduleOf(knob)
      .here(question)
      .map((own) => asWanted(own, knob, question.wanted))
      .map(({ group = null, button = null, ...here }): Loop => {
        const at: KnobAt = { knob, group, button };
        const id = keyOf(at);
        return { ...here, id, at, knob: here.knob && taught(here.knob, here, question.learnt?.[id]) };
      }),
  );
}

const WANTED_OF: Readonly<Partial<Record<KnobId, WantedId>>> = {
  opv: "brew",
  pressurestat: "steam",
  basket: "dose",
  offset: "offset",
};

/** Held against what is wanted of this machine, where somebody said so; the report gives the reason. */
function asWanted(here: KnobHere, knob: KnobId, wanted: Wanted | undefined): KnobHere {
  const of = WANTED_OF[knob];
  const range = of && wanted?.[of];
  if (!range) return here;
  const held = `wanted: ${range.reason || "on this machine"}`;
  // The dose is in the recipe already, where a basket may have one of its own.
  return knob === "basket" ? { ...here, held } : { ...here, tolerance: wantedTolerance(range), held };
}

function taught(knob: Knob, { with: { amount } }: Pick<KnobHere, "with">, response: LearntKnob | undefined): Knob {
  // A timer’s rate belongs to the grind it was weighed at: what earlier jobs had says nothing of this one.
  if (!response || amount?.kind === "seconds") return knob;
  return { ...knob, response: { mean: response.mean, sd: response.sd } };
}

/** What is said of a fault of a knob: the engine’s, or the stop of a rule of the trade. */
export function faultWords(knob: KnobId, fault: string): FaultWords {
  const { faults, ends, evidence } = moduleOf(knob);
  if (ends?.stop.id === fault) return ends.stop;
  const cause = evidence && PATTERNS[evidence.pattern].causes.find((c) => causeId(c) === fault);
  if (cause) return causeWords(cause);
  return faults[fault as FaultKind] ?? plainFault(fault as FaultKind);
}

/** The part to renew for what was found; where two causes are as good as each other, both. */
export function partFor(knob: KnobId, faults: readonly string[]): string {
  return faults
    .map((fault) => faultWords(knob, fault).part)
    .filter(Boolean)
    .join("; or ");
}

const causeId = ({ id }: Cause) => `cause.${id}`;

/** A cause that was found, as a fault that adjusting ends with. */
export const causeWords = (cause: Cause): FaultWords & Pick<Stop, "id"> => ({
  id: causeId(cause),
  says: `${cause.label}.`,
  checks: [cause.remedy],
  part: cause.part,
});
