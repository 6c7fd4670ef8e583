import { randomNormal } from "d3-random";

/** A made-up valve and pump for tests and demo data: what a screw does to the pressure at the group. */
export interface ValveTwin {
  /** Bar per turn in the raising direction. 0: stuck. Negative: answers the wrong way. */
  readonly response: number;
  /** Lost motion on reversal, turns. */
  readonly backlash: number;
  /** Most the pump can hold, bar. */
  readonly ceiling: number;
  /** What the spring is set for, bar, with the screw at 0. */
  readonly setting: number;
  /** Standard deviation of one reading, bar. */
  readonly noise: number;
  /** Probability that the first reading after a move shows the old value. */
  readonly stale: number;
}

export interface RunningValve {
  /** True pressure now. */
  pressure(): number;
  turn(amount: number): void;
  read(): number;
}

/**
 * Sets a twin going.
 *
 * @param random uniform in [0, 1), the only source of chance
 */
export function runValve(twin: ValveTwin, random: () => number): RunningValve {
  const error = randomNormal.source(random)(0, twin.noise);
  let setting = twin.setting;
  let slack = random() * twin.backlash;
  let before = Math.min(setting, twin.ceiling);
  let fresh = false;
  const pressure = () => Math.min(setting, twin.ceiling);
  return {
    pressure,
    turn(amount) {
      before = pressure();
      const free = amount > 0 ? twin.backlash - slack : slack;
      setting += twin.response * Math.max(0, Math.abs(amount) - free) * Math.sign(amount);
      slack = Math.min(twin.backlash, Math.max(0, slack + amount));
      fresh = true;
    },
    read() {
      const shown = fresh && random() < twin.stale ? before : pressure();
      fresh = false;
      return shown + error();
    },
  };
}
