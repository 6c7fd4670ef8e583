import { READINGS_NEEDED, type Station, type StationId } from "./stations";

/** What has been recorded so far, as far as the order of work depends on it. */
export interface SheetRecords {
  /** Stations with at least one note. */
  noted: ReadonlySet<string>;
  /** Ticks and confirmed hard stops. */
  ticked: ReadonlySet<string>;
  /** Readings that stand (not superseded) and moves, in order. */
  events: readonly ("reading" | "move")[];
  /** The engine accepts where the knob stands now. */
  accepted: boolean;
  /** A fault was taken as the end of adjusting. */
  faultTaken: boolean;
  signed: boolean;
}

export interface StationProgress {
  station: Station;
  state: "done" | "open" | "ahead";
  /** What it waits for, when ahead. */
  waitsFor?: string;
}

/** Where each station stands: the first that is not done is open, those behind it wait. */
export function progress(stations: readonly Station[], records: SheetRecords): StationProgress[] {
  const open = stations.findIndex((s) => !isDone(s.id, records));
  return stations.map((station, i) =>
    i === open
      ? { station, state: "open" }
      : open !== -1 && i > open
        ? { station, state: "ahead", waitsFor: stations[open]!.title }
        : { station, state: "done" },
  );
}

/** The station in hand, or null when all is done. */
export function stationInHand(all: readonly StationProgress[]): Station | null {
  return all.find((p) => p.state === "open")?.station ?? null;
}

/** How many of the events are readings before the first move, and after the last. */
export function readingRuns(events: SheetRecords["events"]): { asFound: number; asLeft: number; moves: number } {
  const first = events.indexOf("move");
  const last = events.lastIndexOf("move");
  return {
    asFound: first === -1 ? events.length : first,
    // With no move made, what was found is what is left.
    asLeft: events.length - 1 - last,
    moves: events.filter((e) => e === "move").length,
  };
}

function isDone(id: StationId, records: SheetRecords): boolean {
  const runs = readingRuns(records.events);
  switch (id) {
    case "look-over":
      return records.noted.has(id);
    case "as-found":
      return runs.asFound >= READINGS_NEEDED || runs.moves > 0;
    case "adjust":
      return records.faultTaken || records.accepted;
    case "as-left":
      return runs.asLeft >= READINGS_NEEDED;
    case "sign":
      return records.signed;
    default:
      return records.ticked.has(id);
  }
}
