import type { Tolerance } from "../metrology";
import type { SchoolsOf } from "../school";

/** What a shot is held against: dose, yield, and the window of seconds, by the schools chosen. */
export interface Recipe {
  readonly dose: Required<Tolerance>;
  readonly yield: Required<Tolerance>;
  readonly seconds: Required<Tolerance>;
  /** Which event the clock counts from: part of the value. */
  readonly from: SchoolsOf["shotClock"];
}

/** 25 ± 3 s, 20–30 s or 25–30 s: schools. Common practice. */
const WINDOWS: Record<SchoolsOf["shotWindow"], Required<Tolerance>> = {
  "25-3": { lower: 22, target: 25, upper: 28 },
  "20-30": { lower: 20, target: 25, upper: 30 },
  "25-30": { lower: 25, target: 27.4, upper: 30 },
};

/** Half a gram of dose, four grams of yield in all. Common practice. */
const DOSE_MARGIN = 0.5;
const YIELD_MARGIN = 2;

/** 18 g → 36 g, a school goes to 1 : 2.5. Common practice. */
export function recipeFor(schools: Pick<SchoolsOf, "shotWindow" | "shotClock" | "ratio">, dose = 18): Recipe {
  const least = 2 * dose;
  const most = schools.ratio === "to-1-2.5" ? 2.5 * dose : least;
  return {
    dose: { lower: dose - DOSE_MARGIN, target: dose, upper: dose + DOSE_MARGIN },
    yield: { lower: least - YIELD_MARGIN, target: (least + most) / 2, upper: most + YIELD_MARGIN },
    seconds: WINDOWS[schools.shotWindow],
    from: schools.shotClock,
  };
}
