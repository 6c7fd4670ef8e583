import { explain } from "../../core/adjust";
import { amountFigure, amountWords, overUnder, rateAt } from "../../core/grinder";
import { type Loop, READS, faultWords } from "../../core/loop";
import { type Suitability, compare, judge, outOfDate, suitability } from "../../core/metrology";
import { flowingTest } from "../../core/pressure";
import { formatUncertainty, unitById, unitsOf } from "../../core/quantity";
import { readingRuns } from "../../core/sheet";
import type { SheetRow } from "../../db/queries/jobs";
import type { SignedIn } from "../auth";
import { amountNow, retimed } from "./coffee";
import { type Summary, instrumentOf, placeOf, runOf, standing, summarise } from "./events";
import { judged } from "./judged";
import type { LoopStand, Stand } from "./stand";
import { learntFrom, unitOf, wordingFor } from "./wording";

export type LoopView = ReturnType<typeof loopView>;
export type LoopBrief = ReturnType<typeof loopBrief>;
/** With who read and who turned. */
export type FullLoop = LoopStand<SheetRow["readings"][number], SheetRow["adjustments"][number]>;
type GaugeRow = SheetRow["machine"]["instruments"][number];

const MINUTE = 60_000;

/** What a list of stations says of a loop: found, left, how many moves. */
export function loopBrief(at: LoopStand, stand: Stand, row: SheetRow, pressureUnit: string) {
  const { loop, entries, record } = at;
  const runs = readingRuns(record.events);
  const point = (which: "as-found" | "as-left") =>
    judged(summarise(runOf(entries, which), loop, stand.kind.pump), loop.tolerance, row.decisionRule);
  const finding = row.findings.find((f) => f.loop === loop.id);
  return {
    id: loop.id,
    title: loop.title,
    unit: unitOf(loop, pressureUnit),
    tolerance: loop.tolerance,
    needed: loop.needed,
    runs,
    asFound: point("as-found"),
    asLeft: runs.moves > 0 || row.state === "signed" ? point("as-left") : null,
    accepted: record.accepted,
    adjustable: loop.knob !== null,
    finding: finding ? { fault: finding.fault, text: finding.text } : null,
  };
}

/** A loop as the instrument zone shows it: figure, limits, next move, what to read with, the log. */
export function loopView(
  at: FullLoop,
  stand: Stand,
  row: SheetRow,
  instruments: readonly GaugeRow[],
  { who, now }: { who: SignedIn; now: number },
) {
  const { loop, entries, record } = at;
  const pressureUnit = who.preferences.pressureUnit;
  const brief = loopBrief(at, stand, row, pressureUnit);
  const today = new Date(now).toISOString().slice(0, 10);
  const readings = entries.flatMap((e) => (e.kind === "reading" ? [e.row] : []));
  const fitting = instruments.filter(
    (g) => g.quantity === READS[loop.id].quantity && (loop.places.length === 0 || loop.places.includes(g.place)),
  );
  const lastGauge = readings.at(-1)?.instrument;
  const resolution = lastGauge?.resolution ?? fitting[0]?.resolution ?? 0.1;
  const current = brief.runs.moves > 0 ? summariseLast(at, stand) : brief.asFound;
  const moved = entries.findLast((e) => e.kind === "move" && e.stands);
  return {
    ...brief,
    shows: loop.shows,
    quantity: READS[loop.id].quantity,
    dimension: READS[loop.id].dimension,
    judged: loop.judged,
    typedUnit: READS[loop.id].dimension === "pressure" ? pressureUnit : unitsOf(READS[loop.id].dimension)[0]!.id,
    places: loop.places,
    how: loop.how,
    brew: loop.with.brew ?? false,
    dial: loop.with.brew === true && stand.card.dial !== null,
    band: bandView(at, row),
    setPoint: loop.with.setPoint ? { last: readings.at(-1)?.detail.setPoint ?? null } : null,
    amount: amountView(at, stand),
    overUnder: loop.id === "basket" && current ? (overUnder(current.value, loop.tolerance) ?? "") : "",
    curves: READS[loop.id].quantity === "temperature",
    curve: readings.findLast((r) => r.detail.curve)?.detail ?? null,
    settle: loop.settle,
    settleUntil: loop.settle > 0 && moved ? moved.row.at.getTime() + loop.settle * MINUTE : null,
    trapped: loop.id === "opv" && !stand.kind.threeWayValve,
    noReturn: record.noReturn,
    hand: loop.hand,
    resolution,
    lastGaugeId: lastGauge?.id ?? null,
    gauges: fitting.map((g) => ({
      id: g.id,
      name: g.name,
      place: g.place,
      lowest: g.lowest,
      highest: g.highest,
      resolution: g.resolution,
      outOfDate: outOfDate(g, today),
      dueOn: g.dueOn,
      ...finenessOf(g, loop, row, pressureUnit),
    })),
    log: entries.map((e) =>
      e.kind === "reading"
        ? {
            kind: e.kind,
            id: e.row.id,
            stands: e.stands,
            by: e.row.reader.name,
            at: e.row.at.toISOString(),
            gauge: e.row.instrument.name,
            typed: e.row.typed,
            indicated: e.row.indicated,
            value: e.row.value,
            resolution: e.row.instrument.resolution,
            reason: e.row.reason,
            early: e.row.early,
            detail: e.row.detail,
          }
        : {
            kind: e.kind,
            id: e.row.id,
            stands: e.stands,
            by: e.row.turner.name,
            at: e.row.at.toISOString(),
            amount: e.row.amount,
            reason: e.row.reason,
          },
    ),
    advice: adviceView(at, row, pressureUnit, resolution),
    learnt: row.learnt[loop.id] ? learntFrom(row.learnt[loop.id]!) : null,
    chart: chartOf(at),
    disagree: disagreement(current, unitOf(loop, pressureUnit), resolution),
    flowing: flowingView(at, stand, current),
    spread: READS[loop.id].quantity === "mass" && current?.sd != null ? current.sd : null,
  };
}

function amountView({ loop, entries, advice }: LoopStand, { timed }: Stand) {
  const { amount } = loop.with;
  if (!amount) return null;
  const now = amountNow(entries, loop);
  const { action } = advice ?? {};
  const again = amount.grind && timed ? retimed(entries, loop, timed) : null;
  const to = action?.kind === "move" && now !== null ? now + action.amount : null;
  return {
    ...amount,
    now: again?.seconds ?? (now === null ? "" : amountFigure(amount.kind, now)),
    to: to === null ? "" : amountWords(amount.kind, to),
    setting: amount.grind && timed && entries.length > 0 ? String(timed.setting) : "",
    retime: again?.words ?? "",
    rate: amount.grind && timed && timed.rate.doses > 0 ? rateWords(timed) : "",
  };
}

function rateWords({ rate, setting }: NonNullable<Stand["timed"]>): string {
  const { mean, u } = rateAt(rate, setting);
  return `${mean.toFixed(2)} ± ${(2 * u).toFixed(2)} g/s at ${setting}, from ${rate.doses} ${rate.doses === 1 ? "dose" : "doses"}.`;
}

function summariseLast({ loop, entries }: LoopStand, { kind }: Stand): Summary | null {
  return summarise(runOf(entries, "as-left"), loop, kind.pump);
}

function adviceView({ loop, question, advice }: LoopStand, row: SheetRow, pressureUnit: string, resolution: number) {
  if (!question || !advice) return null;
  const { action, belief } = advice;
  const said = explain(advice, question, wordingFor(loop, pressureUnit, resolution, row.learnt[loop.id]));
  return {
    kind: action.kind,
    ...said,
    /** Signed in the hand’s sense, as the log keeps it. */
    amount: action.kind === "move" ? action.amount * (loop.hand?.sign ?? 1) : null,
    expected: action.kind === "move" && action.purpose === "into-tolerance" ? action.expected : null,
    reason: action.kind === "recheck" ? action.reason : null,
    checks: action.kind === "fault" ? [...faultWords(loop.id, action.fault).checks] : [],
    part: action.kind === "fault" ? faultWords(loop.id, action.fault).part : null,
    fault: action.kind === "fault" ? action.fault : null,
    now: belief && { value: belief.value, sd: belief.sd, pInside: belief.pInside },
  };
}

/** Said before it is used: whether this instrument can decide, and what would. */
function finenessOf(g: GaugeRow, loop: Loop, row: SheetRow, pressureUnit: string) {
  const place = placeOf({ place: g.place, toGroup: row.machine.gaugeToGroup, toGroupU: row.machine.gaugeToGroupU });
  const level = loop.with.setPoint
    ? { lower: 93 + loop.tolerance.lower!, target: 93, upper: 93 + loop.tolerance.upper! }
    : loop.tolerance;
  const s = suitability(instrumentOf(g), level, place);
  return { fineness: s.fineness, finenessWords: finenessWords(s, g, loop, pressureUnit) };
}

function finenessWords(s: Suitability, g: GaugeRow, loop: Loop, pressureUnit: string): string {
  if (s.fineness === "fine" || s.fineness === "open" || s.ratio === undefined) return "";
  const unit = unitById(unitOf(loop, pressureUnit));
  const show = (x: number) => `${formatUncertainty(x, Math.min(g.resolution, 0.1), unit)} ${unit.symbol}`;
  const half = s.ratio * s.U;
  const says = s.fineness === "too-coarse" ? "Too coarse to decide" : "Coarse";
  const would = s.wouldDo
    ? `One with a limit of error of ${show(s.wouldDo.limit)} would do${s.wouldDo.percentOfSpan && g.quantity === "pressure" ? `, class ${s.wouldDo.percentOfSpan} on this span` : ""}.`
    : "None of this resolution would do: take one that reads finer.";
  return `${says}: it knows ± ${show(s.U)}, and ± ${show(half)} is to be held. ${would}`;
}

/** Reading against where the knob stood, with the response learnt: what the chart draws. */
function chartOf({ loop, entries, advice }: LoopStand) {
  let at = 0;
  const points: { at: number; value: number; u: number }[] = [];
  for (const e of standing(entries)) {
    if (e.kind === "move") at += e.row.amount;
    else points.push({ at, value: e.row.value, u: e.row.u });
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

function bandView({ loop, entries }: LoopStand, row: SheetRow) {
  const tolerance = loop.with.band;
  if (!tolerance) return null;
  const last = runOf(entries, "as-left").at(-1);
  if (last?.detail.cutIn === undefined) return { tolerance, now: null };
  const band = last.indicated - last.detail.cutIn;
  // Both points by one gauge at one sitting: only its resolution stands between them.
  const u = (last.instrument.resolution * Math.SQRT2) / Math.sqrt(12);
  const { verdict } = judge({ value: band, u, U: 2 * u }, tolerance, row.decisionRule);
  return { tolerance, now: { cutIn: last.detail.cutIn, cutOut: last.indicated, band, U: 2 * u, verdict } };
}

function disagreement(current: Summary | null, unitId: string, resolution: number): string {
  const [a, b] = current?.parts ?? [];
  if (!a || !b) return "";
  const d = compare(a, b);
  if (d.agree) return "";
  const unit = unitById(unitId);
  const show = (x: number) => `${formatUncertainty(Math.abs(x), resolution, unit)} ${unit.symbol}`;
  return `${a.name} and ${b.name} disagree: ${show(d.difference)} apart, ${show(d.U)} is what both allow. One of them is wrong: read with a third, or leave one out by correcting its readings.`;
}

function flowingView({ loop, entries }: LoopStand, { kind }: Stand, current: Summary | null) {
  const flowing = entries.flatMap((e) => (e.kind === "reading" && e.stands && e.row.detail.flowing ? [e.row] : []));
  const read = summarise(flowing.slice(-2), loop, kind.pump);
  if (!read || !current) return null;
  const own = (rows: Summary) => rows.u / Math.SQRT2;
  return {
    ...flowingTest({ static: current.value, flowing: read.value, u: Math.hypot(own(read), own(current)) }),
    value: read.value,
  };
}
