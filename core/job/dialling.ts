import {
  type DialIn,
  type NotTheGrind,
  type Pull,
  ROAST_SET_POINTS,
  type Shot,
  BUILT_IN_SLOPE,
  CAUSES,
  USUAL_GRINDER,
  asShot,
  dialIn,
  secondsAt,
  slopeShown,
  verdictOf,
} from "../shot";
import { dayIn } from "../day";
import type { MachineKind } from "../kind";
import type { Recipe } from "../shot";
import type { SheetRecords } from "../sheet";
import type { Timed } from "./grind";
import type { Job, ShotRecord } from "./job";
import { SHOTS_TASK, standingShots } from "./shots-standing";
import { remembered } from "./remembered";

/** What the shots of a job say: which stand, how each is judged, and the one thing to change. */

/** What the shots of a job are judged by. */
export interface Pulled {
  readonly job: Job;
  readonly kind: MachineKind;
  readonly recipe: Recipe;
  readonly timed: Timed | null;
  readonly records: Pick<SheetRecords, "values">;
}

/** The shot used as the recipe, while it stands. */
export function takenShot({ job, records }: Pulled): { shot: ShotRecord; reason: string } | null {
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
  /** s that the newest shot would run on to the full cup; negative where it ran over. */
  longer: number | null;
  /** Why there is none: no shot, or its seconds can’t be told from the event that counts. */
  missing: string;
}

/** The one thing to change, from the shots of this coffee through this grinder. */
export function dialling(standing: Pulled): Dialling {
  const { job, recipe, kind } = standing;
  const shots = standingShots(job).filter((s) => !s.amends);
  const last = shots.at(-1) ?? null;
  const none = { advice: null, last, longer: null };
  if (!last) return { ...none, missing: "No shot yet. Pull a first one at the setting the grinder has." };
  const { alike, told } = alikeTold(standing, last);
  const newest = told.at(-1);
  if (newest == null)
    return {
      ...none,
      missing:
        "The newest shot counts from another event than the recipe, and its first drop was not marked: tap it next time.",
    };
  if (last.pull.preGround)
    return {
      ...none,
      missing: "Pre-ground coffee: the grind is fixed. Change the dose by 0.5 g, or the coffee; taste decides.",
    };
  const { finer, step } = last.pull.grinder;
  // A grinder built in is its model’s; one beside the machine may be another next time.
  const slope = kind.grinder === "separate" ? USUAL_GRINDER.slope : (job.learnt.grind ?? BUILT_IN_SLOPE);
  const drawn = secondsAt(newest, recipe.yield.target);
  return {
    last,
    longer: drawn === null ? null : drawn - newest.seconds,
    missing: "",
    advice: heldToVerdict(
      standing,
      last,
      advise({
        recipe,
        shots: told.filter((s): s is Shot => s !== null),
        grinder: { finer, step, slope },
        school: job.schools.grindOrDose,
        water: waterOf(kind),
        ends: endsOf(alike.map((s) => s.pull)),
        taken: takenBy(standing, alike, told),
      }),
    ),
  };
}

/** The grind is right as it is, and the button that ended the newest shot is to be taught. */
export function asksToTeach(standing: Pulled): boolean {
  const { advice, last } = dialling(standing);
  return advice?.change.kind === "yield" && last!.pull.by !== "manual";
}

/** Nothing is kept that lies outside of its recipe: what is neither grind nor cup is put right first. */
function heldToVerdict(standing: Pulled, shot: ShotRecord, advice: DialIn): DialIn {
  if (advice.change.kind !== "keep" || judgeShot(shot, standing).verdict !== "off") return advice;
  return { ...advice, change: { kind: "check", cause: "beside-grind" }, expected: null, why: CAUSES["beside-grind"] };
}

/** What the shots of a job showed of a step of the grinder built into the machine; null where there is none, or nothing was shown. */
export function grindShown(standing: Pulled): ReturnType<typeof slopeShown> {
  const { job, recipe, kind } = standing;
  const last = standingShots(job).at(-1);
  if (kind.grinder === "separate" || !last || last.pull.preGround) return null;
  const shots = alikeTold(standing, last);
  const aim = { dose: recipe.dose.target, yield: recipe.yield.target };
  return slopeShown(
    shots.told.filter((s): s is Shot => s !== null),
    aim,
    last.pull.grinder,
  );
}

/** The shots with the beans and grinder of one of them, and each as dialling in takes it. */
function alikeTold({ job, recipe }: Pulled, { pull }: ShotRecord) {
  const alike = standingShots(job).filter((s) => !s.amends && sameBeans(s.pull, pull));
  const told = alike.map((s) => asShot(s.pull, { recipe, today: dayIn(job.zone, s.at.getTime()), cold: s.early }));
  return { alike, told };
}

/** The scale’s ends as the newest shot has them; nothing below 0 where nobody has set it there. */
function endsOf(pulls: readonly Pull[]): [number, number] {
  const { lowest, highest } = pulls.at(-1)!.grinder;
  return [lowest ?? Math.min(0, ...pulls.map((p) => p.setting)), highest ?? Infinity];
}

/** The setting of the recipe that was taken with these beans, and how many shots were told by then. */
function takenBy(standing: Pulled, alike: readonly ShotRecord[], told: readonly (Shot | null)[]) {
  const id = takenShot(standing)?.shot.id;
  const at = alike.findIndex((s) => s.id === id);
  if (at === -1) return null;
  return { setting: alike[at]!.pull.setting, shots: told.slice(0, at + 1).filter(Boolean).length };
}

/** What moves the water’s temperature on a kind of machine. */
export function waterOf(kind: Pick<MachineKind, "readySign" | "boiler">): "display" | "wait" | "flush" | undefined {
  if (kind.readySign === "display") return "display";
  if (kind.boiler === "heat-exchanger" || kind.boiler === "lever") return "flush";
  return kind.readySign === "light" && kind.boiler === "single" ? "wait" : undefined;
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

/** A shot held against the recipe of its job. */
export function judgeShot({ pull }: ShotRecord, { job, recipe }: Pulled) {
  return verdictOf(pull, recipe, job.schools.grindOrDose);
}

/** Why taking this shot as the recipe needs a reason; null where the shots make it by themselves. */
export function reasonNeeded(standing: Pulled, shot: ShotRecord): string | null {
  const { advice, last } = dialling(standing);
  // What the advice keeps is taken without a word: screen and advice are one decision.
  if (advice?.change.kind === "keep" && last?.id === shot.id) return null;
  const { verdict } = judgeShot(shot, standing);
  // By the band it is in spec as it is, whatever would better it.
  if (verdict === "just holds") return null;
  if (verdict === "off" || verdict === "can't tell")
    return "This shot is outside the recipe. Give the reason for using it all the same: the report shows it.";
  return advice?.change.kind === "check"
    ? "Another cause than the grind is likely. Give the reason for using it all the same."
    : null;
}

const CHECKS: Record<Exclude<NotTheGrind, "beside-grind" | "died-off" | "too-hot" | "too-cool">, string> = {
  "stale-coffee": "Old coffee: open a fresh bag, repeat.",
  cold: "Not warmed up: lock in the portafilter, flush, repeat.",
  channel: "Channelling: redistribute, tamp level, repeat.",
  "low-pressure": "Low pressure: read it with a blind basket first.",
  "dose-off": "Dose off: weigh it again, repeat.",
  contradiction: "This shot does not fit the others: repeat it.",
  "sour-slow": "Sour and slow: redistribute, tamp level, check the temperature, repeat.",
  "bitter-fast": "Bitter and fast: check temperature and coffee, repeat.",
};

/** s of flush that cool for a dark roast; for a light one none. Common practice: 0 to 5 s. */
const COOLING_FLUSH = 5;
/** s by which the wait after the light is moved. Common practice: about 10 s to begin with, then by taste. */
const WAIT_STEP = 5;

/** What to do about the water, by what moves it on this machine. */
function waterWords(cause: "too-hot" | "too-cool", { kind }: Pulled, { setPoint, coffee }: Pull): string {
  const cooler = cause === "too-hot";
  const water = waterOf(kind);
  if (water === "wait")
    return `Brew ${WAIT_STEP} s ${cooler ? "later" : "sooner"} after the light than this shot, same grind, repeat.`;
  if (water === "flush")
    return `${cooler ? `Flush ${COOLING_FLUSH} s` : "No flush, or 2 s at most,"} before the shot, same grind, repeat.`;
  const band = coffee.roast ? ROAST_SET_POINTS[coffee.roast] : null;
  const to = band ? ` to ${band[0]}–${band[1]} °C (${coffee.roast} roast)` : " by 1 °C";
  return `${cooler ? "Lower" : "Raise"} set point${to}, same grind, repeat.${setPoint === undefined ? "" : ` Now ${setPoint} °C.`}`;
}

/** Water that a choked shot sent back shows the OPV at work, and that nothing is in danger: said only once somebody has looked. */
function surplus({ kind }: Pulled, { choked, flow, trayMl }: Pull): string {
  if ((!choked && flow !== "drip") || kind.pump === "none" || kind.opv === "none") return "";
  if (trayMl !== undefined && trayMl > 0)
    return ` ${trayMl} ml came back to the tray: the OPV works. Not dangerous for the machine.`;
  if (trayMl === 0)
    return " No water came back to the tray: check the OPV with a blind basket before the next choked shot.";
  return " Did water come back to the tray? Catch it and type the ml: then the OPV works, and a choked shot is not dangerous for the machine.";
}

/** What a definition says of pressure and water is put right at its own step. */
function besideGrind(shot: ShotRecord, standing: Pulled): string {
  const { outside } = judgeShot(shot, standing);
  return `Keep the grind. Out of spec: the ${outside.join(" and the ")}. Correct it, repeat.`;
}

/** How much longer or shorter the same shot would run to the full cup. */
function byTime({ by }: Pull, longer: number | null): string {
  const seconds = Math.round(longer ?? 0);
  if (seconds === 0) return "";
  const more = seconds > 0 ? "longer" : "less";
  return `, ${by === "manual" ? "or run it" : "or let the button run"} ${Math.abs(seconds)} s ${more}`;
}

/** A setting as its scale has it. */
const mark = (setting: number) => Number(setting.toFixed(2));

const steps = (n: number) => {
  const size = Number(Math.abs(n).toFixed(2));
  return `${size} ${size === 1 ? "step" : "steps"}`;
};

/** The advice as a colleague would say it. */
export function adviceWords({ advice, last, longer, missing }: Dialling, standing: Pulled) {
  if (!advice || !last)
    return {
      kind: "none" as const,
      headline: missing,
      expect: "",
      why: last ? surplus(standing, last.pull).trim() : "",
      setting: null,
      dose: null,
      seconds: null,
      spread: null,
    };
  const { change, pInside, why, near } = advice;
  const range = change.kind === "grind" ? change.range : undefined;
  // A figure that may be anything is no help: the settings to try are.
  const expected = range ? null : advice.expected;
  const percent = `${Math.min(99, Math.max(1, Math.round(100 * pInside)))} % in the target time`;
  const { lower, upper } = advice.window ?? standing.recipe.seconds;
  const own = standing.kind.grinder !== "separate" || standing.timed !== null;
  const again = change.kind === "grind" && own ? " Then weigh the dose again: the grind changes it." : "";
  const expect = expected
    ? `Expect ${Math.max(0, expected.seconds - expected.spread).toFixed(0)} to ${Math.ceil(expected.seconds + expected.spread)} s (target ${lower.toFixed(0)} to ${upper.toFixed(0)}). ${pInside < 0.5 ? "First try, " : ""}${percent}.${again}`
    : range
      ? `Try ${mark(range[0])} to ${mark(range[1])}: what a step is worth here is not known yet.${again}`
      : change.kind === "dose"
        ? "Everything else stays."
        : "";
  const said = {
    expect,
    why: why + surplus(standing, last.pull),
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
        // In spec as it is: what would better it is offered beside using it.
        headline: `${near ? "Use it, or set" : "Set"} grinder to ${mark(change.setting)} (${steps(change.finer)} ${change.finer > 0 ? "finer" : "coarser"}), same dose${near ? byTime(last.pull, longer) : ""}.`,
        setting: change.setting,
      };
    case "dose":
      return {
        ...said,
        kind: change.kind,
        headline: `${Math.abs(change.by).toFixed(1)} g ${change.by > 0 ? "more" : "less"} coffee: ${(last.pull.dose + change.by).toFixed(1)} g.`,
        dose: last.pull.dose + change.by,
      };
    case "reach":
      return {
        ...said,
        kind: change.kind,
        headline: `Grinder does not reach the time with this dose: ${
          change.by === 0
            ? "another coffee"
            : `${Math.abs(change.by).toFixed(1)} g ${change.by > 0 ? "more" : "less"}, or another coffee`
        }.`,
        expect: change.by === 0 ? "" : `A dose of its own is set under “Wanted values”.`,
      };
    case "yield":
      return {
        ...said,
        kind: change.kind,
        headline: near
          ? `Use it, or ${last.pull.by === "manual" ? "pull it" : "teach the button"} to ${change.to.toFixed(0)} g${byTime(last.pull, longer)}.`
          : `Keep the grind: ${last.pull.by === "manual" ? "stop" : "teach the button"} for ${change.to.toFixed(0)} g in the cup.`,
      };
    case "same":
      return { ...said, kind: change.kind, headline: "Repeat to confirm, same setting." };
    case "check":
      return {
        ...said,
        kind: change.kind,
        headline:
          change.cause === "too-hot" || change.cause === "too-cool"
            ? waterWords(change.cause, standing, last.pull)
            : change.cause === "beside-grind"
              ? besideGrind(last, standing)
              : change.cause === "died-off"
                ? `Died off: ${standing.kind.supply === "plumbed" ? "open the supply" : "fill the tank"}, repeat.`
                : CHECKS[change.cause],
      };
    case "keep":
      return { ...said, kind: change.kind, headline: "Keep: this is the recipe." };
  }
}
