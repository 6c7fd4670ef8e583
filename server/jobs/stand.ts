import { LRUCache } from "lru-cache";
import { type AdjustQuestion, type Advice, nextAction } from "../../core/adjust";
import { KINDS, type MachineKind } from "../../core/kind";
import { type OpvModel, opvKnob, pressureCheck } from "../../core/pressure";
import {
  type SheetRecords,
  type Station,
  type StationProgress,
  progress,
  stationInHand,
  stationsFor,
} from "../../core/sheet";
import type { Tolerance } from "../../core/metrology";
import type { KindId } from "../../core/kind";
import { type Entry, type MoveRow, type ReadingRow, adjustEvents, entriesOf, standing } from "./events";

/** What of a job decides where it stands; a sheet row and a bench row both carry it. */
export interface StandingOf<R extends ReadingRow = ReadingRow, M extends MoveRow = MoveRow> {
  state: "open" | "signed";
  tolerance: Tolerance;
  machine: {
    model: { kind: KindId; opvResponse: number; opvResponseSd: number; opvRaises: "clockwise" | "anticlockwise" };
  };
  notes: { station: string }[];
  ticks: { key: string }[];
  readings: R[];
  adjustments: M[];
  findings: unknown[];
}

export interface Stand<R extends ReadingRow = ReadingRow, M extends MoveRow = MoveRow> {
  kind: MachineKind;
  opv: OpvModel;
  entries: Entry<R, M>[];
  question: AdjustQuestion;
  advice: Advice;
  stations: StationProgress[];
  inHand: Station | null;
}

// The engine is a pure function of the log: the same log, asked again by bench, sheet and save, is the same advice.
const known = new LRUCache<string, Advice>({ max: 5000 });

function advise(question: AdjustQuestion): Advice {
  const key = JSON.stringify(question);
  let advice = known.get(key);
  if (!advice) known.set(key, (advice = nextAction(question)));
  return advice;
}

/** Where a job stands: its stations, the log, and what the engine advises now. */
export function standOf<R extends ReadingRow, M extends MoveRow>(job: StandingOf<R, M>): Stand<R, M> {
  const kind = KINDS[job.machine.model.kind];
  const opv = opvOf(job.machine.model);
  const entries = entriesOf(job.readings, job.adjustments);
  const question = { knob: opvKnob(opv, kind), tolerance: job.tolerance, events: adjustEvents(entries, opv) };
  const advice = advise(question);
  const records: SheetRecords = {
    noted: new Set(job.notes.map((n) => n.station)),
    ticked: new Set(job.ticks.map((t) => t.key)),
    events: standing(entries).map((e) => e.kind),
    accepted: advice.action.kind === "accept",
    faultTaken: job.findings.length > 0,
    signed: job.state === "signed",
  };
  const stations = progress(stationsFor(kind), records);
  return { kind, opv, entries, question, advice, stations, inHand: stationInHand(stations) };
}

export function opvOf(model: StandingOf["machine"]["model"]): OpvModel {
  return { responseMean: model.opvResponse, responseSd: model.opvResponseSd, raises: model.opvRaises };
}

export function adjustable(kind: MachineKind): boolean {
  return pressureCheck(kind) === "adjustable";
}
