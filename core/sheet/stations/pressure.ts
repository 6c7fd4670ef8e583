import { pressureCheck } from "../../pressure";
import { type HardStop, type SheetQuestion, type Station, type StationId, has } from "../plan";
import type { Task } from "../tasks";
import { LOCAL_RULES, station, tick } from "./build";
import { type SheetRecords, loopRecord } from "../records";

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

const SWAP: HardStop = {
  title: "Before the spring is swapped",
  lines: [
    "Pressure stands behind the blanked portafilter. Loosen the gauge slowly under a towel and wait until it reads zero.",
    "Switch off, unplug and let it cool: the spring sits behind the case, beside live terminals and hot pipes.",
    "Cover back on before it is plugged in and read again. The same before every swap.",
    LOCAL_RULES,
  ],
  confirm: "The gauge reads zero, it is off, unplugged and cool",
};

const CAUSE: Task = {
  id: "diagnosis.brew-pressure",
  label: "Find the cause",
  kind: "diagnosis",
  pattern: "brew-pressure",
  optional: true,
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

/** No pump: line pressure makes the pre-infusion, the spring the shot. */
function preInfusion(): Station {
  return station(
    "pre-infusion",
    "Pre-infusion",
    "gauge portafilter",
    [
      {
        id: "pre-infusion",
        label: "Pressure with the lever held down",
        hint: "What the line gives at the group. The regulator sets it, the cam times it.",
        kind: "loop",
        loop: "pre-infusion",
      },
    ],
    {
      cautions: ["hot", "water"],
      after: [["boiler-ready", "Pressure is read on a hot machine: the boiler comes first."]],
    },
  );
}

/** Brew pressure in stations of its own: covers, as found, next move, as left, closing up; on a lever what the line makes. */
export function pressure(question: SheetQuestion): (Station | false)[] {
  const { kind, loops } = question;
  if (!has(question, "pressure")) return [];
  if (pressureCheck(kind) === "not-applicable") return kind.boiler === "lever" ? [preInfusion()] : [];
  const loop = loops.find((l) => l.id === "opv");
  const adjustable = Boolean(loop?.knob);
  const covers = adjustable && (kind.opv === "inside" || kind.opv === "isolation-tap");
  const spring = kind.opv === "spring";
  const hot: [StationId, string][] = [
    ["purge", "The group is purged first."],
    ["boiler-ready", "Pressure is read on a hot machine: the boiler comes first."],
  ];
  const confirm = (id: StationId, hardStop: HardStop) => ({
    id: hardStop === SWAP ? `${id}.zero` : id,
    label: hardStop.confirm,
    kind: "tick" as const,
    // With nothing to swap there is nothing to let out before it.
    ...(hardStop === SWAP ? { when: (r: SheetRecords) => !loopRecord(r, "opv").accepted } : {}),
  });
  return [
    covers &&
      station("covers", "Covers off", "dry hands, clear bench", [confirm("covers", COVERS)], {
        hardStop: COVERS,
        beside: { loop: "opv", reads: false },
        cautions: ["live-parts", "hot"],
        after: [...hot, ["tools", "Tools are laid out before the cover comes off."]],
        skippable: false,
      }),
    station(
      "as-found",
      "As found",
      "gauge in, machine hot",
      [
        { id: "as-found", label: "Readings as found", kind: "readings", loop: "opv", run: "as-found" },
        ...(adjustable ? [] : [CAUSE]),
      ],
      {
        cautions: ["hot", ...(kind.threeWayValve ? [] : (["trapped-pressure"] as const))],
        after: [...hot, ["tools", "The gauge comes out of the case first."], ["covers", "The cover comes off first."]],
        schools: ["opv"],
        // Covers are off: what follows must be gone through to the refit.
        skippable: !covers,
      },
    ),
    adjustable &&
      station(
        "adjust",
        "Next move",
        spring ? "springs, spanner" : kind.opv === "isolation-tap" ? "screwdriver, tap closed" : "screwdriver",
        [
          ...(spring ? [confirm("adjust", SWAP)] : []),
          ...(kind.opv === "isolation-tap"
            ? [
                tick("tap.closed", "Isolation tap before the group closed", {
                  hint: "The valve is set against the closed tap, so that only it and the pump decide.",
                  when: (r) => !loopRecord(r, "opv").accepted || loopRecord(r, "opv").events.includes("move"),
                }),
              ]
            : []),
          { id: "adjust", label: "Next move", kind: "adjust", loop: "opv" },
          CAUSE,
        ],
        {
          ...(spring ? { hardStop: SWAP } : {}),
          cautions: covers ? ["live-parts"] : spring ? ["trapped-pressure", "live-parts"] : [],
          after: [["as-found", "As found is read before anything is touched."]],
        },
      ),
    adjustable &&
      station(
        "as-left",
        "As left",
        "gauge",
        [
          ...(kind.opv === "isolation-tap"
            ? [
                tick("tap.open", "Isolation tap open again", {
                  when: (r) => loopRecord(r, "opv").events.includes("move"),
                }),
              ]
            : []),
          { id: "as-left", label: "Readings as left", kind: "readings", loop: "opv", run: "as-left" },
        ],
        {
          cautions: ["hot"],
          after: [["adjust", "The next move comes first."]],
        },
      ),
    !kind.threeWayValve &&
      station("release", "Let the pressure out", "towel, time", [confirm("release", RELEASE)], {
        hardStop: RELEASE,
        beside: { loop: "opv", reads: false },
        cautions: ["trapped-pressure", "hot"],
        after: [
          ["as-found", "Pressure is read first."],
          ["as-left", "As left is read first."],
        ],
        skippable: false,
      }),
    covers &&
      station("refit", "Cover back on", "switched off, unplugged", [confirm("refit", REFIT)], {
        hardStop: REFIT,
        // A doubt at the last moment is read once more before the case is shut.
        beside: { loop: "opv", reads: true },
        cautions: ["live-parts"],
        after: [["as-left", "As left is read before the cover goes back."]],
        skippable: false,
      }),
  ];
}
