/** Dose buttons of a group, in the order in which a model has them: one with two has the first two. */
export const BUTTONS = ["double", "single", "double-long", "single-long", "fifth", "sixth"] as const;
export type ButtonId = (typeof BUTTONS)[number];

export const BUTTON_WORDS: Readonly<Record<ButtonId, string>> = {
  double: "Double button",
  single: "Single button",
  "double-long": "Long double button",
  "single-long": "Long single button",
  fifth: "Fifth button",
  sixth: "Sixth button",
};

/**
 * What a button is called, on a machine of one group or more.
 *
 * @param group 1 … groups
 * @param groups of the machine, 1 to 4
 */
export function buttonTitle(button: ButtonId, group: number, groups: number): string {
  return `${BUTTON_WORDS[button]}${groups > 1 ? `, group ${group}` : ""}`;
}
