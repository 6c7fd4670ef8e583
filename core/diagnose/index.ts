import { BREW_PRESSURE, BREW_PRESSURE_FLOW_CONTROL } from "./patterns/brew-pressure";
import { FLOW_ALARM } from "./patterns/flow-alarm";
import { STEAM } from "./patterns/steam";
import { TEMPERATURE } from "./patterns/temperature";

export * from "./diagnose";

export const PATTERNS = {
  "brew-pressure": BREW_PRESSURE,
  "brew-pressure-flow-control": BREW_PRESSURE_FLOW_CONTROL,
  steam: STEAM,
  "flow-alarm": FLOW_ALARM,
  temperature: TEMPERATURE,
} as const;

export type PatternId = keyof typeof PATTERNS;
