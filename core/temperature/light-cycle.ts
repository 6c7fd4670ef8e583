import { deviation, mean } from "d3-array";
import type { PlanStep } from "./plan-steps";

/** No display: the brew moment is timed against the thermostat's light. */

export interface LightCycle {
  /** Seconds the element heats; left out where only the rest was timed. */
  readonly on?: number | undefined;
  /** Seconds it rests. */
  readonly off: number;
}

export interface CycleStats {
  cycles: number;
  /** What is usual stands in where no heating was timed. */
  on: { mean: number; sd: number; timed: number };
  off: { mean: number; sd: number };
  /** Spread of a rest as a share of its mean: over 0.25 no wait is repeatable. */
  spread: number;
  steady: boolean;
}

/** A spread of a quarter moves a wait of 10 s by more than it corrects: our choice. */
const MOST_SPREAD = 0.25;
/** Until two were timed, a rest is taken to vary by this share. And heating takes about 15 s. Common practice, from memory. */
const USUAL_SPREAD = 0.15;
const USUAL_ON = 15;

/**
 * Mean and spread of the light’s cycle, s. One figure, “about 15 s”, is enough to begin with.
 *
 * @throws RangeError with no cycle, or one without a length
 */
export function cycleStats(cycles: readonly LightCycle[]): CycleStats {
  if (cycles.length === 0) throw new RangeError("Time one cycle of the light first, or type about how long it rests.");
  if (cycles.some((c) => !((c.on ?? USUAL_ON) > 0 && c.off > 0)))
    throw new RangeError("A cycle has a heating and a rest, both above 0 s.");
  const of = (values: number[]) => {
    const middle = mean(values)!;
    return { mean: middle, sd: deviation(values) ?? USUAL_SPREAD * middle };
  };
  const off = of(cycles.map((c) => c.off));
  const spread = off.sd / off.mean;
  return {
    cycles: cycles.length,
    on: { ...of(cycles.map((c) => c.on ?? USUAL_ON)), timed: cycles.filter((c) => c.on !== undefined).length },
    off,
    spread,
    steady: spread <= MOST_SPREAD,
  };
}

export type Taste = "sour" | "balanced" | "bitter";

export interface Tried {
  /** Seconds waited after the light changed back. */
  readonly wait: number;
  readonly taste: Taste;
}

/** About 10 s after the light has changed back. Common practice. */
const FIRST_WAIT = 10;
/** Seconds longer or shorter at each try. Our choice: about half a degree at usual rates. */
const WAIT_STEP = 4;

export interface WaitAdvice {
  /** s, what is waited meanwhile where it is something else that helps. */
  wait: number;
  why: string;
  /** The next wait to try, one that was balanced, or nothing that waiting mends. */
  kind: "next" | "keep" | "other";
}

/**
 * The wait before the pump, moved by taste: sour → wait less, bitter → wait longer. Once both sides have been tasted it is halved
 * between them. Common practice.
 */
export function nextWait(stats: CycleStats, tried: readonly Tried[]): WaitAdvice {
  const longest = Math.max(0, Math.floor(stats.off.mean - 2 * stats.off.sd));
  const clamp = (s: number) => Math.round(Math.min(longest, Math.max(0, s)));
  const last = tried.at(-1);
  if (!last)
    return { wait: clamp(FIRST_WAIT), why: "The usual wait to begin with; taste moves it from there.", kind: "next" };
  if (last.taste === "balanced")
    return { wait: last.wait, why: `The last cup was balanced at ${last.wait} s.`, kind: "keep" };
  // Sour was too cool: it waited too long. Bitter was too hot: too short.
  const sour = tried.filter((t) => t.taste === "sour").map((t) => t.wait);
  const bitter = tried.filter((t) => t.taste === "bitter").map((t) => t.wait);
  const below = Math.max(...bitter);
  const above = Math.min(...sour);
  if (sour.length && bitter.length && below < above) {
    const wait = clamp((below + above) / 2);
    if (wait === below || wait === above)
      return {
        wait: clamp(last.wait),
        why: `Bitter at ${below} s, sour at ${above} s: no wait between them can be timed. Taste both again; if it stays so, it is not the water: go by the grind.`,
        kind: "other",
      };
    return { wait, why: `Bitter at ${below} s, sour at ${above} s: between them.`, kind: "next" };
  }
  const [cool, hot] = [last.taste === "sour", last.taste === "bitter"];
  const wait = clamp(last.wait + (hot ? WAIT_STEP : -WAIT_STEP));
  // At the end of what waiting can do it is something else that moves the temperature.
  if (cool && last.wait <= 0)
    return {
      wait: 0,
      why: "Sour without any wait: hotter another way. Steam switch on for a few seconds first.",
      kind: "other",
    };
  if (hot && wait <= last.wait)
    return {
      wait: longest,
      why: `Bitter, and ${longest} s is as long as the rest allows: cooler another way. Flush a few seconds first, set the thermostat lower, or take a lighter roast.`,
      kind: "other",
    };
  return cool
    ? { wait, why: "Sour: the water was too cool. Wait less.", kind: "next" }
    : { wait, why: "Bitter: the water was too hot. Wait longer.", kind: "next" };
}

/**
 * Flush until the light changes, wait for it to change back, wait on, brew. Followed as a running timer.
 *
 * @param wait s after the light has changed back
 */
export function cyclePlan(stats: CycleStats, wait: number): PlanStep[] {
  return [
    { label: "Flush until the light changes: heating begins", seconds: 5, until: "light" },
    { label: "Wait for the light to change back", seconds: Math.round(stats.on.mean), until: "light" },
    { label: `Wait ${wait} s more`, seconds: wait },
    { label: "Pump on: brew now", seconds: 30 },
  ];
}
