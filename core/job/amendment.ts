/** What is added to a job after its signature: words that stand beside what was signed, never in its place. */

export const ABOUTS = {
  reading: "A reading",
  work: "Work or a part",
  fault: "A known fault",
  machine: "The machine or its owner",
  "hand-over": "What was handed over",
  other: "Something else",
} as const;
export type About = keyof typeof ABOUTS;
export const ABOUT_IDS = Object.keys(ABOUTS) as [About, ...About[]];

/** Longest text of one. Our choice: a page of a report. */
export const LONGEST_AMENDMENT = 2000;
