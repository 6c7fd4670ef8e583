import { randomUniform } from "d3-random";
import { type AdjustEvent } from "../../core/adjust";
import { nextAction } from "../../core/belief";
import type { Instrument } from "../../core/metrology";
import { AT_THE_GROUP, type GaugePlace, measure } from "../../core/metrology";
import type { MachineKind } from "../../core/kind";
import { OPV_TOLERANCE, type OpvModel, type OpvSchool, opvKnob, pressureCheck } from "../../core/pressure";
import { type RunningValve, runValve } from "../../core/twin";

/** What one visit wrote down: raw readings and turns in the raising direction, in order. */
export type Recorded = { kind: "reading"; indicated: number } | { kind: "move"; amount: number };

/** A year in the life of a valve: drift between visits, each visit worked by the product's own engine. */
export function yearOf(
  kind: MachineKind,
  opv: OpvModel,
  school: OpvSchool,
  gauge: Instrument,
  visits: number,
  random: () => number,
): { visits: Recorded[][]; valve: RunningValve } {
  const between = (a: number, b: number) => randomUniform.source(random)(a, b)();
  const target = OPV_TOLERANCE[school].target;
  const valve = runValve(
    {
      response: between(1.4, 2.7),
      backlash: between(0, 0.08),
      ceiling: target + between(2, 5),
      setting: target + between(-1.6, 1.8),
      noise: 0.09,
      stale: 0,
    },
    random,
  );
  const all: Recorded[][] = [];
  for (let v = 0; v < visits; v++) {
    all.push(workOneVisit(kind, opv, school, gauge, valve, 12));
    // A season of use lets the spring settle and the seat wear.
    valve.turn(between(-0.35, 0.12));
  }
  return { visits: all, valve };
}

/** Works a visit by the advice, at most `limit` readings and moves. */
export function workOneVisit(
  kind: MachineKind,
  opv: OpvModel,
  school: OpvSchool,
  gauge: Instrument,
  valve: RunningValve,
  limit: number,
): Recorded[] {
  const recorded: Recorded[] = [];
  const events: AdjustEvent[] = [];
  const question = { knob: opvKnob(opv, kind), tolerance: OPV_TOLERANCE[school] };
  const read = () => {
    const indicated = Math.round(valve.read() / gauge.resolution) * gauge.resolution;
    recorded.push({ kind: "reading", indicated });
    events.push(eventOf(indicated, gauge, AT_THE_GROUP));
  };
  read();
  read();
  let sinceMove = 2;
  while (recorded.length < limit) {
    const { action } = nextAction({ ...question, events });
    if (action.kind === "fault" || pressureCheck(kind) !== "adjustable" || (action.kind === "accept" && sinceMove >= 2))
      break;
    if (action.kind === "move") {
      valve.turn(action.amount);
      recorded.push({ kind: "move", amount: action.amount });
      events.push({ kind: "move", amount: action.amount });
      sinceMove = 0;
    }
    read();
    sinceMove++;
  }
  return recorded;
}

function eventOf(indicated: number, gauge: Instrument, place: GaugePlace): AdjustEvent {
  const m = measure([indicated], gauge, new Date(), place);
  return { kind: "reading", value: m.value, u: Math.sqrt(m.u ** 2 - m.uCommon ** 2), uCommon: m.uCommon };
}
