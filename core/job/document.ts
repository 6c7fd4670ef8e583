import type { LoopId } from "../knobs";
import type { Tolerance } from "../metrology";
import type { Dimension } from "../quantity";

/** What a signature freezes: all that was read and done, as one document. */

export interface SignedValue {
  value: number;
  U: number;
  k: number;
  resolution: number;
  pInside: number;
  verdict: "holds" | "just holds" | "can't tell" | "off";
  readings: number[];
}

export interface SignedDocument {
  version: 1 | 2 | 3;
  job: string;
  /** The usual visit it was, or "visit". */
  type: string;
  /** What it was for; not kept by earlier versions. */
  scopes?: string[];
  workshop: string;
  machine: { maker: string; model: string; serial: string; site: string; town: string };
  complaint: string;
  condition: string[];
  tolerance: Tolerance;
  school: "regulate" | "ceiling";
  rule: "simple" | "guarded";
  /** Null where no brew pressure was read. */
  asFound: SignedValue | null;
  asLeft: SignedValue | null;
  instruments: { name: string; calibratedOn: string | null; outOfDate: boolean }[];
  turns: number[];
  /** What was renewed or freed of brew pressure’s knob; not kept by earlier versions. */
  repairs?: string[];
  finding: string | null;
  remark: string;
  technician: string;
  startedAt: string;
  signedAt: string;
  /** Since version 2: what was recorded at each station, in words, with what was skipped and why. */
  stations?: { title: string; lines: { label: string; text: string; verdict?: string }[]; skipped?: string }[];
  /** Since version 2: schools that decided a verdict, and the spec card. */
  schools?: { question: string; choice: string; own: boolean }[];
  spec?: { name: string; version: number } | null;
  /** Readings taken before the chosen level of warm-up. */
  early?: number;
  /** Since version 3: every other knob with its readings. Brew pressure keeps its place above. */
  loops?: SignedLoop[];
}

export interface SignedLoop {
  loop: LoopId;
  title: string;
  /** Dimension of its figures. */
  judged: Dimension;
  tolerance: Tolerance;
  asFound: SignedValue | null;
  asLeft: SignedValue | null;
  /** Moves in words. */
  moves: string[];
  repairs?: string[];
  finding: string | null;
}
