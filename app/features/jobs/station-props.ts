import type { SinceLast } from "~server/jobs/views/since-last";
import type { Added } from "./signed";
import type { SheetView } from "~server/jobs/views/sheet";
import type { Correcting } from "./log";

/** What the list of stations and the one in hand are drawn from. */
export interface StationProps {
  sheet: SheetView;
  unit: string;
  newId: string;
  person: string;
  origin: string;
  added: readonly Added[];
  since: SinceLast | null;
  onCorrect: (c: Correcting) => void;
}
