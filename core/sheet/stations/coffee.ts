import { BASKETS, HOPPER, LEVELS, depthCheck } from "../../grinder";
import { type SheetQuestion, type Station, has } from "../plan";
import type { Task } from "../tasks";
import { WARM, read, station, table, tick } from "./build";

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
      ...(timed ? [setting()] : []),
      { id: "grinder.basket", label: "Dose by the scale", kind: "loop", loop: "basket" },
      ...(kind.knobs.includes("dose-dial") ? [halves()] : []),
      ...(kind.groups === 0 ? [] : [basket()]),
      wanted("grinder.target", "Dose wanted in the basket", [5, 25]),
      ...(kind.groups === 0 ? [] : [wanted("grinder.yield", "Yield wanted in the cup", [10, 80])]),
      depth(),
    ],
    {
      ...(own ? { cautions: ["burrs"] } : {}),
      // Where no shots are asked for, one may still be pulled to see.
      triesShots: kind.groups > 0 && !has(question, "shots"),
    },
  );
}

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

/** What is wanted is said, not read: no instrument goes with it. */
export const wanted = (id: string, label: string, usual: readonly [number, number], most = 120): Task => ({
  id,
  label,
  hint: "Empty: as the basket, the card and the schools have it.",
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
    label: "Grind set to, when it is changed",
    hint: "A coarser grind grinds faster: the dose is timed anew after every change.",
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
    label: "Without a scale: tamped coffee against the collar line",
    kind: "choice",
    optional: true,
    options: LEVELS.map((level) => ({ value: level, label: depthCheck(level) })),
  };
}

function halves(): Task {
  return table(
    "grinder.halves",
    "Two half doses, a press between",
    "halves",
    [
      read("first", "First half", "mass", [0.5, 60]),
      read("second", "Second half", "mass", [0.5, 60], { optional: true }),
    ],
    { hint: "Grind half, press, grind the rest: the first one weighed says how much the second has to be." },
  );
}

/** Calibration shots, until one is taken as the recipe. */
export function shots(question: SheetQuestion): Station | null {
  if (!has(question, "shots") || question.kind.groups === 0) return null;
  return station(
    "shots",
    "Calibration shots",
    "coffee, scale, timer",
    [{ id: "shots", label: "Shots, until one is taken as the recipe", kind: "shots" }],
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
