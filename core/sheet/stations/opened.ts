import type { Loop, LoopId } from "../../knobs";
import type { HardStop } from "../plan";
import { type LoopRecord, type SheetRecords, loopRecord } from "../records";
import type { Task } from "../tasks";
import { LOCAL_RULES, tick } from "./build";

/** What lies behind a cover: opened only for an adjustment that is advised or meant, and closed whatever came of it. */

export const COVERS: HardStop = {
  title: "Covers off: live parts",
  lines: [
    "With the cover off and the machine on, terminals are live and pipes are hot.",
    "Switch off and unplug before the cover comes off. Keep it off only as long as the work needs.",
    "Dry hands, no rings, one hand behind you near live parts.",
    LOCAL_RULES,
  ],
  confirm: "Off, unplugged: the cover is off",
};

export const REFIT: HardStop = {
  title: "Off and unplugged first",
  lines: [
    "Switch the machine off and pull the plug before the cover goes back on.",
    "No wire pinched, no tool left inside, every screw back in.",
    LOCAL_RULES,
  ],
  confirm: "Unplugged: the cover is on",
};

/** Read, not in spec, and neither given up nor stopped: it is still to be adjusted. */
export function toAdjust({ events, accepted, faultTaken, stopped }: LoopRecord): boolean {
  return events.length > 0 && !accepted && !faultTaken && !stopped;
}

const meantTask = (loop: LoopId) => `${loop}.meant`;

/** Whether what a knob lies behind is opened: where that is advised, or somebody means to turn it all the same. */
export function opensFor(loop: LoopId): (r: SheetRecords) => boolean {
  return (r) => {
    const record = loopRecord(r, loop);
    return record.events.length > 0 && ((toAdjust(record) && record.turns) || r.values.has(meantTask(loop)));
  };
}

/** A tick that stands before every move of a knob: the case is open and dead, the pressure is out. */
export const beforeMoves = (id: string, loop: LoopId, { confirm }: HardStop): Task => ({
  ...tick(id, confirm),
  kind: "tick",
  before: loop,
  when: (r) => r.values.has(id) || opensFor(loop)(r),
});

/** The way on for who turns it by judgement where no adjustment is advised. */
export const meant = (loop: LoopId): Task => ({
  ...tick(meantTask(loop), "Adjust all the same, by your own judgement"),
  kind: "tick",
  quiet: true,
  optional: true,
  when: (r) => {
    const record = loopRecord(r, loop);
    const asks = record.events.at(-1) === "reading" && !record.turns && !record.faultTaken && !record.stopped;
    return r.values.has(meantTask(loop)) || (asks && !record.events.includes("move"));
  },
});

/** Read coarsely with a finer instrument in the kit: that one is read before anything is opened, or said not to be at hand. */
export const finerFirst = ({ id: loop, opens }: Loop): Task => {
  const id = `${loop}.finer`;
  return {
    ...tick(id, "Finer instrument not at hand"),
    kind: "tick",
    quiet: true,
    says: (r) => {
      const { finer } = loopRecord(r, loop);
      return (
        finer &&
        `Read with ${finer} before anything is ${opens ? "opened" : "adjusted"}: what was read so far is coarse for this tolerance.`
      );
    },
    when: (r) => r.values.has(id) || loopRecord(r, loop).finer !== "",
  };
};
