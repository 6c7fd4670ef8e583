import { pressureCheck } from "../../pressure";
import { type HardStop, type SheetQuestion, type Station, type StationId, has } from "../plan";
import type { Task } from "../tasks";
import { LOCAL_RULES, station, tick } from "./build";
import { type SheetRecords, loopRecord } from "../records";
import { COVERS, REFIT, beforeMoves, meant, opensFor } from "./opened";

/** Brew pressure: as found, covers off where something is to be adjusted behind them, as left, and closing up. */

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

const causeOf = ({ flowControl }: SheetQuestion): Task => ({
  id: "diagnosis.brew-pressure",
  label: "Brew pressure: find the cause",
  kind: "diagnosis",
  pattern: flowControl ? "brew-pressure-flow-control" : "brew-pressure",
  optional: true,
});

/** No pump: line pressure makes the pre-infusion, the spring the shot. */
function preInfusion(): Station {
  return station(
    "pre-infusion",
    "Pre-infusion pressure",
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
      after: [["boiler-ready", "Brew pressure is measured on a hot machine: the boiler comes first."]],
    },
  );
}

/** Brew pressure in stations of its own: as found, covers, adjust, as left, closing up; on a lever what the line makes. */
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
    ["boiler-ready", "Brew pressure is measured on a hot machine: the boiler comes first."],
  ];
  const brew = (r: SheetRecords) => loopRecord(r, "opv");
  /** A case is opened only for an adjustment behind it; once it is open it must be closed, whatever came of it. */
  const opened = (r: SheetRecords) => r.values.has("covers");
  const opens = opensFor("opv");
  const shutYet = (r: SheetRecords) => opens(r) && !opened(r) && !r.values.has("adjust.zero");
  const moves = (r: SheetRecords) => brew(r).events.at(-1) === "reading" && opens(r);
  return [
    station(
      "as-found",
      "Brew pressure: as found",
      "gauge in, machine hot",
      [
        ...(question.flowControl
          ? [
              tick("flow.open", "Flow control fully open", {
                hint: "Half shut it throttles the pump: a low reading then is neither a weak pump nor a low OPV.",
              }),
            ]
          : []),
        { id: "as-found", label: "Brew pressure as found", kind: "readings", loop: "opv", run: "as-found" },
        // Before anything is opened it is looked for here; once it is, or nothing is to be opened, where it is adjusted.
        ...(adjustable ? (loop?.opens ? [{ ...causeOf(question), when: shutYet }] : []) : [causeOf(question)]),
      ],
      {
        cautions: ["hot", ...(kind.threeWayValve ? [] : (["trapped-pressure"] as const))],
        after: [...hot, ["tools", "Set out the tools first: the gauge is one of them."]],
        schools: ["opv"],
      },
    ),
    covers &&
      station("covers", "Covers off", "dry hands, clear bench", [beforeMoves("covers", "opv", COVERS)], {
        hardStop: COVERS,
        beside: { loop: "opv", reads: false },
        cautions: ["live-parts", "hot"],
        after: [...hot, ["as-found", "Brew pressure as found comes first: a machine in spec stays closed."]],
        skippable: false,
      }),
    adjustable &&
      station(
        "adjust",
        "Brew pressure: adjust",
        spring ? "springs, spanner" : kind.opv === "isolation-tap" ? "screwdriver, tap closed" : "screwdriver",
        [
          ...(spring ? [beforeMoves("adjust.zero", "opv", SWAP)] : []),
          ...(kind.opv === "isolation-tap"
            ? [
                tick("tap.closed", "Isolation tap before the group: closed", {
                  hint: "The OPV is set against the closed tap, read on the pump side: only OPV and pump decide.",
                  releases: "tap.open",
                  // Open again for as left, it is closed anew only for another move.
                  when: (r) => r.values.has("tap.closed") || moves(r),
                }),
              ]
            : []),
          { id: "adjust", label: "Adjust the OPV", kind: "adjust", loop: "opv" },
          ...(loop?.opens ? [meant("opv")] : []),
          { ...causeOf(question), ...(loop?.opens ? { when: (r: SheetRecords) => !shutYet(r) } : {}) },
        ],
        {
          ...(spring ? { hardStop: SWAP } : {}),
          cautions: covers ? ["live-parts"] : spring ? ["trapped-pressure", "live-parts"] : [],
          after: [
            ["as-found", "Brew pressure as found comes first."],
            ["covers", "The cover comes off first."],
          ],
        },
      ),
    adjustable &&
      station(
        "as-left",
        "Brew pressure: as left",
        "gauge",
        [
          ...(kind.opv === "isolation-tap"
            ? [
                tick("tap.open", "Isolation tap before the group: open again", {
                  releases: "tap.closed",
                  when: (r) => brew(r).events.includes("move") || r.values.has("tap.closed"),
                }),
              ]
            : []),
          { id: "as-left", label: "Brew pressure as left", kind: "readings", loop: "opv", run: "as-left" },
        ],
        {
          cautions: ["hot"],
          after: [["adjust", "The adjustment comes first."]],
        },
      ),
    !kind.threeWayValve &&
      station(
        "release",
        "Release trapped pressure",
        "towel, time",
        [{ ...tick("release", RELEASE.confirm), when: (r) => r.values.has("release") || brew(r).events.length > 0 }],
        {
          hardStop: RELEASE,
          beside: { loop: "opv", reads: false },
          cautions: ["trapped-pressure", "hot"],
          after: [
            ["as-found", "Brew pressure is read first."],
            ["as-left", "Brew pressure as left is read first."],
          ],
          skippable: false,
        },
      ),
    covers &&
      station(
        "refit",
        "Cover back on",
        "switched off, unplugged",
        [{ ...tick("refit", REFIT.confirm), when: opened }],
        {
          hardStop: REFIT,
          // A doubt at the last moment is read once more before the case is shut.
          beside: { loop: "opv", reads: true },
          cautions: ["live-parts"],
          after: [["as-left", "Brew pressure as left is read before the cover goes back on."]],
          skippable: false,
        },
      ),
  ];
}
