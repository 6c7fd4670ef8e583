import { dayIn } from "../../../core/day";
import {
  type Job,
  type ShotRecord,
  type Standing,
  adviceWords,
  amountNow,
  dialling,
  doseAgain,
  judgeShot,
  knobNamed,
  reasonNeeded,
  recipeWords,
  sayPull,
  standingOf,
  standingShots,
  takenShot,
} from "../../../core/job";
import { amountFigure, amountWords } from "../../../core/grinder";
import type { KitInstrument } from "../../../core/metrology";
import { formatQuantity, formatUncertainty, unitById } from "../../../core/quantity";
import {
  type Pull,
  type PulledBy,
  type ShotClock,
  type Trace,
  changedBetween,
  coffeeAge,
  deriveFrom,
  dripOf,
  sameBag,
  secondsFrom,
  tooMany,
} from "../../../core/shot";
import { keptFrom } from "../../../core/sheet";
import type { Kept } from "../../../core/volume";
import type { programmesOf, shotsBefore } from "../../../db/queries/shots";
import type { tracesOf } from "../../../db/queries/traces";
import { traceView } from "./traces";

/** The room in which shots are pulled: the recipe, the tries with what was changed, the one thing to change, the clock. */

export type ShotsView = ReturnType<typeof shotsView>;
export type TryView = ShotsView["tries"][number];

export interface ShotsQuestion {
  job: Job;
  kit: readonly KitInstrument[];
  clock: { clockId: string; clock: ShotClock; by: string } | null;
  before: Awaited<ReturnType<typeof shotsBefore>>;
  programmes: Awaited<ReturnType<typeof programmesOf>>;
  /** Of loggers, newest first, and the one that is drawn. */
  traces?: Awaited<ReturnType<typeof tracesOf>>;
  picked?: { id: string; trace: Trace } | null;
  now: number;
  /** The person’s own unit of pressure. */
  unit: string;
}

export function shotsView(asked: ShotsQuestion) {
  const { job, kit, clock, before, programmes, now, unit } = asked;
  const standing = standingOf(job);
  const { kind, recipe, records } = standing;
  const shots = standingShots(job);
  const station = standing.at(now).find((p) => p.station.tasks.some((t) => t.kind === "shots"));
  const taken = takenShot(standing);
  const at = dialling(standing);
  const kept = keptFrom(
    { kind, card: standing.card, schools: job.schools, records },
    shots.flatMap(({ pull: p }) =>
      p.waterIn === undefined || p.yield === null ? [] : [{ dose: p.dose, water: p.waterIn, cup: p.yield }],
    ),
  );
  const advice = adviceWords(at, standing);
  const today = dayIn(job.zone, now);
  const earlier = before?.shots.map((s) => s.pull) ?? [];
  return {
    job: {
      id: job.id,
      revision: job.revision,
      state: job.state,
      blocked: station?.state === "blocked" ? (station.why ?? "") : "",
    },
    machine: {
      id: job.machine.id,
      name: `${job.machine.maker} ${job.machine.model}`,
      site: job.machine.site,
      groups: kind.groups,
      buttons: buttonsOf(standing),
      amount: knobNamed(standing, "basket")?.loop.with.amount ?? null,
    },
    at: now,
    unit,
    recipe: recipeView(standing),
    tries: shots.map((s, i) => tryView(s, shots[i - 1] ?? null, { standing, taken: taken?.shot.id, kept, unit })),
    accepted: taken && { shotId: taken.shot.id, reason: taken.reason },
    needsReason: at.last ? (reasonNeeded(standing, at.last) ?? "") : "",
    advice,
    clock,
    carried: carriedFrom(standing, at.last?.pull ?? ofLastVisit(earlier.at(-1), today), advice),
    /** The grind in the form is the one advised, not the one last used. */
    advised: advice.setting !== null,
    scales: kit.filter((k) => k.quantity === "mass").map((k) => ({ id: k.id, name: k.name })),
    /** What a running shot is expected to do. */
    expected: {
      seconds: advice.seconds ?? recipe.seconds.target,
      sd: advice.spread ? advice.spread / 2 : 0.15 * recipe.seconds.target,
      target: recipe.yield.target,
      drip: dripOf([...earlier, ...shots.map((s) => s.pull)]),
    },
    stored: programmes.map((p) => ({
      by: p.button,
      group: p.group,
      grams: p.mean,
    })),
    doseAgain: doseAgain(knobNamed(standing, "basket")?.log ?? []),
    traces: tracesFrom(asked, shots),
    before: before && {
      at: before.at.toISOString(),
      shots: before.shots.map((s) => ({ id: s.id, number: s.sequence, said: sayPull(s.pull), pull: s.pull })),
      points: before.shots.flatMap((s) => pointOf(s.pull, standing)),
    },
  };
}

/** Traces by the shot they are of; a corrected shot keeps the trace under its number. */
function tracesFrom({ job, traces = [], picked = null, unit }: ShotsQuestion, shots: readonly ShotRecord[]) {
  const numberOf = (id: string | null) => [...shots, ...job.shots].find((s) => s.id === id)?.sequence ?? null;
  return {
    list: traces.map((t) => ({ id: t.id, file: t.file, shot: numberOf(t.shotId), at: t.at.toISOString() })),
    picked: picked?.id ?? null,
    view: picked && traceView(picked.trace, unit),
  };
}

function buttonsOf({ loops, card }: Standing): PulledBy[] {
  const known = loops.flatMap((l) => l.loop.at.button ?? []);
  const all: PulledBy[] = card.buttons === "none" ? [] : known.length > 0 ? [...new Set(known)] : ["double"];
  return ["manual", ...all];
}

function recipeView({ job, recipe }: Standing) {
  return {
    ...recipe,
    words: recipeWords({ recipe }),
    by: recipe.volume ? (job.spec?.name ?? "the definition picked") : "the methods chosen",
  };
}

function pointOf(pull: Pull, { recipe }: Standing): { seconds: number; yield: number; choked: boolean }[] {
  const seconds = secondsFrom(pull, recipe.from);
  return seconds === null ? [] : [{ seconds, yield: pull.yield ?? 0, choked: pull.choked }];
}

const fig = (value: number, U: number, resolution: number, unit = "") =>
  `${value.toFixed(resolution < 0.1 ? 2 : 1)} ± ${formatUncertainty(U, resolution, unitById("g"))}${unit && ` ${unit}`}`;

interface About {
  standing: Standing;
  /** Id of the shot used as the recipe. */
  taken: string | undefined;
  kept: Kept;
  unit: string;
}

function tryView(shot: ShotRecord, before: ShotRecord | null, { standing, taken, kept: own, unit }: About) {
  const { pull } = shot;
  const derived = deriveFrom(pull, { dose: shot.uDose, yield: shot.uYield }, own);
  const judged = judgeShot(shot, standing);
  const changed = before ? changedBetween(before.pull, pull) : [];
  const age = coffeeAge(pull.coffee, dayIn(standing.job.zone, shot.at.getTime()));
  const { ratio, flow, kept, extraction } = derived;
  return {
    id: shot.id,
    number: shot.sequence,
    by: shot.by,
    at: shot.at.toISOString(),
    early: shot.early,
    amends: shot.amends,
    reason: shot.reason,
    pull,
    point: pointOf(pull, standing)[0] ?? null,
    said: sayPull(pull),
    coffee: [pull.coffee.name, pull.coffee.roast, age === null ? "" : `${age} days from roasting`]
      .filter(Boolean)
      .join(", "),
    facts: [
      ...(ratio ? [{ name: "Ratio", text: `1 : ${fig(ratio.value, ratio.U, 0.01)}` }] : []),
      ...(flow
        ? [
            {
              name: flow.since === "start" ? "Flow, over all" : "Flow, from the first drop",
              text: fig(flow.value, flow.U, 0.01, "g/s"),
            },
          ]
        : []),
      ...(kept
        ? [{ name: kept.measured ? "Water kept" : "Water kept, expected", text: fig(kept.value, kept.U, 0.1, "ml") }]
        : []),
      ...(extraction ? [{ name: "Extraction yield", text: fig(extraction.value, extraction.U, 0.1, "%") }] : []),
      ...beside(pull, standing, unit),
    ],
    changed: changed.map((c) => c.words),
    tooMany: tooMany(changed) ?? "",
    verdict: judged.verdict,
    outside: [...judged.outside],
    notes: [...judged.missing, ...judged.notes],
    accepted: taken === shot.id,
    typed: shot.typed,
  };
}

function beside(pull: Pull, standing: Standing, unit: string) {
  const bar = (x: number | undefined) => (x === undefined ? "–" : formatQuantity(x, 0.1, unitById(unit)));
  const { amount } = knobNamed(standing, "basket")?.loop.with ?? {};
  const list: [string, string | undefined][] = [
    ["First drop", pull.firstDrop === undefined ? undefined : `${pull.firstDrop.toFixed(1)} s`],
    [
      "Pre-infusion, pause",
      pull.preInfusion === undefined && pull.pause === undefined
        ? undefined
        : `${pull.preInfusion ?? 0} s, ${pull.pause ?? 0} s`,
    ],
    ["Set point", pull.setPoint === undefined ? undefined : `${pull.setPoint.toFixed(1)} °C`],
    [
      "Pressure, peak and plateau",
      pull.peak === undefined && pull.plateau === undefined ? undefined : `${bar(pull.peak)}, ${bar(pull.plateau)}`,
    ],
    ["Amount set", pull.amount === undefined || !amount ? undefined : amountWords(amount.kind, pull.amount)],
    ["Strength", pull.strength],
    ["Note", pull.note],
  ];
  return list.flatMap(([name, text]) => (text ? [{ name, text }] : []));
}

/** The newest shot of the visit before; the day its bag was roasted only where that bag may be in use still. */
function ofLastVisit(pull: Pull | undefined, today: string): Pull | null {
  return pull ? { ...pull, coffee: { ...pull.coffee, roastedOn: sameBag(pull.coffee, today) } } : null;
}

/** What the next shot’s form starts with: as the last one, with the advice taken; only changes are typed. */
function carriedFrom(standing: Standing, last: Pull | null, advice: ReturnType<typeof adviceWords>) {
  const { job, card, recipe } = standing;
  const basket = knobNamed(standing, "basket");
  const set = (x: number | undefined) => (x === undefined ? "" : String(Number(x.toFixed(2))));
  const weighed = basket?.record.last?.value;
  const kind = basket?.loop.with.amount?.kind;
  const amount = (basket && amountNow(basket.log, basket.loop)) ?? last?.amount ?? null;
  const own = standing.kind.grinder !== "separate";
  return {
    group: String(last?.group ?? 1),
    by: last?.by ?? "manual",
    coffeeName: last?.coffee.name ?? job.machine.coffee,
    roast: last?.coffee.roast ?? "",
    roastedOn: last?.coffee.roastedOn ?? "",
    grinderName: last?.grinder.name ?? (job.machine.grinder || (own ? "built in" : "")),
    finer: String(last?.grinder.finer ?? card.grindScale.finer),
    step: set(last?.grinder.step ?? card.grindScale.step),
    lowest: set(last?.grinder.lowest ?? (own ? card.grindScale.lowest : undefined)),
    highest: set(last?.grinder.highest ?? (own ? card.grindScale.highest : undefined)),
    setting: advice.setting !== null ? set(advice.setting) : set(last?.setting),
    amount: amount === null || !kind ? "" : amountFigure(kind, amount),
    dose: (advice.dose ?? last?.dose ?? weighed ?? recipe.dose.target).toFixed(1),
    basket: last?.basket ?? (recipe.dose.target < 12 ? "single" : "double"),
    preInfusion: set(last?.preInfusion),
    pause: set(last?.pause),
    setPoint: set(last?.setPoint),
    from: last?.from === "first-drop" ? "first-drop" : "pump",
  };
}
