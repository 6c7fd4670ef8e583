import type { Verdict } from "../../metrology";
import type { SchoolsOf } from "../../school";
import { toleranceFor } from "../../spec";
import { judgeHardness, serviceMonths } from "../../water";
import { type SheetRecords, figure, latest } from "../records";
import { type SheetQuestion, type Station, has } from "../plan";
import { station, tick } from "./build";

/** Water before the machine: hardness, cartridge, line. */

/** Hardness, and on a new plumbed machine what the connection needs. */
export function water(question: SheetQuestion): Station | null {
  const { kind } = question;
  if (!has(question, "water") || kind.supply === "none") return null;
  const plumbed = kind.supply === "plumbed";
  const fresh = has(question, "setup");
  return station(
    "water",
    "Water",
    "hardness strip",
    [
      {
        id: "water.hardness",
        label: "Hardness",
        hint: "As the strip shows it; a range is fine: “3 to 4 °dH”.",
        kind: "hardness",
      },
      {
        id: "water.alkalinity",
        label: "Alkalinity",
        kind: "figure",
        dimension: "hardness",
        possible: [0, 1000],
        usual: [10, 400],
        resolution: 1,
        optional: true,
        hint: "Where the strip shows it: a narrower scale forecast.",
      },
      {
        id: "water.decision",
        label: "Action on hardness",
        hint: "Scale forms faster the hotter and harder the water. The report and the owner’s page say what was decided.",
        kind: "choice",
        when: (r) => r.values.has("water.decision") || hardnessVerdict(r, question.schools.hardness) === "off",
        options: [
          { value: "filter", label: "Filter or softener fitted, or ordered" },
          { value: "other", label: "Other water from now on" },
          { value: "interval", label: `Shorter service interval: ${serviceMonths(kind.supply).hard} months` },
          { value: "as-is", label: "Owner keeps it as it is" },
        ],
      },
      ...(plumbed && fresh
        ? [
            tick("water.shut-off", "Shut-off valve of its own, within reach"),
            tick("water.drain", "Drain hose fitted and secured", { hint: "Before the machine is pushed back." }),
            tick("water.back-flow", "Back-flow prevention as local codes require"),
          ]
        : []),
    ],
    { cautions: plumbed ? ["water", "back-flow"] : [], schools: ["hardness"], tellsScale: true },
  );
}

function hardnessVerdict(r: SheetRecords, school: SchoolsOf["hardness"]): Verdict | null {
  const read = latest(r, "water.hardness");
  if (read?.form !== "figure") return null;
  return judgeHardness(read.low ?? read.value, read.high ?? read.value, school).verdict;
}

/** Cartridge and line, where they are worked on: whoever only hands a machine over finds them in order. */
const waterWork = (question: SheetQuestion) =>
  question.kind.supply === "plumbed" &&
  has(question, "water") &&
  (!has(question, "hand-over") || has(question, "setup") || has(question, "work"));

/** The cartridge: purged, and when it is changed next. */
export function filter(question: SheetQuestion): Station | null {
  if (!waterWork(question)) return null;
  return station(
    "filter",
    "Filter cartridge",
    "bucket, hose to waste",
    [
      {
        id: "filter.purge",
        label: "Litres purged since the change",
        hint: "15 to 20 L to waste before the machine’s inlet opens, after every change too.",
        kind: "purge",
      },
      { id: "filter.next", label: "Next change", kind: "cartridge" },
    ],
    { tellsScale: true, cautions: ["carbon-fines"], after: [["water", "Hardness first: it decides the cartridge."]] },
  );
}

/** Idle line pressure: what it may be, by the model's card or the spec card. */
export function line(question: SheetQuestion): Station | null {
  const { card, spec, loops } = question;
  if (!waterWork(question)) return null;
  const usual = toleranceFor(spec, "line-pressure") ?? { lower: 3, upper: 6 };
  const tolerance = card.linePressure ? { lower: card.linePressure.lowest, upper: card.linePressure.highest } : usual;
  const high = tolerance.upper ?? 6;
  return station(
    "line",
    "Line pressure",
    "line gauge",
    [
      tick("line.opened", "Shut-off opened slowly, flow heard"),
      {
        id: "line.idle",
        label: "Idle line pressure in the machine",
        kind: "figure",
        dimension: "pressure",
        possible: [0, 16],
        usual: [1, 8],
        resolution: 0.1,
        instrument: "pressure",
        place: "line",
        tolerance,
        mustHold: {
          below: "Too low for the pump: find the starved inlet (tap, strainer, hose), then read again.",
          above: `Over ${high} bar: close the shut-off, fit a pressure regulator, then read again.`,
        },
      },
      tick("line.regulator", "Pressure regulator fitted and set", {
        when: (r) => everOver(r.values.get("line.idle"), high) || (figure(r, "line.idle") ?? 0) > high,
      }),
      ...(loops.some((l) => l.id === "line-regulator")
        ? [
            {
              id: "line-regulator",
              label: "Regulator set by readings",
              kind: "loop" as const,
              loop: "line-regulator" as const,
              optional: true,
            },
          ]
        : []),
    ],
    {
      cautions: ["water"],
      skippable: false,
      after: [
        ["water", "Hardness before the first fill."],
        ["filter", "The cartridge is purged before the machine’s inlet opens."],
      ],
    },
  );
}

function everOver(values: readonly { form: string; value?: number }[] | undefined, limit: number): boolean {
  return values?.some((v) => v.form === "figure" && (v.value ?? 0) > limit) ?? false;
}
