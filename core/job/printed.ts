import { datesOf } from "../day/said";
import { type Tolerance, VERDICT_WORDS, type Verdict } from "../metrology";
import { type Unit, formatQuantity, formatUncertainty, unitsOf } from "../quantity";
import type { SignedDocument, SignedPoint, SignedResult } from "./document";

/** A signed document in words and in order: page, paper and table are made of the same lines. */

export interface PrintedReport {
  readonly machine: { readonly name: string; readonly where: string; readonly serial: string };
  readonly workshop: string;
  readonly results: readonly PrintedResult[];
  /** What ± means, by which rule verdicts are, and what was read with; "" where nothing was read. */
  readonly means: string;
  readonly instruments: readonly string[];
  readonly steps: readonly PrintedStep[];
  /** What it was held against, and choices behind verdicts. */
  readonly held: string;
  readonly work: readonly string[];
  readonly shots: readonly PrintedShot[];
  /** "" where the machine may be used; else what stands over everything on every paper. */
  readonly outOfUse: string;
  /** What its owner should know. */
  readonly notes: readonly string[];
  readonly complaint: string;
  readonly condition: readonly string[];
  readonly nextService: string;
  readonly leave: readonly string[];
  readonly signed: string;
}

export interface PrintedResult extends Pick<SignedResult, "knob"> {
  readonly title: string;
  /** "11.0 → 9.1 bar" */
  readonly moved: string;
  readonly verdict: Verdict;
  /** As left, with its U: what card and tag say of it. */
  readonly left: string;
  readonly rows: readonly PrintedRow[];
  readonly finding: string;
  /** Drawn, not written. */
  readonly strip: {
    readonly tolerance: Tolerance;
    readonly found: SignedPoint;
    readonly left: SignedPoint;
    readonly unit: Unit;
  };
}

export interface PrintedRow {
  readonly name: string;
  readonly text: string;
  readonly verdict?: Verdict;
  /** What stands behind a figure. */
  readonly behind?: string;
}

export interface PrintedStep {
  readonly title: string;
  /** Why it was skipped; null where it was not. */
  readonly skipped: string | null;
  readonly lines: readonly { readonly label: string; readonly text: string; readonly verdict?: Verdict }[];
}

export interface PrintedShot {
  readonly number: number;
  readonly said: string;
  readonly seconds: number;
  readonly yield: number | null;
  readonly verdict: string;
  readonly taken: boolean;
}

/** What documents of earlier versions meant, which had no list of their own. */
const LEAVE = [
  "The over-pressure valve (OPV) and everything under the cover: parts there are live and hot. Water returning to the tank or tray during a shot is the OPV at work, and normal.",
];

const RULES: Record<SignedDocument["rule"], string> = {
  simple: "Inside the limits counts as inside.",
  guarded: "“In spec” means inside by at least this much.",
};

/**
 * A document in words and in order.
 *
 * @param timeZone in which its days are told, for documents that do not say so themselves
 */
export function printedOf(doc: SignedDocument, timeZone: string): PrintedReport {
  const { day, timeOfDay } = datesOf(doc.timeZone || timeZone);
  const { machine } = doc;
  const results = doc.results.flatMap((result) => printedResult(result, doc) ?? []);
  // What could not be read, or was given up, is said where the faults are.
  const findings = doc.results.flatMap((r) =>
    r.finding && !(r.asFound && r.asLeft && r.knob !== "opv") ? [r.finding] : [],
  );
  return {
    machine: {
      name: `${machine.maker} ${machine.model}`,
      where: `${machine.site}, ${machine.town}`,
      serial: machine.serial,
    },
    workshop: doc.workshop,
    results,
    means:
      results.length > 0
        ? `± is the expanded uncertainty for 95 % coverage: the standard uncertainty times the k beside each figure. ${RULES[doc.rule]}`
        : "",
    instruments: doc.instruments.map(({ name, readFor, calibratedOn, outOfDate }) =>
      [
        name,
        readFor.length > 0 ? ` (${readFor.join(", ").toLowerCase()})` : "",
        calibratedOn ? `, calibrated ${day(calibratedOn)}` : "",
        outOfDate ? ", calibration out of date" : "",
      ].join(""),
    ),
    steps: doc.steps.map(({ title, skipped, lines }) => ({
      title,
      skipped: skipped ?? null,
      lines: lines.map(({ label, text, verdict }) => ({ label, text, ...(isVerdict(verdict) ? { verdict } : {}) })),
    })),
    held: [
      ...(doc.spec ? [`Held against the spec “${doc.spec.name}”, version ${doc.spec.version}.`] : []),
      ...doc.schools.map((s) => `${s.question}: ${s.choice}.`),
    ].join(" "),
    work: (doc.work ?? []).map((line) => line.said),
    shots: doc.shots.map(({ number, said, seconds, yield: cup, verdict, taken }) => ({
      ...{ number, said, seconds, verdict, taken },
      yield: cup,
    })),
    outOfUse: doc.outOfUse ? outOfUseWords(doc.outOfUse) : "",
    notes: [
      ...(doc.exception
        ? [`Signed as an exception by ${doc.exception.by}: ${doc.exception.why} (${doc.exception.of.join(" ")})`]
        : []),
      ...findings,
      ...(doc.left ?? []).map((fault) => fault.said),
      ...(doc.remark ? [doc.remark] : []),
    ],
    complaint: doc.complaint,
    condition: doc.condition,
    nextService: doc.nextService ? `By ${day(doc.nextService.on)}. ${doc.nextService.why}` : "",
    leave: doc.leave ?? LEAVE,
    signed: `Signed by ${doc.technician} on ${day(doc.signedAt)} at ${timeOfDay(new Date(doc.signedAt).getTime())}`,
  };
}

/** What every paper of a machine that is out of use says first. */
export const outOfUseWords = (why: readonly string[]): string => `Out of use. Do not switch it on. ${why.join(" ")}`;

/** A limit as it was set: three decimals are more than any spec has. */
const limit = (value: number | undefined) =>
  value === undefined ? "–" : String(Math.round(1000 * value) / 1000).replace("-", "−");

const isVerdict = (word: string | undefined): word is Verdict => word !== undefined && word in VERDICT_WORDS;

/** One knob in words; null where it was not read both as found and as left. */
function printedResult(result: SignedResult, doc: SignedDocument): PrintedResult | null {
  const { title, asFound, asLeft, tolerance, knob, repairs, finding, set, moves, held, aside = [] } = result;
  if (!asFound || !asLeft) return null;
  const unit = unitsOf(result.judged)[0]!;
  const plus = unit.id === "dC" ? (v: number) => (v > 0.05 ? "+" : "") : () => "";
  const q = ({ value, resolution }: SignedPoint) => plus(value) + formatQuantity(value, resolution, unit);
  const point = (name: string, p: SignedPoint): PrintedRow => ({
    name,
    text: `${q(p)} ± ${formatUncertainty(p.U, p.resolution, unit)}`,
    verdict: p.verdict,
    behind: `${p.readings.length} ${p.readings.length === 1 ? "reading" : "readings"}, k = ${p.k.toFixed(2)}${p.early ? `, ${p.early} not warmed up` : ""}`,
  });
  const left = point("As left", asLeft);
  const method = doc.methods.find((m) => m.id === asLeft.method);
  const row = (name: string, text: string | undefined | false): PrintedRow[] => (text ? [{ name, text }] : []);
  return {
    knob,
    title,
    moved: `${q(asFound).replace(` ${unit.symbol}`, "")} → ${q(asLeft)}`,
    verdict: asLeft.verdict,
    left: left.text,
    rows: [
      point("As found", asFound),
      left,
      ...row(
        "Tolerance",
        `${limit(tolerance.lower)} to ${limit(tolerance.upper)} ${unit.symbol}${held ? `, ${held}` : ""}`,
      ),
      ...row("Setting", set && `${set.from} → ${set.to}${set.note ? `, ${set.note}` : ""}`),
      ...row(
        "Adjusted",
        (moves.length > 0 || knob === "opv" || !set) && (moves.length === 0 ? "not changed" : moves.join(", then ")),
      ),
      ...row("Renewed or freed", repairs.join("; ")),
      ...row("Not counted", aside.join("; ")),
      ...row("How", method?.text),
    ],
    // The fault of the valve has a place of its own, among the notes.
    finding: knob === "opv" ? "" : (finding ?? ""),
    strip: { tolerance, found: asFound, left: asLeft, unit },
  };
}

/** Said over everything that shows a signed visit which is not what was signed. */
export const NOT_AS_SIGNED =
  "This is not what was signed: the record was changed afterwards. Do not rely on it; ask the workshop.";

/**
 * A report as rows of a table: where it stands, what it is called, and what it says.
 *
 * @param holds whether it is what was signed
 */
export function rowsOfReport(
  report: PrintedReport,
  holds: boolean,
): { section: string; name: string; text: string; verdict: string }[] {
  const row = (section: string, name: string, text: string, verdict?: Verdict) => ({
    ...{ section, name, text },
    verdict: verdict ? VERDICT_WORDS[verdict] : "",
  });
  const { machine } = report;
  return [
    ...(holds ? [] : [row("Attention", "", NOT_AS_SIGNED)]),
    row("Machine", machine.name, machine.where),
    row("Machine", "Serial", machine.serial),
    row("Workshop", "", report.workshop),
    ...(report.outOfUse ? [row("Out of use", "", report.outOfUse)] : []),
    ...report.results.flatMap(({ title, moved, verdict, rows, finding }) => [
      row(title, "As found → as left", moved, verdict),
      ...rows.flatMap((r) => [
        row(title, r.name, r.text, r.verdict),
        ...(r.behind ? [row(title, `${r.name}: readings`, r.behind)] : []),
      ]),
      ...(finding ? [row(title, "Finding", finding)] : []),
    ]),
    ...(report.means ? [row("Readings", "Meaning", report.means)] : []),
    ...report.instruments.map((said) => row("Readings", "Measured with", said)),
    ...report.steps.flatMap(({ title, skipped, lines }) => [
      ...(skipped === null ? [] : [row(title, "Skipped", skipped)]),
      ...lines.map((l) => row(title, l.label, l.text, l.verdict)),
    ]),
    ...(report.held ? [row("Readings", "Held against", report.held)] : []),
    ...report.work.map((said) => row("Work and parts", "", said)),
    ...report.shots.map((s) => row("Shots", s.taken ? `Shot ${s.number}, the recipe` : `Shot ${s.number}`, s.said)),
    ...report.notes.map((note) => row("Please note", "", note)),
    ...(report.complaint ? [row("Seen on arrival", "Complaint", report.complaint)] : []),
    ...report.condition.map((line) => row("Seen on arrival", "Condition", line)),
    ...(report.nextService ? [row("Next service", "", report.nextService)] : []),
    ...report.leave.map((line) => row("Do not adjust yourself", "", line)),
    row("Signature", "", report.signed),
  ];
}
