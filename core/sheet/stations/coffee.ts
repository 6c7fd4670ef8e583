import type { MachineKind } from "../../kind";
import type { Task } from "../tasks";
import { BASKETS, HOPPER, LEVELS, depthCheck } from "../../grinder";
import { type SheetQuestion, type Station, has } from "../plan";
import { WARM, station, tick } from "./build";

/** Grinder and dose, then the shots that prove them. */

/** The dose by the scale, by whatever changes it on this kind. */
export function grinder(question: SheetQuestion): Station | null {
  const { kind } = question;
  if (!has(question, "grinder") || !kind.dosed) return null;
  const own = kind.grinder !== "separate";
  const timed = kind.knobs.includes("timer");
  return station(
    "grinder",
    "Grinder and dose",
    "scale to 0.1 g, coffee",
    [
      tick("grinder.purged", "Stale grounds purged"),
      ...(own ? [hopper()] : []),
      ...(kind.groups === 0 ? [] : [basket()]),
      ...wantedOf(kind),
      depth(),
      ...(timed ? [setting()] : []),
      ...(kind.knobs.includes("dose-stop") && question.card.stopThreads === "unknown" ? [stopThreads] : []),
      { id: "grinder.basket", label: "Dose, weighed", kind: "loop", loop: "basket" },
    ],
    {
      ...(own ? { cautions: ["burrs"] } : {}),
      // Where no shots are asked for, one may still be pulled to see.
      triesShots: kind.groups > 0 && !has(question, "shots"),
    },
  );
}

/** Under this task name it is kept what the threads of a dose stop do, where the model data did not say. */
export const STOP_TASK = "grinder.stop";

const stopThreads: Task = {
  id: STOP_TASK,
  label: "Dose stop: more threads showing give",
  hint: "Models differ. Not known: weigh a dose, turn the stop one thread, weigh again, then answer. The answer goes into the model data.",
  kind: "choice",
  options: [
    { value: "less", label: "less coffee" },
    { value: "more", label: "more coffee" },
  ],
};

function basket(): Task {
  return {
    id: "grinder.which",
    label: "Basket",
    kind: "choice",
    optional: true,
    options: (["double", "single"] as const).map((id) => ({
      value: id,
      label: `${BASKETS[id].label}, ${BASKETS[id].usual} g to begin with`,
    })),
  };
}

/** Dose and yield wanted: asked where the dose is set, and where no dose is, with the shots. */
const wantedOf = (kind: MachineKind): Task[] => [
  wanted("grinder.target", "Dose wanted in the basket", [5, 30]),
  ...(kind.groups === 0 ? [] : [wanted("grinder.yield", "Yield wanted in the cup", [10, 90])]),
];

/** What is wanted is said, not read: no instrument goes with it. */
export const wanted = (id: string, label: string, usual: readonly [number, number], most = 120): Task => ({
  id,
  label,
  hint: "One number or a range, like “18 to 20”. Leave empty for the standard.",
  range: true,
  kind: "figure",
  dimension: "mass",
  possible: [4, most],
  usual,
  resolution: 0.1,
  optional: true,
});

function setting(): Task {
  return {
    id: "grinder.setting",
    label: "Grind setting, when it is changed",
    hint: "A coarser grind grinds faster: time the dose again after every change.",
    kind: "figure",
    dimension: "mark",
    possible: [-200, 2000],
    usual: [0, 200],
    resolution: 0.1,
    optional: true,
  };
}

function hopper(): Task {
  return {
    id: "grinder.hopper",
    label: "Beans in the hopper",
    hint: "With fewer, dose and time wander: they press too little on the burrs.",
    kind: "choice",
    options: [
      { value: "enough", label: HOPPER.enough },
      { value: "low", label: HOPPER.low },
    ],
  };
}

function depth(): Task {
  return {
    id: "grinder.depth",
    label: "Without a scale: tamped coffee against the tamper’s collar line",
    kind: "choice",
    optional: true,
    options: LEVELS.map((level) => ({ value: level, label: depthCheck(level) })),
  };
}

/** Calibration shots, until one is used as the recipe. */
export function shots(question: SheetQuestion): Station | null {
  if (!has(question, "shots") || question.kind.groups === 0) return null;
  return station(
    "shots",
    "Calibration shots",
    "coffee, scale, timer",
    [
      // Where the dose is no step of its own, what is wanted is said here: pre-ground, pressurised, a handover of shots alone.
      ...(has(question, "grinder") && question.kind.dosed ? [] : wantedOf(question.kind)),
      { id: "shots", label: "Shots, until one is used as the recipe", kind: "shots" },
    ],
    {
      cautions: ["hot"],
      schools: ["shotClock", "shotWindow", "ratio", "grindOrDose"],
      after: [
        WARM,
        ["grinder", "The dose is weighed first."],
        ["release", "The pressure is let out first."],
        ["refit", "The cover goes back on before shots are pulled."],
      ],
    },
  );
}
