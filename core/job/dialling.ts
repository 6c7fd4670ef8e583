import { type DialIn, type NotTheGrind, type Pull, type Shot, USUAL_GRINDER, asShot, dialIn, verdictOf } from "../shot";
import { dayIn } from "../day";
import type { Job, ShotRecord } from "./job";
import { remembered } from "./remembered";
import { SHOTS_TASK, type Standing } from "./standing";

/** What the shots of a job say: which stand, how each is judged, and the one thing to change. */

/** Shots that were not corrected since, in order. */
export function standingShots({ shots }: Pick<Job, "shots">): ShotRecord[] {
  const corrected = new Set(shots.map((s) => s.supersedes));
  return shots.filter((s) => !corrected.has(s.id));
}

/** The shot taken as the recipe, while it stands. */
export function takenShot({ job, records }: Standing): { shot: ShotRecord; reason: string } | null {
  const taken = records.values.get(SHOTS_TASK)?.at(-1);
  const shot = taken?.form === "accepted" && standingShots(job).find((s) => s.id === taken.shot);
  return shot ? { shot, reason: taken.reason } : null;
}

/** The same log, asked again by sheet and room, is the same advice. */
const advise = remembered(dialIn, 2000);

export interface Dialling {
  advice: DialIn | null;
  /** The newest shot, which the advice starts from. */
  last: ShotRecord | null;
  /** Why there is none: no shot, or its seconds can’t be told from the event that counts. */
  missing: string;
}

/** The one thing to change, from the shots of this coffee through this grinder. */
export function dialling({ job, recipe }: Standing): Dialling {
  const shots = standingShots(job).filter((s) => !s.amends);
  const last = shots.at(-1) ?? null;
  if (!last) return { advice: null, last, missing: "No shot yet. Pull a first one at the setting the grinder has." };
  const alike = shots.filter((s) => sameBeans(s.pull, last.pull));
  const told = alike.map((s) =>
    asShot(s.pull, { from: recipe.from, today: dayIn(job.zone, s.at.getTime()), cold: s.early }),
  );
  if (told.at(-1) == null)
    return {
      advice: null,
      last,
      missing:
        "The newest shot counts from another event than the recipe, and its first drop was not marked: tap it next time.",
    };
  const { finer, step } = last.pull.grinder;
  return {
    last,
    missing: "",
    advice: advise({
      recipe,
      shots: told.filter((s): s is Shot => s !== null),
      grinder: { ...USUAL_GRINDER, finer, step },
      school: job.schools.grindOrDose,
    }),
  };
}

function sameBeans(a: Pull, b: Pull): boolean {
  return (
    a.coffee.name === b.coffee.name &&
    a.coffee.roastedOn === b.coffee.roastedOn &&
    a.grinder.name === b.grinder.name &&
    a.grinder.step === b.grinder.step &&
    a.basket === b.basket
  );
}

/** A shot held against the recipe of its job, by the job’s decision rule. */
export function judgeShot({ pull, uDose, uYield }: ShotRecord, { job, recipe }: Standing) {
  return verdictOf(pull, recipe, { dose: uDose, yield: uYield, rule: job.rule });
}

/** Why taking this shot as the recipe needs a reason; null where the shots make it by themselves. */
export function reasonNeeded(standing: Standing, shot: ShotRecord): string | null {
  const { verdict } = judgeShot(shot, standing);
  if (verdict === "off" || verdict === "can't tell")
    return "This shot does not make the recipe. Say why it is taken all the same: the report shows it.";
  const { advice, last } = dialling(standing);
  if (advice?.change.kind === "keep" && last?.id === shot.id) return null;
  return advice?.change.kind === "check"
    ? "Something else than the grind is in question. Say why it is taken all the same."
    : null;
}

const CHECKS: Record<NotTheGrind, string> = {
  "stale-coffee": "Not the grind: the coffee is old.",
  cold: "Not the grind: it was pulled cold.",
  channel: "Not the grind: a channel.",
  "low-pressure": "Not the grind: the pressure.",
  "dose-off": "Not the grind: the dose.",
  contradiction: "This shot does not fit the others.",
};

const steps = (n: number) => {
  const size = Number(Math.abs(n).toFixed(2));
  return `${size} ${size === 1 ? "step" : "steps"}`;
};

/** The advice as a colleague would say it. */
export function adviceWords({ advice, last, missing }: Dialling) {
  if (!advice || !last)
    return {
      kind: "none" as const,
      headline: missing,
      expect: "",
      why: "",
      setting: null,
      dose: null,
      seconds: null,
      spread: null,
    };
  const { change, expected, pInside, why } = advice;
  const percent = `${Math.min(99, Math.max(1, Math.round(100 * pInside)))} % it lands`;
  const expect = expected
    ? `Expect ${expected.seconds.toFixed(0)} ± ${Math.ceil(expected.spread)} s; ${percent}.`
    : change.kind === "dose"
      ? "Everything else stays."
      : "";
  const said = {
    expect,
    why,
    setting: null as number | null,
    dose: null as number | null,
    seconds: expected?.seconds ?? null,
    spread: expected?.spread ?? null,
  };
  switch (change.kind) {
    case "grind":
      return {
        ...said,
        kind: change.kind,
        headline: `Grind ${steps(change.finer)} ${change.finer > 0 ? "finer" : "coarser"}: set ${Number(change.setting.toFixed(2))}.`,
        setting: change.setting,
      };
    case "dose":
      return {
        ...said,
        kind: change.kind,
        headline: `${Math.abs(change.by).toFixed(1)} g ${change.by > 0 ? "more" : "less"} coffee: ${(last.pull.dose + change.by).toFixed(1)} g.`,
        dose: last.pull.dose + change.by,
      };
    case "yield":
      return {
        ...said,
        kind: change.kind,
        headline: `Keep the grind: ${last.pull.by === "manual" ? "stop" : "teach the button"} for ${change.to.toFixed(0)} g in the cup.`,
      };
    case "same":
      return { ...said, kind: change.kind, headline: "Pull the same again." };
    case "check":
      return { ...said, kind: change.kind, headline: CHECKS[change.cause] };
    case "keep":
      return { ...said, kind: change.kind, headline: "Keep it: this is the recipe." };
  }
}
