import { addDays, formatISO, subDays } from "date-fns";
import { DOSE_SD } from "../../core/grinder";
import { type LoopId, atOf } from "../../core/knobs";
import {
  type ErrorStatement,
  type Instrument,
  type InstrumentQuantity,
  type Measured,
  type Place,
  measure,
} from "../../core/metrology";
import { SHOT_SD } from "../../core/volume";

/** The demo workshops’ kit. Invented, but of the classes and limits such instruments are sold with. */

export const GAUGE: Instrument & { name: string } = {
  name: "Portafilter gauge A",
  lowest: 0,
  highest: 16,
  resolution: 0.1,
  error: { form: "certificate", U: 0.08, k: 2 },
  repeatability: 0.08,
  corrections: [
    [0, 0],
    [6, 0.05],
    [9, 0.1],
    [12, 0.1],
    [16, 0.15],
  ],
};

interface KitItem {
  key: string;
  name: string;
  quantity: InstrumentQuantity;
  place?: Place;
  span: [number, number];
  resolution: number;
  error: ErrorStatement;
  repeatability: number;
  corrections?: [number, number][];
  /** Days until its calibration is due; null where it is never calibrated. */
  dueIn: number | null;
  note?: string;
}

const KIT: readonly KitItem[] = [
  {
    key: "gauge A",
    name: GAUGE.name,
    quantity: "pressure",
    place: "group",
    span: [0, 16],
    resolution: 0.1,
    error: GAUGE.error,
    repeatability: 0.08,
    corrections: GAUGE.corrections as [number, number][],
    dueIn: 200,
    note: "In the red case.",
  },
  {
    key: "gauge B",
    name: "Portafilter gauge B, class 1.6",
    quantity: "pressure",
    place: "group",
    span: [0, 16],
    resolution: 0.1,
    error: { form: "class", percentOfSpan: 1.6 },
    repeatability: 0.08,
    dueIn: -20,
  },
  {
    key: "line gauge",
    name: "Line gauge, class 1.6",
    quantity: "pressure",
    place: "line",
    span: [0, 10],
    resolution: 0.1,
    error: { form: "class", percentOfSpan: 1.6 },
    repeatability: 0.05,
    dueIn: 120,
  },
  {
    key: "probe T",
    name: "Thin probe, type T class 1",
    quantity: "temperature",
    span: [0, 150],
    resolution: 0.1,
    error: { form: "limit", limit: 0.5 },
    repeatability: 0.1,
    dueIn: 80,
  },
  {
    key: "probe K",
    name: "Thermometer, type K class 2",
    quantity: "temperature",
    span: [0, 300],
    resolution: 0.1,
    error: { form: "limit", limit: 2.5 },
    repeatability: 0.2,
    dueIn: 80,
  },
  {
    key: "scale",
    name: "Bench scale, 0.1 g",
    quantity: "mass",
    span: [0, 2000],
    resolution: 0.1,
    error: { form: "limit", limit: 0.2 },
    repeatability: 0.05,
    dueIn: 300,
  },
  {
    key: "timer",
    name: "Stopwatch",
    quantity: "time",
    span: [0, 3600],
    resolution: 0.1,
    error: { form: "limit", limit: 0.2 },
    repeatability: 0.15,
    dueIn: null,
  },
  {
    key: "strips",
    name: "Hardness strips, tube of 50",
    quantity: "hardness",
    span: [0, 500],
    resolution: 20,
    error: { form: "limit", limit: 20 },
    repeatability: 0,
    dueIn: 150,
    note: "The due date is the tube’s.",
  },
];

/** Scatter of what is read itself, as the sheet takes it: shots, doses and plateaus differ by themselves. */
function scatterOf(loop: LoopId): number {
  if (loop === "offset") return 0.15;
  if (loop === "basket") return DOSE_SD;
  return atOf(loop)?.button ? SHOT_SD : 0;
}

type Item = Pick<KitItem, "span" | "resolution" | "error" | "repeatability" | "corrections">;

/** One reading of a loop by an item of the kit, with its uncertainties. */
export function readBy(item: Item, loop: LoopId, indicated: number): Measured {
  const { span, resolution, error, corrections } = item;
  const instrument = {
    lowest: span[0],
    highest: span[1],
    resolution,
    error,
    repeatability: Math.hypot(item.repeatability, scatterOf(loop)),
    ...(corrections ? { corrections } : {}),
  };
  // The kit of the demo states no drift: when it is read makes no difference.
  return measure([indicated], instrument, new Date());
}

export function kitItem(key: string): KitItem {
  return KIT.find((k) => k.key === key)!;
}

export function kitRows(workshopKey: string, workshopId: string, idOf: (name: string) => string, now: Date) {
  const day = (date: Date) => formatISO(date, { representation: "date" });
  return KIT.map(({ key, span, dueIn, place = "group", corrections, note = "", ...item }, position) => ({
    ...item,
    id: idOf(`${workshopKey} ${key}`),
    itemId: idOf(`${workshopKey} ${key}`),
    workshopId,
    place,
    lowest: span[0],
    highest: span[1],
    corrections: corrections ?? null,
    note,
    calibratedOn: dueIn === null ? null : day(subDays(now, 365 - dueIn)),
    dueOn: dueIn === null ? null : day(addDays(now, dueIn)),
    position,
  }));
}
