import { BUTTONS, BUTTON_WORDS } from "../../knobs";
import { type SheetQuestion, type Station, has } from "../plan";
import type { Task } from "../tasks";
import { WARM, read, station, table, tick } from "./build";
import { wanted } from "./coffee";

/** Flow meters and dose buttons. */

const groupsOf = ({ kind }: SheetQuestion) => Array.from({ length: kind.groups }, (_, i) => i + 1);

/** Meters, and what the buttons give as found. */
export function volumes(question: SheetQuestion): Station | null {
  const { kind, card, schools } = question;
  if (!buttonsHere(question)) return null;
  const two = kind.groups > 1;
  const metered = card.programming === "pulses";
  return station(
    "volumes",
    "Buttons and meters: as found",
    metered ? "scale, jug, pulse count" : "scale, jug",
    [
      ...loopsFor(question).map(({ loop, title, main }): Task => ({
        id: `as-found-${loop}`,
        label: `${title}, as found`,
        kind: "readings",
        run: "as-found",
        once: true,
        loop,
        ...(main ? {} : { optional: true }),
      })),
      ...(metered ? groupsOf(question).map((g) => meter(g, two)) : []),
      storage(),
      ...(schools.teaching === "volume" || metered ? [kept()] : [drip()]),
      {
        id: "diagnosis.flow-alarm",
        label: "Flow alarm: find the cause",
        hint: "No pulses while the pump runs. It is information first: nothing is broken by it, and most often the coffee lets nothing through.",
        kind: "diagnosis",
        pattern: "flow-alarm",
        optional: true,
      },
    ],
    { cautions: ["hot"], after: [WARM], schools: ["teaching"] },
  );
}

const buttonsHere = (question: SheetQuestion) =>
  has(question, "volumes") &&
  question.card.buttons !== "none" &&
  question.card.doseButtons > 0 &&
  question.kind.groups > 0;

/** The buttons of this machine, the double of each group first needed. */
function loopsFor({ loops }: SheetQuestion) {
  return loops.flatMap(({ id, title, at: { button } }) =>
    button ? [{ loop: id, title, main: button === "double" }] : [],
  );
}

/** Taught once grind and dose are final: with coffee, or by volume where that is the school. */
export function buttons(question: SheetQuestion): Station | null {
  const { card, schools } = question;
  if (!buttonsHere(question)) return null;
  return station(
    "buttons",
    "Teach the buttons",
    schools.teaching === "coffee" ? "coffee, scale" : "scale, meter factor, kept water",
    [
      tick("buttons.reset", "Factory reset before teaching", {
        optional: true,
        hint: "It clears every button of the machine: what was stored is gone, so it is noted as found before.",
      }),
      ...BUTTONS.slice(0, card.doseButtons).map((button) =>
        wanted(`target.${button}`, `${BUTTON_WORDS[button]}: target`, [12, 120], 300),
      ),
      ...loopsFor(question).map(({ loop, title, main }): Task => ({
        id: loop,
        label: `${title}: set, three shots`,
        kind: "loop",
        loop,
        ...(main ? {} : { optional: true }),
      })),
    ],
    {
      cautions: ["hot"],
      after: [
        WARM,
        ["volumes", "What the buttons give as found comes before they are taught."],
        ["grinder", "A button is taught at the final grind and dose.", "lasting"],
        ["shots", "The recipe comes first: a button is taught at the final grind and dose.", (r) => r.grindKept],
      ],
    },
  );
}

function meter(group: number, two: boolean): Task {
  return table(
    `volumes.meter.${group}`,
    `Meter factor${two ? `, group ${group}` : ""}`,
    "meter",
    [
      { name: "pulses", label: "Pulses", type: { kind: "count", possible: [1, 5000] } },
      read("grams", "Water in the jug", "mass", [1, 2000]),
    ],
    {
      group,
      countsWarm: true,
      hint: "Blank runs of different lengths, weighed: three at least, about 30, 60 and 100 ml.",
    },
  );
}

function storage(): Task {
  return table(
    "volumes.storage",
    "Does the button store volume or seconds?",
    "storage",
    [
      {
        name: "coffee",
        label: "Run",
        type: {
          kind: "choice",
          options: [
            { value: "blank", label: "without coffee" },
            { value: "coffee", label: "with coffee" },
          ],
        },
      },
      read("seconds", "Ran for", "time", [0.5, 180]),
      read("cup", "In the cup", "mass", [0.5, 500], { optional: true }),
      read("dose", "Dose", "mass", [1, 60], { optional: true }),
    ],
    {
      countsWarm: true,
      hint: "The same button without coffee and with: the same water means volume, the same seconds mean time. Seconds alone are enough to begin.",
    },
  );
}

function kept(): Task {
  return table(
    "volumes.kept",
    "Water kept by the puck",
    "kept",
    [
      read("dose", "Dose", "mass", [1, 60]),
      {
        name: "water",
        label: "Water in",
        type: { kind: "quantity", dimension: "volume", possible: [1, 1000], resolution: 0.5 },
      },
      read("cup", "In the cup", "mass", [0.5, 500]),
    ],
    {
      countsWarm: true,
      hint: "Pulses ÷ meter factor is the water in. What is not in the cup stayed in puck and headspace.",
    },
  );
}

function drip(): Task {
  return table(
    "volumes.drip",
    "Drip after the stop",
    "drip",
    [
      read("atStop", "On the scale at the stop", "mass", [0.5, 500]),
      read("cup", "In the cup after", "mass", [0.5, 500]),
    ],
    { countsWarm: true, hint: "The cup keeps filling after the button: learnt here, taken off where to stop." },
  );
}
