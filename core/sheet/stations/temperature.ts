import { ROAST_SET_POINTS } from "../../shot";
import { secondOf } from "../analyse";
import { type SheetRecords, loopRecord } from "../records";
import { type SheetQuestion, type Station, has } from "../plan";
import type { Task } from "../tasks";
import { WARM, read, station, table } from "./build";

/** Set points by roast, beside the display. Common practice. */
const BY_ROAST = `Set points by roast: ${Object.entries(ROAST_SET_POINTS)
  .map(([roast, [low, high]]) => `${roast} ${low} to ${high} °C`)
  .join(", ")}.`;

/** Temperature at the group: offset where there is a display, timing where there is none. */

/** Water at the group: against the display, the card, or the clock. */
export function temperature(question: SheetQuestion): Station | null {
  const { kind, loops, schools } = question;
  if (!has(question, "temperature") || kind.groups === 0) return null;
  const offset = loops.some((l) => l.id === "offset");
  const moved = (r: SheetRecords) =>
    loopRecord(r, "offset").accepted && loopRecord(r, "offset").events.includes("move");
  return station(
    "temperature",
    "Temperature at the group",
    "thin probe in the portafilter",
    [
      offset
        ? {
            id: "offset",
            label: "Group temperature error",
            hint:
              schools.temperatureOffset === "leave"
                ? `Workshop method: left at 0 when in spec. ${BY_ROAST}`
                : `Workshop method: measured and corrected. ${BY_ROAST}`,
            kind: "loop",
            loop: "offset",
          }
        : { id: "temperature", label: "Plateau while water flows", kind: "loop", loop: "temperature" },
      ...(offset
        ? [
            table(
              "temperature.second",
              "At a second set point, 2 °C away",
              "second-set-point",
              [
                read("set", "Set point", "temperature", [60, 130], { resolution: 0.5, display: true }),
                read("water", "Plateau", "temperature", [20, 130]),
              ],
              {
                least: 1,
                countsWarm: true,
                when: moved,
                hint: "The same error at both: an offset. Different: a faulty probe. Set it back after.",
              },
            ),
            {
              id: "temperature.probe",
              label: "An offset cannot explain this: decision about the probe",
              kind: "text" as const,
              hint: "Read the second once more, or say what is done. The report shows it.",
              when: (r: SheetRecords) => moved(r) && secondOf(r)?.check?.verdict === "not an offset",
            },
          ]
        : []),
      ...(kind.readySign === "light" && kind.boiler === "single" ? lightCycle() : []),
      ...(kind.boiler === "heat-exchanger" || kind.boiler === "lever" ? flush() : []),
      {
        id: "temperature.early",
        label: "Why it was read before it was warmed up",
        kind: "text",
        hint: "Readings taken before that run cool. Read again once it is warmed up, or say why these stand.",
        when: (r) => loopRecord(r, offset ? "offset" : "temperature").early,
      },
      {
        id: "diagnosis.temperature",
        label: "Find the cause",
        kind: "diagnosis",
        pattern: "temperature",
        optional: true,
      },
    ],
    { cautions: ["hot"], after: [WARM], schools: offset ? ["temperatureOffset"] : [] },
  );
}

const SECONDS = (name: string, label: string) => read(name, label, "time", [1, 600], { resolution: 1 });

/** No display: the brew moment against the thermostat’s light. */
function lightCycle(): Task[] {
  return [
    table(
      "temperature.cycle",
      "Cycle of the light",
      "light-cycle",
      [read("on", "Heating", "time", [1, 600], { resolution: 1, optional: true }), SECONDS("off", "Resting")],
      {
        countsWarm: true,
        hint: "How long it heats, how long it rests. One cycle, or about how long it rests, is enough to begin; two are better.",
      },
    ),
    table(
      "temperature.wait",
      "The wait, by taste",
      "wait",
      [
        read("wait", "Waited", "time", [0, 120], { resolution: 1 }),
        {
          name: "taste",
          label: "Taste",
          type: {
            kind: "choice",
            options: [
              { value: "sour", label: "sour" },
              { value: "balanced", label: "balanced" },
              { value: "bitter", label: "bitter" },
            ],
          },
        },
      ],
      { countsWarm: true, hint: "Sour: wait less. Bitter: wait longer." },
    ),
    { id: "temperature.plan", label: "Timed brewing", kind: "plan", plan: "light-cycle", optional: true },
  ];
}

function flush(): Task[] {
  return [
    table(
      "temperature.flush",
      "Cooling flush",
      "flush",
      [
        read("seconds", "Flushed", "time", [0, 60], { resolution: 0.5 }),
        read("celsius", "Water after it", "temperature", [60, 130]),
      ],
      {
        countsWarm: true,
        hint: "Idle water in the exchanger boils first. Flush, then read the water: three tries of different lengths fit the line.",
      },
    ),
    { id: "temperature.flush-plan", label: "Timed flush", kind: "plan", plan: "flush", optional: true },
  ];
}
