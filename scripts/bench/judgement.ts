import { table } from "./measure";
import { POPULATIONS as GRINDERS, runDialIn } from "./judgement/dial-in";
import { runOracle } from "./judgement/oracle";
import { storageRuns } from "./judgement/storage";
import { GAUGES, type Verdicts, byTenth, verdictsOf } from "./judgement/verdicts";
import { OTHERS, OUTSIDE, POPULATIONS as VALVES, runValves } from "./judgement/valves";

/**
 * How good the advice is, on made-up machines that it was not made for: seeded, from core and its twins alone. Beside it what an oracle
 * needs that knows the population. Nothing passes or fails here.
 */

const N = Number(process.env.MACHINES ?? 300);
const SEED = 0.619;
const percent = (x: number, of: number) => (of === 0 ? "–" : ((100 * x) / of).toFixed(1));
const mean = (x: number, of: number) => (x / of).toFixed(2);

const stated: [number, boolean][] = [];
const valves = [
  [
    "knobs",
    "moves",
    "readings",
    "rightly ended %",
    "false accepts %",
    "other fault",
    "no end",
    "needless moves",
    "worse by 0.6",
    "ms a call",
  ],
];
for (const of of [...VALVES, ...OTHERS, ...OUTSIDE]) {
  const start = performance.now();
  const t = runValves(of, N, SEED);
  // What is stated holds for machines as they come, not for those that were made to stand at a limit.
  if (of.right === "accept" && !OUTSIDE.includes(of)) stated.push(...t.stated);
  valves.push([
    of.name,
    mean(t.moves, N),
    mean(t.readings, N),
    percent(t.right, N),
    percent(t.falseAccepts, t.accepts),
    String(t.otherFault),
    String(t.endless),
    String(t.needless),
    String(t.worse),
    ((performance.now() - start) / t.readings).toFixed(1),
  ]);
}
/** Optima of sound ones, where they can be worked out: they know the very population, and their readings are never old. */
const oracleOf = (name: string, known: Parameters<typeof runOracle>[0]) => {
  const best = runOracle(known, N, SEED);
  valves.push([
    `${name}, by an oracle that knows them`,
    best.moves.toFixed(2),
    best.readings.toFixed(2),
    "",
    percent(best.wrong, 1),
    "",
    "",
    "",
    "",
    "",
  ]);
};
const steps = (most: number, size: number) =>
  Array.from({ length: 2 * most }, (_, i) => (i < most ? i - most : i - most + 1) * size);
const either = (random: () => number, least: number, more: number) =>
  (random() < 0.5 ? -1 : 1) * (least + more * random());
oracleOf("sound", {
  particles: 2000,
  draw: (random, normal) => ({
    value: 9 + either(random, 0.6, 2.4),
    response: Math.max(0.4, 2 + 0.7 * normal()),
  }),
  noise: 0.15,
  scatter: 0.03,
  lower: 8.5,
  upper: 9.5,
  moves: steps(16, 1 / 8),
  accept: 0.95,
});
oracleOf("offset", {
  particles: 2000,
  draw: (random, normal) => ({ value: either(random, 1.3, 3), response: Math.max(0.5, 1 + 0.1 * normal()) }),
  noise: 0.3,
  scatter: 0,
  lower: -1,
  upper: 1,
  moves: steps(8, 1),
  accept: 0.95,
});
oracleOf("pulses", {
  particles: 2000,
  draw: (random, normal) => ({ value: 36 + either(random, 3, 9), response: 0.5 * Math.exp(0.24 * normal()) }),
  noise: 1.2,
  scatter: 0,
  lower: 34,
  upper: 38,
  moves: steps(40, 1),
  accept: 0.95,
});
console.log(`\nKnobs, ${N} of each\n${table(valves)}`);

const tenths = [["stated at acceptance", "times", "so %"]];
for (let from = 0.95; from < 1; from += 0.01) {
  const here = stated.filter(([p]) => p >= from && p < from + 0.01);
  if (here.length > 0)
    tenths.push([
      `${from.toFixed(2)} to ${(from + 0.01).toFixed(2)}`,
      String(here.length),
      percent(here.filter(([, so]) => so).length, here.length),
    ]);
}
console.log(`\nWhat is stated, and what is so\n${table(tenths)}`);

const verdicts = [["verdicts of two readings", "rule", "decided %", "false accepts %", "false rejects %"]];
const guarded: Verdicts[] = [];
for (const of of GAUGES)
  for (const rule of ["guarded", "simple"] as const) {
    const v = verdictsOf(of, rule, 10 * N, SEED);
    if (rule === "guarded") guarded.push(v);
    verdicts.push([
      of.name,
      rule,
      percent(10 * N - v.open, 10 * N),
      percent(v.falseAccepts, v.inside),
      percent(v.falseRejects, v.outside),
    ]);
  }
console.log(`\nVerdicts, ${10 * N} of each\n${table(verdicts)}`);
console.log(
  `\nP(inside) as stated, and what is so\n${table([["stated", "times", "mean stated %", "so %"], ...byTenth(guarded)])}`,
);

const grinders = [
  ["dialling in", "moves", "shots", "false keeps %", "said not to reach %", "moves of the dose", "no end", "ms a call"],
];
for (const of of GRINDERS) {
  const start = performance.now();
  const t = runDialIn(of, N, SEED);
  grinders.push([
    of.name,
    mean(t.moves, N),
    mean(t.shots, N),
    percent(t.falseKeeps, N),
    percent(t.namedReach, N),
    mean(t.doses, N),
    String(t.unended),
    ((performance.now() - start) / t.shots).toFixed(1),
  ]);
}
const [low, high] = [Math.log(25), Math.log(30)];
const grindOracle = runOracle(
  {
    particles: 2000,
    draw: (_, normal) => ({
      value: Math.log(27.4) + 0.47 * normal(),
      response: 0.12 * Math.exp(0.385 * normal() - 0.074),
    }),
    noise: 0.062,
    scatter: 0,
    lower: low,
    upper: high,
    moves: Array.from({ length: 60 }, (_, i) => (i < 30 ? i - 30 : i - 29)),
    accept: 0.94,
  },
  N,
  SEED,
);
grinders.push([
  "25 to 30 s, by an oracle that knows them",
  grindOracle.moves.toFixed(2),
  grindOracle.readings.toFixed(2),
  percent(grindOracle.wrong, 1),
  "",
  "",
  "",
  "",
]);
console.log(`\nDialling in, ${N} of each\n${table(grinders)}`);

const storage = [["what the button stores", "right %", "left open %", "neither %", "wrong %"]];
for (const way of ["volume", "time", "wets first"] as const) {
  const said = storageRuns(way, 4 * N, SEED);
  storage.push(
    [way, said.right, said.open, said.neither, said.wrong].map((x) => (typeof x === "number" ? percent(x, 4 * N) : x)),
  );
}
console.log(`\nStorage test, ${4 * N} of each, two runs without coffee and two with\n${table(storage)}`);
