import type { MachineKind } from "../kind";
import type { SchoolsOf } from "../school";

/** What an owner is shown on the machine before it is left: what to say, what to show, what the owner does. Common practice of the trade. */

export type PartId = "warm-up" | "dose" | "tamp" | "shot" | "milk" | "clean" | "water";

export interface DemonstrationPart {
  readonly id: PartId;
  readonly label: string;
  /** In the owner’s words. */
  readonly say: string;
  /** What hands do, in order. */
  readonly show: readonly string[];
  /** What the owner then does alone. */
  readonly tries: string;
}

type Schools = Pick<SchoolsOf, "warmUp" | "backFlush">;

/**
 * The parts of a demonstration, in the order of making a coffee.
 *
 * @returns only what this kind can do
 */
export function demonstrationOf(kind: MachineKind, schools: Schools): DemonstrationPart[] {
  if (kind.groups === 0) return [timedDose(), grinderCleaning()];
  return [
    warmUp(kind, schools),
    // A threaded stop measures the dose of a machine that grinds and tamps by itself.
    ...(kind.knobs.includes("dose-stop") ? [ownDose()] : kind.dosed ? [dose(kind), tamp()] : []),
    shot(kind),
    ...(kind.steams ? [milk(kind)] : []),
    cleaning(kind, schools),
    water(kind),
  ];
}

function warmUp(
  { warmUp: { boilerReady, machineWarm, heatSoaked } }: MachineKind,
  { warmUp: method }: Schools,
): DemonstrationPart {
  const blank = method === "blank-shots";
  return {
    id: "warm-up",
    label: "Warm-up",
    say: `The boiler is ready after about ${minutes(boilerReady)}, the machine is warm later: ${
      heatSoaked
        ? `after about ${minutes(heatSoaked)} for a shop.`
        : blank
          ? "the group and the portafilter are still cold."
          : `after about ${minutes(machineWarm)}.`
    }`,
    show: [
      "The portafilter stays locked in the group while it heats: a cold one costs degrees.",
      blank
        ? "Two blank shots through the locked-in portafilter instead of the wait."
        : "What shows that it is ready, and how long to wait after.",
    ],
    tries: "Says when the machine is ready.",
  };
}

function dose({ grinder }: MachineKind): DemonstrationPart {
  return {
    id: "dose",
    label: "Dose",
    say: "The same weight each time: all else is set for it.",
    show: [
      "Basket dry and wiped, on the scale, to zero.",
      grinder === "built-in"
        ? "Grind, weigh, add or take away a little."
        : "Purge stale grounds, then grind, weigh, correct.",
      "Without a scale: tamped coffee level with the line of the tamper’s collar.",
    ],
    tries: "Doses into the basket and reads the weight.",
  };
}

function ownDose(): DemonstrationPart {
  return {
    id: "dose",
    label: "Dose",
    say: "The machine grinds and tamps by itself; the dose follows how full the hopper is.",
    show: [
      "Keep more than 2.5 cm of beans over the burrs.",
      "Where the dose is changed, and that it is left as it is set.",
    ],
    tries: "Fills the hopper and runs one dose.",
  };
}

function tamp(): DemonstrationPart {
  return {
    id: "tamp",
    label: "Tamp",
    say: "Level matters more than force.",
    show: ["Spread the coffee level.", "Press once, straight down, wipe the rim."],
    tries: "Tamps; the surface is level.",
  };
}

function shot({ boiler, threeWayValve }: MachineKind): DemonstrationPart {
  const lever = boiler === "lever";
  return {
    id: "shot",
    label: "Shot",
    say: "Weight in the cup and seconds, as on your card. Too fast: finer. Too slow: coarser. One thing at a time.",
    show: [
      "Short flush, lock in, start at once.",
      lever
        ? "Lever down, hold as the card says, let it rise by itself: never let go of it under load."
        : "Watch scale and clock; stop before the target, some still drips.",
      threeWayValve || lever
        ? "Knock the puck out. A wet one is normal."
        : "Wait until the pressure is gone, then turn the handle slowly.",
    ],
    tries: "Pulls a shot; its weight and seconds are read together.",
  };
}

function milk({ boiler }: MachineKind): DemonstrationPart {
  return {
    id: "milk",
    label: "Milk",
    say: "Cold milk, a cold jug, and stop at 55 to 60 °C: too hot to hold for long.",
    show: [
      "Purge the wand until the steam is dry.",
      "Tip just under the surface until the jug is hand-warm, then deeper, so that it turns.",
      "Steam off before the jug is taken away. Wipe the wand at once, purge it again.",
      ...(boiler === "single" ? ["Refill the boiler straight after: a dry element burns out."] : []),
    ],
    tries: "Steams one jug, wipes and purges the wand.",
  };
}

function cleaning({ threeWayValve, pump }: MachineKind, { backFlush }: Schools): DemonstrationPart {
  const flushes = threeWayValve && pump !== "none";
  return {
    id: "clean",
    label: "Cleaning",
    say: "A minute now saves a visit: flush and wipe after each shot.",
    show: [
      "Flush, wipe group and basket.",
      flushes
        ? `Back-flush with the blind basket: ${backFlush === "daily" ? "plain water each day, cleaner once a week" : "after every session"}.`
        : "Brush the shower screen, wipe the seal.",
      "Empty the tray; what runs into it is normal.",
    ],
    tries: flushes ? "Back-flushes once with plain water." : "Brushes the screen and wipes the seal.",
  };
}

function water({ supply }: MachineKind): DemonstrationPart {
  return supply === "plumbed"
    ? {
        id: "water",
        label: "Water",
        say: "If it leaks, close this valve first, then call.",
        show: ["The shut-off valve, and how it is closed.", "The cartridge, and the date of its change."],
        tries: "Closes and opens the shut-off valve.",
      }
    : {
        id: "water",
        label: "Water",
        say: "Scale comes from the water: use this one, and no other.",
        show: ["Which water, how the tank is filled and seated.", "What it does when the tank is empty."],
        tries: "Takes the tank out, fills and seats it.",
      };
}

function timedDose(): DemonstrationPart {
  return {
    id: "dose",
    label: "Dose by time",
    say: "Grams follow seconds, and seconds follow the grind: after each change of the grind, time the dose again.",
    show: ["Purge, grind one dose, weigh it.", "Where the seconds are set."],
    tries: "Changes the seconds and weighs a dose.",
  };
}

function grinderCleaning(): DemonstrationPart {
  return {
    id: "clean",
    label: "Cleaning",
    say: "Unplug it before anything is opened.",
    show: ["Brush the chute, wipe the hopper.", "Burrs are for the workshop."],
    tries: "Takes the hopper off, wipes it and puts it back.",
  };
}

const minutes = (n: number) => (n >= 90 ? `${Math.round(n / 60)} h` : `${n} min`);
