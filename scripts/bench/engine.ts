import { randomLcg, randomNormal } from "d3-random";
import { type AdjustEvent } from "../../core/adjust";
import { nextAction } from "../../core/belief";
import { KINDS } from "../../core/kind";
import { USUAL_OPV, opvKnob } from "../../core/pressure";
import { runValve } from "../../core/twin";
import { ms, table } from "./measure";

/** What one answer of the engine costs as the log of a job grows. */
const tolerance = { lower: 8.5, target: 9, upper: 9.5 };
const knob = opvKnob(USUAL_OPV, KINDS.K7);
const random = randomLcg(0.7);
const response = randomNormal.source(random)(2, 0.7);
const byLength = new Map<number, number[]>();
for (let i = 0; i < 200; i++) {
  const valve = runValve(
    {
      response: Math.max(0.3, response()),
      backlash: 0.1 * random(),
      ceiling: 7 + 6 * random(),
      setting: 6 + 6 * random(),
      noise: 0.15,
      stale: 0.02,
    },
    random,
  );
  const events: AdjustEvent[] = [{ kind: "reading", value: valve.read(), u: 0.15 }];
  for (let step = 0; step < 14; step++) {
    const start = performance.now();
    const { action } = nextAction({ knob, tolerance, events });
    const took = performance.now() - start;
    byLength.set(events.length, [...(byLength.get(events.length) ?? []), took]);
    if (action.kind === "accept" || action.kind === "fault") break;
    if (action.kind === "move") {
      valve.turn(action.amount);
      events.push({ kind: "move", amount: action.amount });
    }
    events.push({ kind: "reading", value: valve.read(), u: 0.15 });
  }
}
const rows = [["events in the log", "calls", "p50 ms", "p95 ms"]];
for (const [length, took] of [...byLength].sort(([a], [b]) => a - b)) {
  took.sort((a, b) => a - b);
  rows.push([
    String(length),
    String(took.length),
    ms(took[took.length >> 1]!),
    ms(took[Math.floor(0.95 * took.length)]!),
  ]);
}
const every = [...byLength.values()].flat();
const perSecond = (1000 * every.length) / every.reduce((a, b) => a + b, 0);
console.log(`\nThe engine, one call\n${table(rows)}\n${Math.round(perSecond)} calls a second over all of them`);
