import { BREW_PRESSURE_TITLE, type LoopId, OPV_HELD, atOf } from "../knobs";
import type { Tolerance, Verdict } from "../metrology";
import { type Dimension, formatTurnsLong } from "../quantity";
import type { SignedDocument, SignedPoint, SignedResult } from "./document";

/** What was signed in earlier years is read as what is signed today. The stored text and its hash stay what they are. */

interface EarlierValue {
  value: number;
  U: number;
  k: number;
  resolution: number;
  pInside: number;
  verdict: Verdict;
  readings: number[];
}

/** Versions 1 to 3: brew pressure at the top, other knobs since version 3 in a list. */
export interface EarlierDocument {
  version: 1 | 2 | 3;
  job: string;
  type: string;
  scopes?: string[];
  workshop: string;
  machine: SignedDocument["machine"];
  complaint: string;
  condition: string[];
  tolerance: Tolerance;
  school: "regulate" | "ceiling";
  rule: "simple" | "guarded";
  asFound: EarlierValue | null;
  asLeft: EarlierValue | null;
  instruments: { name: string; calibratedOn: string | null; outOfDate: boolean }[];
  turns: number[];
  repairs?: string[];
  finding: string | null;
  remark: string;
  technician: string;
  startedAt: string;
  signedAt: string;
  stations?: SignedDocument["steps"];
  schools?: { question: string; choice: string }[];
  spec?: { name: string; version: number } | null;
  early?: number;
  loops?: {
    loop: LoopId;
    title: string;
    judged: Dimension;
    tolerance: Tolerance;
    asFound: EarlierValue | null;
    asLeft: EarlierValue | null;
    moves: string[];
    repairs?: string[];
    finding: string | null;
  }[];
}

/** A document as it may be stored. */
export type StoredDocument = SignedDocument | EarlierDocument;

/** A stored document, whatever its version, as one of today. What an earlier version did not keep is null or empty, never made up. */
export function readDocument(stored: StoredDocument): SignedDocument {
  if (stored.version === 4) return stored;
  const { early = 0, instruments, schools = [] } = stored;
  return {
    version: 4,
    job: stored.job,
    visit: stored.type,
    scopes: stored.scopes ?? [],
    workshop: stored.workshop,
    timeZone: "",
    machine: stored.machine,
    complaint: stored.complaint,
    condition: stored.condition,
    rule: stored.rule,
    results: [...brewOf(stored), ...(stored.loops ?? []).map(loopResult)],
    steps: [
      ...(stored.stations ?? []),
      ...(early > 0
        ? [
            {
              title: "Warm-up",
              lines: [
                {
                  label: "Before the machine was warm",
                  text: `${early} ${early === 1 ? "reading was" : "readings were"} taken`,
                },
              ],
            },
          ]
        : []),
    ],
    shots: [],
    instruments: instruments.map((i) => ({ id: null, quantity: null, readFor: [], ...i })),
    methods: [],
    schools: schools.map(({ question, choice }) => ({ question, choice })),
    spec: stored.spec ?? null,
    remark: stored.remark,
    technician: stored.technician,
    startedAt: stored.startedAt,
    signedAt: stored.signedAt,
  };
}

/** Brew pressure had a place of its own at the top; it was there whenever it was read, worked, or found faulty. */
function brewOf(d: EarlierDocument): SignedResult[] {
  if (!d.asFound && !d.asLeft && !d.finding && d.turns.length === 0) return [];
  return [
    {
      ...atOf("opv")!,
      title: BREW_PRESSURE_TITLE,
      judged: "pressure",
      tolerance: d.tolerance,
      held: OPV_HELD[d.school],
      asFound: pointOf(d.asFound),
      asLeft: pointOf(d.asLeft),
      moves: d.turns.map((t) => `${formatTurnsLong(t)} ${t > 0 ? "clockwise" : "anticlockwise"}`),
      repairs: d.repairs ?? [],
      finding: d.finding,
    },
  ];
}

function loopResult(loop: NonNullable<EarlierDocument["loops"]>[number]): SignedResult {
  const { loop: id, asFound, asLeft, repairs = [], ...rest } = loop;
  return { ...atOf(id)!, ...rest, held: "", repairs, asFound: pointOf(asFound), asLeft: pointOf(asLeft) };
}

/** U and k were kept; u is what they came from. */
function pointOf(value: EarlierValue | null): SignedPoint | null {
  return value && { ...value, u: value.U / value.k, dof: null, early: null, instruments: null, method: null };
}
