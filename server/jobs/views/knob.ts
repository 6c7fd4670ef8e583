import { dayIn } from "../../../core/day";
import { backToFound, explain, faultsOf, percent } from "../../../core/adjust";
import {
  ASIDE,
  type CauseFound,
  type Figure,
  type KnobStanding,
  type Reading,
  type Result,
  type Standing,
  amountNow,
  counted,
  instrumentAt,
  doseAgain,
  figureOf,
  findingOf,
  flowing,
  isSought,
  instrumentFor,
  lastRepair,
  placeOf,
  resultOf,
  retimed,
  runOf,
  sinceMoved,
  sinceRepair,
  standingShots,
} from "../../../core/job";
import { amountFigure, amountWords, halfDoses, rateAt } from "../../../core/grinder";
import {
  type Loop,
  faultWords,
  isLeftAsIs,
  basketFor,
  learntFrom,
  moduleOf,
  partFor,
  unitOf,
  wordingFor,
} from "../../../core/knobs";
import {
  type KitInstrument,
  type Suitability,
  aim,
  compare,
  judge,
  outOfDate,
  suitability,
} from "../../../core/metrology";
import { flowingTest } from "../../../core/pressure";
import { formatFigure, formatQuantity, formatUncertainty, unitById, unitsOf } from "../../../core/quantity";
import { type Task, closedBefore, isDone, notWarm, readingRuns, rowsOf, standsOf, tasksNow } from "../../../core/sheet";
import { learnDrip, teachWords } from "../../../core/volume";
import type { SignedIn } from "../../auth";

export type LoopView = ReturnType<typeof loopView>;
export type LoopBrief = ReturnType<typeof loopBrief>;

const MINUTE = 60_000;

/** What a list of stations says of a knob: found, left, how many moves. */
export function loopBrief(at: KnobStanding, standing: Standing, pressureUnit: string) {
  const { loop, log, record } = at;
  const runs = readingRuns(record.events);
  const stands = standsOf(loop, record);
  const finding = findingOf(standing.job, loop.id, lastRepair(log));
  return {
    id: loop.id,
    title: loop.title,
    unit: unitOf(loop, pressureUnit),
    tolerance: loop.tolerance,
    runs,
    /** What was found is known well enough to go on from. */
    found: stands.known,
    /** Readings still asked for where it stands, in words; "" where none is. */
    more: readingsMore(stands.more),
    asFound: shown(resultOf(at, "as-found", standing)),
    asLeft: runs.touched || standing.job.state === "signed" ? shown(resultOf(at, "as-left", standing)) : null,
    accepted: record.accepted,
    brew: loop.with.brew ?? false,
    adjustable: loop.knob !== null,
    finding: finding ? { fault: finding.fault, text: finding.text } : null,
  };
}

/** What the screen draws of a result. */
const shown = (result: Result | null) =>
  result && {
    value: result.value,
    U: result.U,
    resolution: result.resolution,
    verdict: result.verdict,
    count: result.count,
  };

/** A knob as the instrument zone shows it: figure, limits, next move, what to read with, the log. */
export function loopView(
  at: KnobStanding,
  standing: Standing,
  instruments: readonly KitInstrument[],
  { who, now }: { who: SignedIn; now: number },
) {
  const { loop, log, stop } = at;
  const { job, card } = standing;
  const { reads, byHand } = moduleOf(loop.at.knob);
  const pressureUnit = who.preferences.pressureUnit;
  const brief = loopBrief(at, standing, pressureUnit);
  const today = dayIn(job.zone, now);
  const readings = log.flatMap((line) => (line.kind === "reading" ? [line.row] : []));
  const fitting = instruments.filter(
    (g) => g.quantity === reads.quantity && (loop.places.length === 0 || loop.places.includes(g.place)),
  );
  // Against a closed tap only a gauge on the pump side sees the pump; with it open the one from before is taken again.
  const tapClosed = isTapClosed(loop, standing);
  const last = readings.findLast((r) => tapClosed || r.detail.tap !== "closed") ?? readings.at(-1);
  const away = tapClosed ? fitting.filter((g) => g.place !== "group") : [];
  const seeing = away.length > 0 ? away : fitting;
  const { action } = at.advice ?? {};
  const asksFiner =
    (action?.kind === "recheck" && action.reason === "finer-first") ||
    (action?.kind === "fault" && isLeftAsIs(action.fault));
  const finer = asksFiner ? fitting.find((g) => g.name === last?.detail.finer) : undefined;
  const lastGauge = finer ?? (tapClosed && last?.place === "group" ? undefined : last?.instrument);
  const resolution = lastGauge?.resolution ?? seeing[0]?.resolution ?? 0.1;
  const current = resultOf(at, brief.runs.touched ? "as-left" : "as-found", standing);
  const moved = log.findLast((line) => line.kind === "move" && line.stands);
  return {
    ...brief,
    shows: loop.shows,
    quantity: reads.quantity,
    dimension: reads.dimension,
    judged: loop.judged,
    typedUnit: reads.dimension === "pressure" ? pressureUnit : unitsOf(reads.dimension)[0]!.id,
    places: loop.places,
    tapClosed,
    /** Where the gauge in hand sat for the last reading: it stays there until somebody says otherwise. */
    lastPlace: finer ? finer.place : lastGauge ? (last?.place ?? null) : null,
    ran: loop.with.ran === true,
    dosed: loop.with.dosed === true,
    basket: readings.findLast((r) => r.detail.basket)?.detail.basket ?? basketFor(standing.recipe.dose.target),
    /** The first half of a dose that was weighed last, in words; "" where no second one is waited for. */
    firstHalf: firstHalf(log, loop),
    taught: loop.with.taught === true,
    locked: lockedBy(at, standing),
    onDial: onDial(at, standing, pressureUnit),
    how: loop.how,
    dial: loop.with.brew === true && card.dial !== null,
    band: bandView(at, standing),
    setPoint: loop.with.setPoint ? { last: readings.at(-1)?.detail.setPoint ?? null } : null,
    amount: amountView(at, standing),
    byHand: (current && byHand?.(current.value, loop.tolerance)) ?? "",
    curves: reads.quantity === "temperature",
    curve: readings.findLast((r) => r.detail.curve)?.detail ?? null,
    settle: loop.settle,
    settleUntil: loop.settle > 0 && moved ? moved.row.at.getTime() + loop.settle * MINUTE : null,
    trapped: loop.trapsPressure ?? false,
    stopped: stop !== null,
    hand: loop.hand,
    resolution,
    lastGaugeId: lastGauge?.id ?? null,
    /** The next reading is asked for with a finer instrument, which is the one in hand. */
    asksFiner: finer !== undefined,
    gauges: fitting.map((g) => ({
      id: g.id,
      /** It can see the pump as the taps stand now. */
      sees: seeing.includes(g),
      name: g.name,
      place: g.place,
      lowest: g.lowest,
      highest: g.highest,
      resolution: g.resolution,
      outOfDate: outOfDate(g, today),
      dueOn: g.dueOn ?? null,
      ...finenessOf(g, loop, standing, pressureUnit),
    })),
    log: log.map((line) => {
      const common = {
        id: line.row.id,
        stands: line.stands,
        by: line.row.by,
        at: line.row.at.toISOString(),
        reason: line.row.reason,
      };
      if (line.kind === "move") return { ...common, kind: line.kind, amount: line.row.amount };
      if (line.kind === "repair") return { ...common, kind: line.kind, text: line.row.text };
      if (line.kind === "grind") return { ...common, kind: line.kind, from: line.row.from, to: line.row.to };
      const { instrument, typed, indicated, value, early, detail } = line.row;
      return {
        ...common,
        kind: line.kind,
        aside: line.aside ? `${ASIDE[line.aside]}: not counted` : "",
        excluded:
          line.excluded?.value.form === "struck" ? { id: line.excluded.id, why: line.excluded.value.reason } : null,
        gauge: instrument.name,
        gaugeId: instrument.id,
        typed,
        indicated,
        value,
        resolution: instrument.resolution,
        early: early ? notWarm(standing.records, job.level, line.row.at.getTime()) : "",
        place: line.row.place,
        typedAs: line.row.typed,
        /** As it was typed on the gauge, where what is judged is carried over from there. */
        shown: line.row.toGroup === 0 ? null : line.row.indicated,
        typedUnit: line.row.unit,
        toGroup: line.row.toGroup,
        detail,
      };
    }),
    advice: adviceView(at, standing, { pressureUnit, resolution, moment: now }),
    learnt: job.learnt[loop.id] ? learntFrom(job.learnt[loop.id]!) : null,
    chart: chartOf(at),
    // While one reading is doubted, and read again, nothing is said of the instruments.
    disagree: isDoubted(at) ? "" : disagreement(current, unitOf(loop, pressureUnit), resolution),
    flowing: flowingView(at, standing, current),
    spread: reads.called && current?.sd != null ? { sd: current.sd, of: reads.called } : null,
  };
}

function amountView({ loop, log, advice }: KnobStanding, { timed }: Standing) {
  const { amount } = loop.with;
  if (!amount) return null;
  const now = amountNow(log, loop);
  const { action } = advice ?? {};
  const again = amount.grind && timed ? retimed(log, loop, timed) : null;
  const to = action?.kind === "move" && now !== null ? now + action.amount : null;
  return {
    ...amount,
    now: again?.seconds ?? (now === null ? "" : amountFigure(amount.kind, now)),
    to: to === null ? "" : amountWords(amount.kind, to),
    setting: amount.grind && timed && log.length > 0 ? String(timed.setting) : "",
    retime: again?.words ?? doseAgain(log),
    rate: amount.grind && timed && timed.rate.doses > 0 ? rateWords(timed) : "",
  };
}

function rateWords({ rate, setting }: NonNullable<Standing["timed"]>): string {
  const { mean, u } = rateAt(rate, setting);
  return `${mean.toFixed(2)} ± ${(2 * u).toFixed(2)} g/s at ${setting}, from ${rate.doses} ${rate.doses === 1 ? "dose" : "doses"}.`;
}

/** The tick that comes before this knob is moved, in words; "" where nothing stands in the way. */
function lockedBy({ loop }: KnobStanding, standing: Standing): string {
  const { plan, records } = standing;
  const shut = closedBefore(standing, loop.id);
  if (shut) return shut;
  const station = plan.find((s) => s.tasks.some((t) => t.kind === "adjust" && t.loop === loop.id));
  const due = station ? tasksNow(station, records) : [];
  const at = due.findIndex((t) => t.kind === "adjust");
  const open = due.slice(0, Math.max(0, at)).find((t) => t.kind === "tick" && !t.optional && !records.values.has(t.id));
  return open && !station!.hardStop ? `First tick on the sheet: ${open.label}.` : "";
}

/** The reading last taken is likely old or a slip, by what the same instrument showed here before. */
function isDoubted({ advice, log }: KnobStanding): boolean {
  if (advice?.action.kind !== "recheck" || !["contradiction", "disagree", "unsettled"].includes(advice.action.reason))
    return false;
  const rows = runOf(log, "as-left");
  return rows.filter((r) => r.instrument.id === rows.at(-1)!.instrument.id).length > 1;
}

/** The tap before the group stands closed: what is read sees OPV and pump alone. */
const isTapClosed = ({ with: { brew } }: KnobStanding["loop"], { records }: Standing) =>
  brew === true && records.values.has("tap.closed");

/** What a gauge shows more than the group has, bar: by its place, and by what it showed beside a gauge at the group. */
const dialAdds = (row: Reading, advice: KnobStanding["advice"]) =>
  (advice?.belief?.biases.get(instrumentAt(row))?.mean ?? 0) - row.toGroup;

/** What the machine’s own dial must show for the target at the group, where it does not sit there. */
function onDial({ loop, log, advice }: KnobStanding, { job }: Standing, pressureUnit: string): string {
  const { place, toGroup } = job.particulars.gauge;
  if (!loop.with.brew || (place !== "pump" && place !== "flow") || toGroup === 0) return "";
  const { lower, upper } = loop.tolerance;
  if (lower === undefined || upper === undefined) return "";
  const unit = unitById(pressureUnit);
  const own = log.findLast(
    (l) => l.kind === "reading" && l.stands && l.row.place === place && l.row.toGroup === toGroup,
  );
  const range = (by: number) => `${formatFigure(lower + by, 0.1, unit)} to ${formatQuantity(upper + by, 0.1, unit)}`;
  return `On the machine’s own gauge (${place === "pump" ? "pump side" : "behind the flow control"}): ${range(own?.kind === "reading" ? dialAdds(own.row, advice) : -toGroup)}. At the group: ${range(0)}.`;
}

/** A button that is only taught is taught directly: stop by the scale. Its chance is said only where it is better than even. */
function teachingOf({ loop, log }: KnobStanding, { job, records, recipe }: Standing) {
  const rows = rowsOf(records, "volumes.drip").flatMap((r) =>
    r.atStop?.value === undefined || r.cup?.value === undefined ? [] : [{ atStop: r.atStop.value, inCup: r.cup.value }],
  );
  const pulls = standingShots(job).flatMap(({ pull: p }) =>
    p.atStop === undefined || p.yield === null ? [] : [{ atStop: p.atStop, inCup: p.yield }],
  );
  const target = aim(loop.tolerance);
  const timed = log.findLast((l) => l.kind === "reading" && l.stands && l.row.detail.seconds !== undefined);
  const shot = standingShots(job).findLast((s) => s.pull.yield !== null && !s.pull.choked);
  const seconds =
    timed?.kind === "reading" && timed.row.value > 0
      ? (timed.row.detail.seconds! * target) / timed.row.value
      : shot
        ? (shot.pull.seconds * target) / shot.pull.yield!
        : loop.at.button === "double"
          ? recipe.seconds.target
          : null;
  return teachWords(loop.title, loop.tolerance, learnDrip([...rows, ...pulls]), seconds);
}

/** A label in the middle of a sentence; names in capitals stay. */
const inSentence = (label: string) =>
  /^[A-Z]{2}/.test(label) ? label : label.charAt(0).toLowerCase() + label.slice(1);

/** What somebody has begun to look for is looked for on: the likeliest cause, and the check that tells most. */
function soughtFor(cause: CauseFound | null) {
  if (!cause || !isSought(cause)) return null;
  const [first] = cause.ranked;
  const { next, named } = cause;
  return {
    likeliest: `Likeliest by the checks so far: ${inSentence(first!.cause.label)}, ${percent(first!.probability)}.`,
    checks: next ? [`${next.check.label}: ${next.check.how}`] : [(named ?? first!.cause).remedy],
  };
}

/** The next move; where a rule of the trade has ended the test, that stop in its own words. */
function adviceView(
  knob: KnobStanding,
  standing: Standing,
  { pressureUnit, resolution, moment }: { pressureUnit: string; resolution: number; moment: number },
) {
  const { loop, log, question, advice, stop, record } = knob;
  const { job } = standing;
  if (!question || !advice) return null;
  const { action, belief } = advice;
  const now = belief && { value: belief.value, sd: belief.sd, pInside: belief.pInside };
  const none = { amount: null, expected: null, reason: null };
  if (stop) {
    const { headline, means, checks, part, id } = stop;
    return {
      ...none,
      kind: "fault" as const,
      headline,
      expect: means,
      why: [],
      checks: [...checks],
      part,
      fault: id,
      now,
    };
  }
  const rows = log.flatMap((line) => (line.kind === "reading" && line.stands ? [line.row] : []));
  const row = rows.at(-1);
  const finer = row?.detail.finer;
  // What to expect is said on the gauge that is read next: against the closed tap, the one on the pump side.
  const onNext = (isTapClosed(loop, standing) && rows.findLast((r) => r.toGroup !== 0)) || row;
  const dial =
    onNext && onNext.toGroup !== 0 ? { add: dialAdds(onNext, advice), name: named(onNext.instrument) } : undefined;
  const words = {
    ...wordingFor(loop, pressureUnit, resolution, job.learnt[loop.id], amountNow(log, loop)),
    ...(finer ? { finer } : {}),
    ...(dial ? { dial } : {}),
  };
  const said = explain(advice, question, words);
  const even = action.kind === "move" && action.expected.pInside >= 0.5;
  const taught = action.kind === "move" && loop.with.taught ? teachingOf(knob, standing) : null;
  if (action.kind === "accept") said.headline = inSpec(knob, standing, moment);
  if (action.kind === "recheck" && action.reason === "finer-first")
    said.headline = `Read with ${record.finer} before anything is ${loop.opens ? "opened" : "adjusted"}.`;
  if (action.kind === "recheck" && action.reason === "open-tap" && !isTapClosed(loop, standing))
    said.headline = finer ? `Read at the group with ${finer}.` : "Read at the group.";
  if (taught) Object.assign(said, { headline: taught.headline, expect: taught.expect, why: even ? said.why : [] });
  const faults = action.kind === "fault" ? faultsOf(action) : [];
  const back = action.kind === "fault" ? backToFound(action, question, words) : null;
  const sought = action.kind === "fault" && action.fault === "look-first" ? soughtFor(knob.cause) : null;
  if (sought) said.expect = `${said.expect} ${sought.likeliest}`;
  return {
    ...none,
    kind: action.kind,
    ...said,
    /** Signed in the hand’s sense, as the log keeps it. */
    amount: action.kind === "move" ? action.amount * (loop.hand?.sign ?? 1) : null,
    expected: action.kind === "move" ? action.expected : null,
    reason: action.kind === "recheck" ? action.reason : null,
    checks: [
      ...(sought?.checks ?? faults.flatMap((fault) => faultWords(loop.at.knob, fault).checks)),
      ...(back ? [back] : []),
    ],
    part: partFor(loop.at.knob, faults),
    fault: action.kind === "fault" ? action.fault : null,
    now,
  };
}

/** What the first half weighed, and what the second has to be after the press. */
function firstHalf(log: KnobStanding["log"], { tolerance }: Loop): string {
  const last = log.findLast((l) => l.kind === "reading" && l.stands);
  if (last?.kind !== "reading" || last.row.detail.half !== 1) return "";
  const grams = (g: number) => formatQuantity(g, last.row.instrument.resolution, unitsOf("mass")[0]!);
  const { value } = last.row;
  const wanted = aim(tolerance);
  if (value >= wanted)
    return `First half ${grams(value)}: the whole dose already. Spoon some out, or type what it was trimmed to.`;
  return `First half ${grams(value)}. Press, then ${grams(halfDoses(wanted, value).second)} more.`;
}

/** A machine’s own gauge in the middle of a sentence. */
const named = ({ name }: KitInstrument) => (name.startsWith("The ") ? `t${name.slice(1)}` : name);

/** In spec, and what its stations still ask for before they are done: the sheet and the gauge say the same. */
function inSpec({ loop, record }: KnobStanding, { plan, records, loops }: Standing, now: number): string {
  const at = { records, now, loops: loops.map((l) => l.loop) };
  const isOf = (t: Task) => (t.kind === "loop" || t.kind === "readings" || t.kind === "adjust") && t.loop === loop.id;
  const open = plan
    .map((station) => tasksNow(station, records))
    .filter((tasks) => tasks.some(isOf))
    .flatMap((tasks) => tasks.filter((t) => !t.optional && !isDone(t, at)));
  const next = open[0];
  if (!next) return "In spec. Done.";
  if (!isOf(next)) return `In spec. Next: ${next.label}.`;
  const more = readingsMore(standsOf(loop, record).more);
  return more === "" ? "In spec." : `In spec. Take ${more}.`;
}

/** "1 more reading"; "" for none. */
const readingsMore = (more: number) => (more === 0 ? "" : `${more} more ${more === 1 ? "reading" : "readings"}`);

/** Said before it is used: whether this instrument can decide, and what would. */
function finenessOf(g: KitInstrument, loop: Loop, { job, kind }: Standing, pressureUnit: string) {
  const { toGroup, toGroupU } = job.particulars.gauge;
  const level = loop.with.setPoint
    ? { lower: 93 + loop.tolerance.lower!, target: 93, upper: 93 + loop.tolerance.upper! }
    : loop.tolerance;
  const s = suitability(
    instrumentFor(g, { scatter: 0, judged: loop.judged }, kind.pump),
    level,
    new Date(),
    placeOf({ place: g.place, toGroup, toGroupU }),
  );
  return { fineness: s.fineness, finenessWords: finenessWords(s, g, loop, pressureUnit) };
}

function finenessWords(s: Suitability, g: KitInstrument, loop: Loop, pressureUnit: string): string {
  if (s.fineness === "fine" || s.fineness === "open" || s.ratio === undefined) return "";
  const unit = unitById(unitOf(loop, pressureUnit));
  const show = (x: number) => `${formatUncertainty(x, Math.min(g.resolution, 0.1), unit)} ${unit.symbol}`;
  const half = s.ratio * s.U;
  const says = s.fineness === "too-coarse" ? "Too coarse to decide" : "Coarse";
  const would = s.wouldDo
    ? `One with a limit of error of ${show(s.wouldDo.limit)} would do${s.wouldDo.percentOfSpan && g.quantity === "pressure" ? `, class ${s.wouldDo.percentOfSpan} on this span` : ""}.`
    : `For a tolerance of ± ${show(half)} use a gauge with finer divisions.`;
  return `${says}: accuracy ${show(s.U)}, tolerance ${show(half)}. ${would}`;
}

/** Reading against where the knob stood, since it was repaired, with the response learnt: what the chart draws. */
function chartOf({ loop, log, advice }: KnobStanding) {
  let at = 0;
  const points: { at: number; value: number; u: number }[] = [];
  for (const line of counted(sinceMoved(sinceRepair(log)))) {
    if (line.kind === "move") at += line.row.amount;
    else if (line.kind === "reading" && !line.aside) points.push({ at, value: line.row.value, u: line.row.u });
  }
  const response = advice?.belief?.response;
  return {
    points,
    at,
    line:
      response && loop.knob
        ? { mean: response.mean * loop.knob.direction * (loop.hand?.sign ?? 1), sd: response.sd }
        : null,
    now: advice?.belief ? { value: advice.belief.value, sd: advice.belief.sd } : null,
  };
}

function bandView({ loop, log }: KnobStanding, { job }: Standing) {
  const { band } = loop.with;
  if (!band) return null;
  const { limits: tolerance, off } = band;
  const last = runOf(log, "as-left").at(-1);
  if (last?.detail.cutIn === undefined) return { tolerance, off, now: null };
  const width = last.indicated - last.detail.cutIn;
  // Both points by one gauge at one sitting: only its resolution stands between them.
  const u = (last.instrument.resolution * Math.SQRT2) / Math.sqrt(12);
  const { verdict } = judge({ value: width, u, U: 2 * u }, tolerance, job.rule);
  return {
    tolerance,
    off,
    now: { cutIn: last.detail.cutIn, cutOut: last.indicated, band: width, U: 2 * u, verdict },
  };
}

function disagreement(current: Figure | null, unitId: string, resolution: number): string {
  const [a, b] = current?.parts ?? [];
  if (!a || !b) return "";
  const d = compare(a, b);
  if (d.agree) return "";
  const unit = unitById(unitId);
  const show = (x: number) => `${formatUncertainty(Math.abs(x), resolution, unit)} ${unit.symbol}`;
  return `${a.name} and ${b.name} disagree: ${show(d.difference)} apart, ${show(d.U)} is what both allow. One of them is wrong: read with a third, or exclude one by correcting its readings.`;
}

function flowingView({ loop, log }: KnobStanding, { kind }: Standing, current: Figure | null) {
  const read = figureOf(flowing(log).slice(-2), loop, kind.pump);
  if (!read || !current) return null;
  const own = (figure: Figure) => figure.u / Math.SQRT2;
  return {
    ...flowingTest({ static: current.value, flowing: read.value, u: Math.hypot(own(read), own(current)) }),
    value: read.value,
  };
}
