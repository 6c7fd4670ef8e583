import type { Place } from "~core/metrology";

/** Where a pressure gauge sat, in a line of the log. */
export const PLACE_WORDS: Readonly<Record<Place, string>> = {
  group: "at the group",
  pump: "pump side",
  boiler: "boiler",
  line: "water line",
  flow: "behind the flow control",
};
