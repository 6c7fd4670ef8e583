import { mean } from "d3-array";
import { airPressure } from "../air";
import { steamCheck, steamPower, usualSteamWatts } from "../boiler";
import type { MachineKind, ModelCard } from "../kind";
import type { BasketId } from "../grinder";
import { aim } from "../metrology";
import { GROUPS } from "../knobs";
import type { SchoolsOf } from "../school";
import type { Recipe } from "../shot";
import { type SpecLine, toleranceFor } from "../spec";
import {
  type PlanStep,
  SECOND_AWAY,
  type Taste,
  cyclePlan,
  cycleStats,
  flushFor,
  flushPlan,
  nextWait,
  secondSetPoint,
  steamPlan,
} from "../temperature";
import {
  type Kept,
  type KeptRun,
  type MeterFactor,
  USUAL_METER,
  compareMeters,
  fitKept,
  offTheLine,
  fitMeter,
  keptAt,
  learnDrip,
  programmeFor,
  stopAt,
  type StorageTest,
  storageTest,
  usualKept,
} from "../volume";
import { type Cell, type SheetRecords, figure, chosen, loopRecord, rowsOf } from "./records";

/** What the rows of a table say, worked out and in words. */
export interface Analysed {
  lines: { text: string; verdict?: "holds" | "just holds" | "can't tell" | "off" }[];
  meter?: MeterFactor;
}

export interface AnalyseQuestion {
  readonly kind: MachineKind;
  readonly card: ModelCard;
  readonly schools: SchoolsOf;
  readonly spec: readonly SpecLine[];
  /** m above the sea */
  readonly altitude: number;
  readonly records: SheetRecords;
  /** Dose and yield wanted. */
  readonly recipe: Recipe;
}

/** What a table works out. */
export type AnalysisId =
  | "meter"
  | "storage"
  | "kept"
  | "drip"
  | "light-cycle"
  | "wait"
  | "flush"
  | "second-set-point"
  | "steam-check"
  | "steam-power"
  | "leaks";

export type PlanId = "light-cycle" | "flush" | "steam";

/** A table of the sheet: what it is kept under, what it works out, and for which group. */
export interface Analysable {
  readonly id: string;
  readonly analysis: AnalysisId;
  readonly group?: number;
}

type Row = Readonly<Record<string, Cell>>;

const value = (row: Row, name: string) => row[name]?.value ?? Number.NaN;
const uOf = (row: Row, name: string, least: number) => row[name]?.u ?? least;
const fix = (x: number, digits = 1) => x.toFixed(digits).replace(/^-/, "−");

/**
 * Works a table out. What can't be worked out yet says what is missing.
 *
 * @throws only what is no RangeError: those say what is missing
 */
export function analyse({ id, analysis, group = 1 }: Analysable, question: AnalyseQuestion): Analysed {
  const rows = rowsOf(question.records, id);
  if (rows.length === 0) return { lines: [] };
  try {
    return ANALYSES[analysis](rows, question, group);
  } catch (error) {
    if (error instanceof RangeError) return { lines: [{ text: error.message }] };
    throw error;
  }
}

const WHERE: Readonly<Record<string, string>> = {
  tray: "Tray or grid",
  group: "Group gasket",
  basket: "Portafilter, basket",
  hose: "Hose or fitting",
  valve: "Valve or OPV",
  pump: "Pump",
  boiler: "Boiler, element, probe",
  wand: "Wand or tap",
  tank: "Tank or its seat",
};

const CAUSE: Readonly<Record<string, string>> = {
  seal: ", seal or gasket worn",
  loose: ", fitting loose",
  cracked: ", cracked or corroded",
  scale: ", scale or dirt on the seat",
  seat: ", does not sit right",
  unknown: ", cause not known yet",
};

const ANALYSES: Record<AnalysisId, (rows: Row[], question: AnalyseQuestion, group: number) => Analysed> = {
  meter: (rows, { records }, group) => meter(rows, group > 1 ? meterOf(records, 1) : null, group),
  storage,
  kept,
  drip: (rows, { recipe }) => {
    const drip = learnDrip(rows.map((r) => ({ atStop: value(r, "atStop"), inCup: value(r, "cup") })));
    const stop = stopAt(recipe.yield, drip);
    return {
      lines: [
        { text: `About ${fix(drip.mean)} ± ${fix(2 * drip.u)} g still fall after the stop.` },
        {
          text: `Teach it by stopping at ${fix(stop.grams)} g on the scale, for ${fix(recipe.yield.target, 0)} g in the cup.`,
        },
      ],
    };
  },
  "light-cycle": (rows) => {
    const stats = cycleStats(cyclesOf(rows));
    // Of one nobody knows how it varies, and a heating that was not timed is not told.
    const span = ({ mean, sd }: { mean: number; sd: number }, n: number) =>
      n > 1 ? `${fix(mean, 0)} ± ${fix(2 * sd, 0)} s` : `about ${fix(mean, 0)} s`;
    const heats = stats.on.timed > 0 ? `heats ${span(stats.on, stats.on.timed)}, ` : "";
    return {
      lines: [
        {
          text: `${stats.cycles} ${stats.cycles === 1 ? "cycle" : "cycles"}: ${heats}rests ${span(stats.off, stats.cycles)}.`,
          ...(stats.cycles > 1 ? { verdict: stats.steady ? ("holds" as const) : ("off" as const) } : {}),
        },
        ...(stats.steady
          ? []
          : [
              {
                text: "The cycle wanders: a wait against it is not repeatable. Time more cycles, or look at the thermostat.",
              },
            ]),
      ],
    };
  },
  wait: (rows, { records }) => {
    const cycles = cyclesOf(rowsOf(records, "temperature.cycle"));
    if (cycles.length === 0) return { lines: [{ text: "Time one cycle of the light first." }] };
    const advice = nextWait(cycleStats(cycles), triedOf(rows));
    const say = { next: `Next: wait ${advice.wait} s. `, keep: `Keep ${advice.wait} s. `, other: "" };
    return { lines: [{ text: `${say[advice.kind]}${advice.why}` }] };
  },
  flush: (rows, { spec }) => {
    const target = aim(toleranceFor(spec, "group-temperature") ?? { lower: 91, upper: 96 });
    const advice = flushFor(triesOf(rows), target);
    return {
      lines: [
        {
          text: `Flush ${fix(advice.seconds)}${advice.U === null ? "" : ` ± ${fix(advice.U)}`} s for ${fix(target)} °C. ${advice.why}`,
        },
      ],
    };
  },
  "second-set-point": (_, { records }) => {
    const second = secondOf(records);
    if (!second) return { lines: [{ text: "Read the first set point before." }] };
    const { first, error, set, away, check } = second;
    if (!check)
      return { lines: [{ text: `${fix(away)} °C from the first set point is too near to tell: take one 2 °C away.` }] };
    const said = `Off by ${fix(first.value)} °C at ${fix(first.setPoint)}, by ${fix(error)} °C at ${fix(set)}.`;
    const means = {
      "an offset": "The same error at both: an offset.",
      "not an offset": `${fix(Math.abs(check.difference))} °C apart: an offset cannot explain this. Suspect the probe.`,
      "can't tell": "Too near to tell: read the second once more.",
    }[check.verdict];
    const verdict = { "an offset": "holds", "not an offset": "off", "can't tell": "can't tell" } as const;
    return { lines: [{ text: `${said} ${means}`, verdict: verdict[check.verdict] }] };
  },
  leaks: (rows) => {
    return {
      lines: rows.map((r) => ({
        text: `${WHERE[r.where?.choice ?? ""] ?? "Somewhere"}, ${r.side?.choice ?? "water"} side${CAUSE[r.cause?.choice ?? ""] ?? ""}: ${
          r.after?.choice === "tight" ? "tight after the repair" : "still leaks"
        }.`,
        verdict: r.after?.choice === "tight" ? ("holds" as const) : ("off" as const),
      })),
    };
  },
  "steam-check": (rows, { altitude }) => {
    const row = rows.at(-1)!;
    const air = airPressure(Math.min(5000, Math.max(-500, altitude)));
    const check = steamCheck({
      gauge: value(row, "gauge"),
      uGauge: uOf(row, "gauge", 0.05),
      celsius: value(row, "celsius"),
      uCelsius: uOf(row, "celsius", 0.5),
      air,
    });
    const at = `${fix(value(row, "gauge"), 2)} bar on the gauge and ${fix(1000 * air, 0)} mbar of air (${fix(altitude, 0)} m) boil water at ${fix(check.expected)} °C.`;
    return {
      lines: [
        {
          text: `${at} The thermometer shows ${fix(value(row, "celsius"))}: ${fix(Math.abs(check.difference))} °C ${check.difference < 0 ? "cooler" : "hotter"}, ± ${fix(check.U)} is what both allow.`,
          verdict: check.agree ? "holds" : "off",
        },
        ...check.explanations.map(({ cause, tells }) => ({ text: `${cause}? ${tells}` })),
      ],
    };
  },
  "steam-power": (rows, { kind, spec }) => {
    const row = rows.at(-1)!;
    const power = steamPower({
      liquid: row.liquid?.choice === "water" ? "water" : "milk",
      mass: value(row, "mass"),
      uMass: uOf(row, "mass", 1),
      from: value(row, "from"),
      to: value(row, "to"),
      uTemperature: Math.max(uOf(row, "from", 0.5), uOf(row, "to", 0.5)),
      seconds: value(row, "seconds"),
      uSeconds: uOf(row, "seconds", 0.5),
    });
    const usual = usualSteamWatts(kind.heavy);
    const to = value(row, "to");
    const ends = toleranceFor(spec, "milk-temperature");
    const wrong = row.liquid?.choice !== "water" && ends && (to < (ends.lower ?? 0) || to > (ends.upper ?? 100));
    // Weak only where even what it may be at most is.
    const weak = power.watts + 2 * power.u < WEAK_STEAM * usual;
    return {
      lines: [
        {
          text: `${fix(power.watts, 0)} ± ${fix(2 * power.u, 0)} W of steam; about ${10 * Math.round(usual / 10)} W are usual for this size: ${fix((100 * power.watts) / usual, 0)} % of it.`,
        },
        { text: `A jug (150 g of milk, 5 to 60 °C) takes about ${fix(power.jug, 0)} s.` },
        ...(weak
          ? [
              {
                text: "Weak steam: clean the tip, purge, read the boiler pressure; then scale on the element, or the element.",
              },
            ]
          : []),
        ...(wrong
          ? [{ text: `Milk ends at ${ends.lower ?? 0} to ${ends.upper ?? 100} °C: this one ended at ${fix(to, 0)}.` }]
          : []),
      ],
    };
  },
};

/** Share of the usual power under which steam is called weak. Our choice: jugs, tips and hands differ by a third. */
const WEAK_STEAM = 0.6;
/** The newest second set point against the offset as left; null before there is a first one. */
export function secondOf(records: SheetRecords) {
  const { last } = loopRecord(records, "offset");
  const row = rowsOf(records, "temperature.second").at(-1);
  if (last?.setPoint == null || !row) return null;
  const first = { value: last.value, setPoint: last.setPoint };
  const set = value(row, "set");
  const error = value(row, "water") - set;
  const away = Math.abs(set - first.setPoint);
  const check = away < SECOND_AWAY ? null : secondSetPoint(first.value, error, Math.SQRT2 * last.u);
  return { first, error, set, away, check };
}

/** Every further group is held against the first. */
function meter(rows: Row[], first: MeterFactor | null, group: number): Analysed {
  const fitted = fitMeter(rows.map((r) => ({ pulses: value(r, "pulses"), grams: value(r, "grams") })));
  const lines: Analysed["lines"] = [
    {
      text: `${fix(fitted.K, 3)} ± ${fix(fitted.U, 3)} pulses per ml, ${fix(fitted.start)} ml at each start.`,
    },
    {
      text: `Runs scatter by ${fix(100 * fitted.repeatability)} %; 2 % are allowed.`,
      verdict: fitted.verdict,
    },
  ];
  if (first) {
    const both = compareMeters(first, fitted);
    const percent = `${fix(100 * Math.abs(both.difference))} ± ${fix(100 * both.U)} %`;
    lines.push({
      text:
        both.verdict === "apart"
          ? `The groups are ${percent} apart: the meter of group ${both.worn === 1 ? 1 : group} gives fewer pulses for the same water. Worn or dirty: look at its turbine.`
          : `Group ${group} against group 1: ${percent} apart${both.verdict === "alike" ? ", alike." : ", one more run each would tell."}`,
      verdict: both.verdict === "apart" ? "off" : both.verdict === "alike" ? "holds" : "can't tell",
    });
  }
  return { lines, meter: fitted };
}

const storageRun = (r: Row) => ({
  coffee: r.coffee?.choice === "coffee",
  seconds: value(r, "seconds"),
  cup: r.cup?.value,
  dose: r.dose?.value,
});

type StorageAsked = Pick<AnalyseQuestion, "kind" | "card" | "schools" | "records">;

function storedBy(rows: readonly Row[], { card, schools, records, kind }: StorageAsked) {
  // What the model data say; where they say nothing, what the workshop takes buttons to store.
  const prior =
    card.buttons === "volume" ? 0.9 : card.buttons === "time" ? 0.1 : schools.buttonMeaning === "time" ? 0.3 : 0.7;
  const kept = fitted(rowsOf(records, "volumes.kept").map(keptRun), usualFor(records, kind));
  return storageTest(rows.map(storageRun), prior, kept);
}

/** A button that stores volume lets the same water in with coffee as without: what was not in the cup then was kept. Nobody types it twice. */
function keptByStorage(asked: StorageAsked): KeptRun[] {
  const rows = rowsOf(asked.records, "volumes.storage");
  if (rows.length < 2) return [];
  try {
    return keptBy(rows, storedBy(rows, asked));
  } catch {
    return [];
  }
}

function keptBy(rows: readonly Row[], { verdict }: StorageTest): KeptRun[] {
  const runs = rows.map(storageRun);
  const water = mean(runs, (r) => (r.coffee ? undefined : r.cup));
  if (verdict !== "volume" || water === undefined) return [];
  return runs.flatMap(({ coffee, dose, cup }) =>
    coffee && cup !== undefined && dose !== undefined && cup <= water ? [{ dose, water, cup }] : [],
  );
}

function storage(rows: Row[], question: AnalyseQuestion): Analysed {
  const test = storedBy(rows, question);
  const percent = Math.min(99, Math.max(1, Math.round(100 * test.pVolume)));
  const said =
    test.verdict === "volume"
      ? `It stores volume, ${percent} %.`
      : test.verdict === "time"
        ? `It stores seconds, ${100 - percent} %.`
        : test.verdict === "neither"
          ? "Neither volume nor seconds alone."
          : `Volume ${percent} %, seconds ${100 - percent} %.`;
  const runs = keptBy(rows, test);
  return {
    lines: [
      { text: said },
      ...(test.next ? [{ text: test.next }] : []),
      // Where kept water has a table of its own, it is said there, with these runs in it.
      ...(runs.length > 0 && rowsOf(question.records, "volumes.kept").length === 0 ? keptLines(runs, question) : []),
    ],
  };
}

const keptRun = (r: Row): KeptRun => ({ dose: value(r, "dose"), water: value(r, "water"), cup: value(r, "cup") });

function kept(rows: Row[], question: AnalyseQuestion): Analysed {
  const runs = rows.map(keptRun);
  const lines = keptLines([...keptByStorage(question), ...runs], question);
  // With one of them misread, the others lie off its line too: the furthest is the one to weigh again.
  const furthest = offTheLine(runs, usualFor(question.records, question.kind)).reduce<{
    at: number;
    by: number;
  } | null>((a, b) => (a && Math.abs(a.by) >= Math.abs(b.by) ? a : b), null);
  if (furthest)
    lines.push({
      text: `Row ${furthest.at + 1} lies ${fix(Math.abs(furthest.by))} ml off what the others say: weigh it again, or strike it out.`,
      verdict: "can't tell",
    });
  return { lines };
}

/** What was kept by these runs, and the programme that follows. */
function keptLines(runs: readonly KeptRun[], question: AnalyseQuestion): Analysed["lines"] {
  const { recipe, records, card, kind } = question;
  const usual = usualFor(records, kind);
  const line = fitKept(runs, usual);
  const dose = loopRecord(records, "basket").last?.value ?? runs.at(-1)!.dose;
  const back = keptAt(line, dose);
  const tolerance = recipe.yield;
  const lines: Analysed["lines"] = [
    { text: measuredKept(runs, usual) },
    {
      text: `Kept: ${fix(line.a)} ml + ${fix(line.b, 2)} ml per g, so ${fix(back.value)} ± ${fix(2 * back.u)} ml at ${fix(dose)} g.`,
    },
  ];
  for (let group = 1; group <= kind.groups; group++) {
    const fittedMeter = meterOf(records, group);
    const own = card.programming === "pulses" && fittedMeter ? fittedMeter : null;
    const p = programmeFor({ tolerance, dose, kept: line, meter: own });
    lines.push({
      text: `Programme${kind.groups > 1 ? ` group ${group}` : ""}: ${own ? `${p.amount} pulses` : `${fix(p.amount)} ml`} for ${fix(aim(tolerance), 0)} g in the cup. Expect ${fix(p.expected)} ± ${fix(2 * p.u)} g, ${Math.min(99, Math.round(100 * p.pInside))} % of shots inside.`,
    });
  }
  return lines;
}

/** What the runs themselves measured, and how that differs from what its kind does. */
function measuredKept(runs: readonly KeptRun[], usual: Kept): string {
  const each = runs.map((r) => r.water - r.cup);
  const mean = each.reduce((sum, x) => sum + x, 0) / each.length;
  const kind = runs.reduce((sum, r) => sum + keptAt(usual, r.dose).value, 0) / runs.length;
  const off = mean - kind;
  const usually =
    Math.abs(off) < 1 ? "as its kind does" : `${fix(Math.abs(off))} ml ${off > 0 ? "more" : "less"} than its kind does`;
  return `Measured: ${each.map((x) => fix(x)).join(", ")} ml kept, ${usually}.`;
}

/** The basket worked with: the double’s, where nobody said. */
export const basketOf = (records: SheetRecords): BasketId =>
  chosen(records, "grinder.which") === "single" ? "single" : "double";

/** What is usual of this kind and the basket in use. */
export function usualFor(records: SheetRecords, kind: MachineKind): Kept {
  return usualKept({ drains: kind.threeWayValve, basket: basketOf(records) });
}

/** Water kept back on this machine: its own rows on this sheet, runs of a button that stores volume, and shots whose water in was read; else what its kind does. */
export function keptFrom(asked: StorageAsked, shots: readonly KeptRun[]): Kept {
  const rows = rowsOf(asked.records, "volumes.kept").map(keptRun);
  return fitted([...keptByStorage(asked), ...rows, ...shots], usualFor(asked.records, asked.kind));
}

/** One row that can’t be must not take away what is known of the kind. */
function fitted(runs: readonly KeptRun[], usual: Kept): Kept {
  try {
    return fitKept(runs, usual);
  } catch {
    return usual;
  }
}

function meterOf(records: SheetRecords, group: number): MeterFactor | null {
  const rows = rowsOf(records, `volumes.meter.${group}`);
  try {
    return fitMeter(rows.map((r) => ({ pulses: value(r, "pulses"), grams: value(r, "grams") })));
  } catch {
    return null;
  }
}

/** Each group’s meter as far as it has been fitted on this sheet. */
export function metersOf(records: SheetRecords): ({ K: number; u: number } | null)[] {
  return GROUPS.map((group) => {
    const fitted = meterOf(records, group);
    return fitted && { K: fitted.K, u: Math.max(fitted.u, 0.01 * USUAL_METER.K) };
  });
}

const cyclesOf = (rows: Row[]) => rows.map((r) => ({ on: r.on?.value, off: value(r, "off") }));
const triesOf = (rows: Row[]) => rows.map((r) => ({ seconds: value(r, "seconds"), celsius: value(r, "celsius") }));
const triedOf = (rows: Row[]) =>
  rows.map((r) => ({ wait: value(r, "wait"), taste: (r.taste?.choice ?? "balanced") as Taste }));

/** The steps of a plan as the sheet’s records have it now; null while something is missing, which the message says. */
export function planOf(plan: PlanId, { records, spec }: AnalyseQuestion): { steps: PlanStep[] } | { missing: string } {
  if (plan === "steam") return { steps: steamPlan(figure(records, "steam.heat-up") ?? 80) };
  if (plan === "flush") {
    const target = aim(toleranceFor(spec, "group-temperature") ?? { lower: 91, upper: 96 });
    return { steps: flushPlan(flushFor(triesOf(rowsOf(records, "temperature.flush")), target).seconds) };
  }
  const cycles = cyclesOf(rowsOf(records, "temperature.cycle"));
  if (cycles.length === 0)
    return { missing: "Time one cycle of the light first, or type about how long it rests, like 15 s." };
  const stats = cycleStats(cycles);
  return { steps: cyclePlan(stats, nextWait(stats, triedOf(rowsOf(records, "temperature.wait"))).wait) };
}
