import { pressureCheck } from "../../pressure";
import type { HardStop, SheetQuestion, Station, StationId } from "../plan";
import { LOCAL_RULES, station } from "./build";

/** Brew pressure: covers, as found, the next move, as left, and closing up. */

const COVERS: HardStop = {
  title: "Covers off: live parts",
  lines: [
    "With the cover off and the machine on, terminals are live and pipes are hot.",
    "Switch off and unplug before the cover comes off. Keep it off only as long as the work needs.",
    "Dry hands, no rings, one hand behind you near live parts.",
    LOCAL_RULES,
  ],
  confirm: "Understood, cover is off",
};

const RELEASE: HardStop = {
  title: "Trapped pressure",
  lines: [
    "This machine has no three-way valve. Up to 10 bar stay behind the blanked portafilter long after the pump has stopped.",
    "Loosen the gauge slowly under a towel and let it bleed. Do not turn the handle.",
    "Wait until the gauge reads zero.",
    LOCAL_RULES,
  ],
  confirm: "The gauge reads zero",
};

const REFIT: HardStop = {
  title: "Off and unplugged first",
  lines: [
    "Switch the machine off and pull the plug before the cover goes back on.",
    "No wire pinched, no tool left inside, every screw back in.",
    LOCAL_RULES,
  ],
  confirm: "It was unplugged, cover is on",
};

/** @throws RangeError when a check is asked of a kind that has no pump */
export function pressure({ type, kind }: SheetQuestion): (Station | false)[] {
  const check = pressureCheck(kind);
  if (check === "not-applicable") {
    if (type === "check") throw new RangeError(`A brew pressure check does not apply to this kind: ${kind.label}.`);
    return [];
  }
  if (type === "handover") return [];
  const covers = check === "adjustable" && kind.opv !== "outside";
  const hot: [StationId, string][] = [
    ["purge", "The group is purged first."],
    ["boiler-ready", "Pressure is read on a hot machine: the boiler comes first."],
  ];
  const confirm = (id: StationId, hardStop: HardStop) => ({ id, label: hardStop.confirm, kind: "tick" as const });
  return [
    covers &&
      station("covers", "Covers off", "dry hands, clear bench", [confirm("covers", COVERS)], {
        hardStop: COVERS,
        cautions: ["live-parts", "hot"],
        after: [...hot, ["tools", "Tools are laid out before the cover comes off."]],
        skippable: false,
      }),
    station(
      "as-found",
      "As found",
      "gauge in, machine hot",
      [{ id: "as-found", label: "Readings as found", kind: "readings", run: "as-found" }],
      {
        cautions: ["hot", ...(kind.threeWayValve ? [] : (["trapped-pressure"] as const))],
        after: [...hot, ["tools", "The gauge comes out of the case first."], ["covers", "The cover comes off first."]],
        // Covers are off: what follows must be gone through to the refit.
        skippable: !covers,
      },
    ),
    check === "adjustable" &&
      station(
        "adjust",
        "Next move",
        kind.opv === "isolation-tap" ? "screwdriver, tap closed" : "screwdriver",
        [{ id: "adjust", label: "Next move", kind: "adjust" }],
        {
          cautions: covers ? ["live-parts"] : [],
          after: [["as-found", "As found is read before anything is touched."]],
        },
      ),
    check === "adjustable" &&
      station(
        "as-left",
        "As left",
        "gauge",
        [{ id: "as-left", label: "Readings as left", kind: "readings", run: "as-left" }],
        {
          cautions: ["hot"],
          after: [["adjust", "The next move comes first."]],
        },
      ),
    !kind.threeWayValve &&
      station("release", "Let the pressure out", "towel, time", [confirm("release", RELEASE)], {
        hardStop: RELEASE,
        cautions: ["trapped-pressure", "hot"],
        after: [["as-found", "Pressure is read first."]],
        skippable: false,
      }),
    covers &&
      station("refit", "Cover back on", "switched off, unplugged", [confirm("refit", REFIT)], {
        hardStop: REFIT,
        cautions: ["live-parts"],
        after: [["as-left", "As left is read before the cover goes back."]],
        skippable: false,
      }),
  ];
}
