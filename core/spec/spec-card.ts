import type { Tolerance } from "../metrology";
import type { Dimension } from "../quantity";

/** Quantities a spec card can set limits on, each in its stored unit. */
export const SPEC_QUANTITIES = {
  "brew-pressure": { name: "Brew pressure at the group", dimension: "pressure", unit: "bar" },
  "opv-ceiling": { name: "Valve as a ceiling", dimension: "pressure", unit: "bar" },
  "line-pressure": { name: "Line pressure, idle", dimension: "pressure", unit: "bar" },
  "steam-pressure": { name: "Steam pressure", dimension: "pressure", unit: "bar" },
  "group-temperature": { name: "Water leaving the group", dimension: "temperature", unit: "C" },
  "milk-temperature": { name: "Milk", dimension: "temperature", unit: "C" },
  hardness: { name: "Hardness", dimension: "hardness", unit: "mg/L" },
  dose: { name: "Dose", dimension: "mass", unit: "g" },
  yield: { name: "Yield", dimension: "mass", unit: "g" },
  "shot-volume": { name: "Shot volume", dimension: "volume", unit: "ml" },
  "shot-time": { name: "Shot time", dimension: "time", unit: "s" },
} as const satisfies Record<string, { name: string; dimension: Dimension; unit: string }>;

export type SpecQuantity = keyof typeof SPEC_QUANTITIES;

export interface SpecLine extends Tolerance {
  readonly quantity: SpecQuantity;
  /** When it holds: "double basket", "boiler at 1.2 bar". Empty: always. */
  readonly condition: string;
  /** Where it comes from. */
  readonly source: string;
}

export interface SpecCard {
  readonly name: string;
  readonly about: string;
  readonly lines: readonly SpecLine[];
}

const TRADE = "common practice";
const line = (
  quantity: SpecQuantity,
  [lower, target, upper]: [number | undefined, number | undefined, number | undefined],
  source: string,
  condition = "",
): SpecLine => ({
  quantity,
  ...(lower === undefined ? {} : { lower }),
  ...(target === undefined ? {} : { target }),
  ...(upper === undefined ? {} : { upper }),
  condition,
  source,
});

const INEI = "Istituto Nazionale Espresso Italiano, certified Italian espresso, product specification";
const SCA = "Specialty Coffee Association, definition of espresso";

/** Cards every workshop starts with. Figures of the two definitions are from memory. */
export const STARTING_CARDS: Readonly<Record<"trade" | "certified-italian" | "sca", SpecCard>> = {
  trade: {
    name: "Trade usual",
    about: "What most technicians set by. Common practice, no single source.",
    lines: [
      line("brew-pressure", [8.5, 9, 9.5], TRADE, "valve regulates"),
      line("opv-ceiling", [10.5, 11, 12], TRADE, "valve is a fail-safe"),
      line("line-pressure", [3, undefined, 6], TRADE, "plumbed, idle"),
      line("steam-pressure", [1.2, 1.3, 1.4], TRADE, "commercial, hot"),
      line("group-temperature", [91, 93.5, 96], TRADE),
      line("milk-temperature", [55, undefined, 60], TRADE),
      line("dose", [17.5, 18, 18.5], TRADE, "double basket"),
      line("yield", [34, 36, 38], TRADE, "double basket"),
      line("shot-time", [22, 25, 28], TRADE),
    ],
  },
  "certified-italian": {
    name: "Certified Italian espresso",
    about: "One cup from 7 g. A published definition; figures from memory.",
    lines: [
      line("brew-pressure", [8, 9, 10], INEI),
      line("group-temperature", [86, 88, 90], INEI, "leaving the group"),
      line("dose", [6.5, 7, 7.5], INEI, "one cup"),
      line("shot-volume", [22.5, 25, 27.5], INEI, "one cup, crema included"),
      line("shot-time", [20, 25, 30], INEI),
    ],
  },
  sca: {
    name: "SCA espresso",
    about: "One cup from 7 to 9 g. A published definition; figures from memory.",
    lines: [
      line("brew-pressure", [9, 9.5, 10], SCA),
      line("group-temperature", [90.5, undefined, 96.1], SCA),
      line("dose", [7, undefined, 9], SCA, "one cup"),
      line("shot-volume", [25, undefined, 35], SCA, "one cup"),
      line("shot-time", [20, undefined, 30], SCA),
    ],
  },
};

/** The limits a card sets on a quantity; undefined when it sets none. */
export function toleranceFor(lines: readonly SpecLine[], quantity: SpecQuantity): Tolerance | undefined {
  const found = lines.find((l) => l.quantity === quantity);
  if (!found) return undefined;
  const { lower, target, upper } = found;
  return {
    ...(lower === undefined ? {} : { lower }),
    ...(target === undefined ? {} : { target }),
    ...(upper === undefined ? {} : { upper }),
  };
}
