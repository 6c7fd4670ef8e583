/**
 * Questions on which practitioners disagree. A workshop picks its school for each, a job may override it, and the report names the
 * choice. Common practice in the trade, both sides.
 */
export const SCHOOLS = {
  opv: {
    question: "OPV set as",
    options: {
      regulate: "Regulate: the group sees 9 bar",
      ceiling: "Ceiling: a fail-safe at about 11 bar, 10.5 to 12, the grind makes the pressure",
    },
  },
  shotClock: {
    question: "The shot clock counts",
    options: { button: "from the button or pump", "first-drop": "from the first drop" },
  },
  shotWindow: {
    question: "A shot takes",
    options: { "25-3": "25 ± 3 s", "20-30": "20 to 30 s", "25-30": "25 to 30 s" },
  },
  ratio: {
    question: "Coffee to cup",
    options: { "1-2": "1 : 2", "to-1-2.5": "1 : 2 up to 1 : 2.5" },
  },
  teaching: {
    question: "A button is taught",
    options: {
      coffee: "with coffee, at the final grind and dose",
      volume: "by water volume, from meter factor and kept water",
    },
  },
  buttonMeaning: {
    question: "A button stores",
    options: { volume: "volume", time: "time, where the machine stores time" },
  },
  warmUp: {
    question: "Warming up",
    options: { wait: "wait it out", "blank-shots": "one or two blank shots through the locked-in portafilter" },
  },
  grindOrDose: {
    question: "Dialling in moves",
    options: { grind: "the grind, dose held", "coarser-more": "to a coarser grind with a higher dose" },
  },
  backFlush: {
    question: "Back-flush",
    options: {
      daily: "plain water daily, cleaner weekly",
      "every-session": "after every session, several times a day in a shop",
    },
  },
  ownerDescaling: {
    question: "Descaling by the owner",
    options: { cycle: "by the cycle, as hardness asks", never: "never, workshop only" },
  },
  hardness: {
    question: "Hardness of the water",
    options: { "under-50": "under 50 ppm", "published-band": "the published band, 17 to 85 ppm" },
  },
  temperatureOffset: {
    question: "Temperature offset",
    options: { correct: "measure and correct", leave: "leave at 0 when inside tolerance" },
  },
} as const;

export type SchoolId = keyof typeof SCHOOLS;
export type SchoolsOf = { [Q in SchoolId]: keyof (typeof SCHOOLS)[Q]["options"] };

export const SCHOOL_IDS = Object.keys(SCHOOLS) as SchoolId[];

/** What a new workshop starts with: the first school of each question. */
export const USUAL_SCHOOLS: SchoolsOf = {
  opv: "regulate",
  shotClock: "button",
  shotWindow: "25-3",
  ratio: "1-2",
  teaching: "coffee",
  buttonMeaning: "volume",
  warmUp: "wait",
  grindOrDose: "grind",
  backFlush: "daily",
  ownerDescaling: "cycle",
  hardness: "under-50",
  temperatureOffset: "correct",
};

/** The choice in words. */
export function schoolWords(id: SchoolId, choice: string): string {
  return (SCHOOLS[id].options as Record<string, string>)[choice] ?? choice;
}

/** Questions that a job answers otherwise than its workshop does. */
export function overridden(job: SchoolsOf, workshop: SchoolsOf): SchoolId[] {
  return SCHOOL_IDS.filter((id) => job[id] !== workshop[id]);
}
