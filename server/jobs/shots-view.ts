import { amountFigure, amountWords } from "../../core/grinder";
import { KINDS } from "../../core/kind";
import { buttonOf } from "../../core/loop";
import { formatQuantity, formatUncertainty, unitById } from "../../core/quantity";
import {
  type Pull,
  type PulledBy,
  type ShotClock,
  changedBetween,
  coffeeAge,
  deriveFrom,
  dripOf,
  secondsFrom,
  tooMany,
} from "../../core/shot";
import { keptFrom } from "../../core/sheet";
import type { Kept } from "../../core/volume";
import type { SheetRow } from "../../db/queries/jobs";
import type { programmesOf, shotsBefore } from "../../db/queries/shots";
import { amountNow } from "./coffee";
import { type ShotRow, adviceWords, dialling, judgeShot, reasonNeeded, standingShots, takenShot } from "./dialling";
import { recipeWords, sayPull } from "./shots-words";
import { type Stand, standOf } from "./stand";

/** The room in which shots are pulled: the recipe, the tries with what was changed, the one thing to change, the clock. */

export type ShotsView = ReturnType<typeof shotsView>;
export type TryView = ShotsView["tries"][number];

export interface ShotsQuestion {
  row: SheetRow;
  kit: SheetRow["machine"]["instruments"];
  clock: { clockId: string; clock: ShotClock; by: string } | null;
  before: Awaited<ReturnType<typeof shotsBefore>>;
  programmes: Awaited<ReturnType<typeof programmesOf>>;
  now: number;
  /** The person’s own unit of pressure. */
  unit: string;
}

export function shotsView({ row, kit, clock, before, programmes, now, unit }: ShotsQuestion) {
  const stand = standOf(row);
  const shots = standingShots(row);
  const station = stand.at(now).find((p) => p.station.id === "shots");
  const taken = takenShot(row, stand);
  const at = dialling(row, stand);
  const kept = keptFrom(
    stand.records,
    shots.flatMap(({ pull: p }) =>
      p.waterIn === undefined || p.yield === null ? [] : [{ dose: p.dose, water: p.waterIn, cup: p.yield }],
    ),
  );
  const advice = adviceWords(at);
  const earlier = before?.shots.map((s) => s.pull) ?? [];
  return {
    job: {
      id: row.id,
      revision: row.revision,
      state: row.state,
      blocked: station?.state === "blocked" ? (station.why ?? "") : "",
    },
    machine: {
      id: row.machine.id,
      name: `${row.machine.model.maker} ${row.machine.model.name}`,
      site: row.machine.site.name,
      groups: stand.kind.groups,
      buttons: buttonsOf(stand),
      amount: stand.loops.find((l) => l.loop.id === "basket")?.loop.with.amount ?? null,
    },
    at: now,
    unit,
    recipe: recipeView(row, stand),
    tries: shots.map((s, i) => tryView(s, shots[i - 1] ?? null, { row, stand, taken: taken?.shot.id, kept, unit })),
    accepted: taken && { shotId: taken.shot.id, reason: taken.reason },
    needsReason: at.last ? (reasonNeeded(row, stand, at.last) ?? "") : "",
    advice,
    clock,
    carried: carriedFrom(row, stand, at.last?.pull ?? earlier.at(-1) ?? null, advice),
    /** The grind in the form is the one advised, not the one last used. */
    advised: advice.setting !== null,
    scales: kit.filter((k) => k.quantity === "mass").map((k) => ({ id: k.id, name: k.name })),
    /** What a running shot is expected to do. */
    expected: {
      seconds: advice.seconds ?? stand.recipe.seconds.target,
      sd: advice.spread ? advice.spread / 2 : 0.15 * stand.recipe.seconds.target,
      target: stand.recipe.yield.target,
      drip: dripOf([...earlier, ...shots.map((s) => s.pull)]),
    },
    stored: programmes.map((p) => ({
      by: buttonOf(p.loop)?.button ?? "double",
      group: buttonOf(p.loop)?.group ?? 1,
      grams: p.mean,
    })),
    before: before && {
      at: before.at.toISOString(),
      points: before.shots.flatMap((s) => pointOf(s.pull, stand)),
    },
  };
}

function buttonsOf({ loops, card }: Stand): PulledBy[] {
  const known = loops.flatMap((l) => buttonOf(l.loop.id)?.button ?? []);
  const all: PulledBy[] = card.buttons === "none" ? [] : known.length > 0 ? [...new Set(known)] : ["double"];
  return ["manual", ...all];
}

function recipeView(row: SheetRow, { recipe }: Stand) {
  return {
    ...recipe,
    words: recipeWords({ recipe }),
    by: recipe.volume ? (row.spec?.card.name ?? "the definition picked") : "the schools chosen",
  };
}

function pointOf(pull: Pull, { recipe }: Stand): { seconds: number; yield: number; choked: boolean }[] {
  const seconds = secondsFrom(pull, recipe.from);
  return seconds === null ? [] : [{ seconds, yield: pull.yield ?? 0, choked: pull.choked }];
}

const fig = (value: number, U: number, resolution: number, unit = "") =>
  `${value.toFixed(resolution < 0.1 ? 2 : 1)} ± ${formatUncertainty(U, resolution, unitById("g"))}${unit && ` ${unit}`}`;

interface About {
  row: SheetRow;
  stand: Stand;
  /** Id of the shot taken as the recipe. */
  taken: string | undefined;
  kept: Kept;
  unit: string;
}

function tryView(shot: ShotRow, before: ShotRow | null, { row, stand, taken, kept: own, unit }: About) {
  const { pull } = shot;
  const derived = deriveFrom(pull, { dose: shot.uDose, yield: shot.uYield }, own);
  const judged = judgeShot(shot, row, stand);
  const changed = before ? changedBetween(before.pull, pull) : [];
  const age = coffeeAge(pull.coffee, shot.at.toISOString().slice(0, 10));
  const { ratio, flow, kept, extraction } = derived;
  return {
    id: shot.id,
    number: shot.sequence,
    by: shot.author.name,
    at: shot.at.toISOString(),
    early: shot.early,
    amends: shot.amends,
    reason: shot.reason,
    pull,
    point: pointOf(pull, stand)[0] ?? null,
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
      ...beside(pull, stand, unit),
    ],
    changed: changed.map((c) => c.words),
    tooMany: tooMany(changed) ?? "",
    verdict: judged.verdict,
    outside: judged.judged.filter((j) => j.verdict === "off" || j.verdict === "can't tell").map((j) => j.what),
    missing: [...judged.missing],
    near: judged.near ?? "",
    accepted: taken === shot.id,
    typed: shot.typed,
  };
}

function beside(pull: Pull, stand: Stand, unit: string) {
  const bar = (x: number | undefined) => (x === undefined ? "–" : formatQuantity(x, 0.1, unitById(unit)));
  const { amount } = stand.loops.find((l) => l.loop.id === "basket")?.loop.with ?? {};
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

/** What the next shot’s form starts with: as the last one, with the advice taken; only changes are typed. */
function carriedFrom(row: SheetRow, stand: Stand, last: Pull | null, advice: ReturnType<typeof adviceWords>) {
  const basket = stand.loops.find((l) => l.loop.id === "basket");
  const set = (x: number | undefined) => (x === undefined ? "" : String(Number(x.toFixed(2))));
  const weighed = basket?.record.last?.value;
  const kind = basket?.loop.with.amount?.kind;
  const amount = (basket && amountNow(basket.entries, basket.loop)) ?? last?.amount ?? null;
  const own = KINDS[row.kind].grinder !== "separate";
  return {
    group: String(last?.group ?? 1),
    by: last?.by ?? "manual",
    coffeeName: last?.coffee.name ?? row.machine.coffee,
    roast: last?.coffee.roast ?? "",
    roastedOn: last?.coffee.roastedOn ?? "",
    grinderName: last?.grinder.name ?? (row.machine.grinder || (own ? "built in" : "")),
    finer: String(last?.grinder.finer ?? stand.card.grindScale.finer),
    step: set(last?.grinder.step ?? stand.card.grindScale.step),
    setting: advice.setting !== null ? set(advice.setting) : set(last?.setting),
    amount: amount === null || !kind ? "" : amountFigure(kind, amount),
    dose: (advice.dose ?? last?.dose ?? weighed ?? stand.recipe.dose.target).toFixed(1),
    basket: last?.basket ?? (stand.recipe.dose.target < 12 ? "single" : "double"),
    preInfusion: set(last?.preInfusion),
    pause: set(last?.pause),
    setPoint: set(last?.setPoint),
    from: last?.from === "first-drop" ? "first-drop" : "pump",
  };
}
