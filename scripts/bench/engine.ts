import { randomLcg } from "d3-random";
import { type AdjustEvent, nextAction } from "../../core/adjust";
import { KINDS } from "../../core/kind";
import { OPV_TOLERANCE, USUAL_OPV, opvKnob } from "../../core/pressure";
import { runValve } from "../../core/twin";

/** Time of one call of the engine over whole simulated jobs, and what the advice is worth on them. */
const random = randomLcg(0.7);
const knob = opvKnob(USUAL_OPV, KINDS.K7);
const tolerance = OPV_TOLERANCE.regulate;
let calls = 0;
let slowest = 0;
let total = 0;

function job(twin: Parameters<typeof runValve>[0]) {
  const valve = runValve(twin, random);
  const events: AdjustEvent[] = [{ kind: "reading", value: valve.read(), u: 0.15 }];
  let moves = 0;
  for (let i = 0; i < 40; i++) {
    const from = performance.now();
    const { action } = nextAction({ knob, tolerance, events });
    const took = performance.now() - from;
    calls++;
    total += took;
    // The first calls are slow while the code is compiled.
    if (calls > 200) slowest = Math.max(slowest, took);
    if (action.kind === "accept" || action.kind === "fault") return { action, moves, pressure: valve.pressure() };
    if (action.kind === "move") {
      valve.turn(action.amount);
      events.push({ kind: "move", amount: action.amount });
      moves++;
    }
    events.push({ kind: "reading", value: valve.read(), u: 0.15 });
  }
  return { action: { kind: "endless" as const }, moves, pressure: valve.pressure() };
}

const say = (text: string) => process.stdout.write(`${text}\n`);
const sound = () => ({
  response: 2 * Math.exp(0.34 * (random() + random() + random() + random() - 2) * 1.7),
  backlash: 0.1 * random(),
  ceiling: 99,
  setting: 9 + (random() < 0.5 ? -1 : 1) * (0.5 + 2.5 * random()),
  noise: 0.15,
  stale: 0,
});
const kinds = {
  sound: () => sound(),
  "stuck valve": () => ({ ...sound(), response: 0 }),
  "worn pump": () => ({ ...sound(), ceiling: 6.5 + 1.8 * random(), setting: 7 + 3 * random() }),
  reversed: () => ({ ...sound(), response: -2 }),
};
say("\nThe engine on simulated machines: 2 bar a turn ± 35 %, readings ± 0.15 bar, eighths of a turn, 8.5 to 9.5 bar");
say("                    moves   accepted   of these outside   faults named");
for (const [name, twin] of Object.entries(kinds)) {
  const n = name === "sound" ? 1500 : 300;
  const all = Array.from({ length: n }, () => job(twin()));
  const accepted = all.filter((o) => o.action.kind === "accept");
  const outside = accepted.filter((o) => o.pressure < 8.5 || o.pressure > 9.5).length;
  const named = new Map<string, number>();
  for (const o of all) if (o.action.kind === "fault") named.set(o.action.fault, (named.get(o.action.fault) ?? 0) + 1);
  const moves = all.reduce((sum, o) => sum + o.moves, 0) / n;
  say(
    `  ${name.padEnd(16)} ${moves.toFixed(2).padStart(6)} ${`${((100 * accepted.length) / n).toFixed(1)} %`.padStart(10)} ${`${outside} (${((100 * outside) / Math.max(1, accepted.length)).toFixed(2)} %)`.padStart(18)}   ${[...named].map(([k, v]) => `${k} ${((100 * v) / n).toFixed(0)} %`).join(", ")}`,
  );
}
say(
  `  ${calls} calls, ${(total / calls).toFixed(2)} ms each, ${((1000 * calls) / total).toFixed(0)} a second, slowest once warm ${slowest.toFixed(1)} ms`,
);
