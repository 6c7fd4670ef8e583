import { descalingRule } from "../kind";
import { forbiddenWork } from "./rules";

/** Common practice of the trade, see {@link forbiddenWork}: no published figure to check against. */

const [owner, workshop, never] = [
  { descaling: "owner-cycle" },
  { descaling: "workshop-only" },
  { descaling: "dismantle-only" },
] as const;

test.each([
  ["Descaled through the tank with citric acid", never, /takes no acid through the tank/],
  ["Descaled through the tank with citric acid", workshop, null],
  ["No damage; descaled through the tank", never, /takes no acid through the tank/],
  ["No descaling: scale taken off by hand", never, null],
  ["Owner asked for descaling: declined", never, null],
  ["Boiler dismantled, parts descaled in a bath", never, null],
  ["Safety valve cleaned and refitted", owner, /never cleaned, adjusted or blocked/],
  ["Cleaned the safety relief valve, holds again", workshop, /replaced by type/],
  ["Safety valve replaced by type, tested", never, null],
  ["Safety valve checked, lifts and reseats", owner, null],
  ["Replaced the group gasket", never, null],
])("“%s” on a model descaled as %o: %s", (text, card, says) => {
  if (says) expect(forbiddenWork(text, card)).toMatch(says);
  else expect(forbiddenWork(text, card)).toBeNull();
});

test("a safety valve is looked after where the model is not known as well; acid is not ruled out by guessing", () => {
  expect(forbiddenWork("Safety valve cleaned", undefined)).toMatch(/never cleaned/);
  expect(forbiddenWork("Descaled", undefined)).toBeNull();
});

test("a workshop’s method narrows what the model permits, and never widens it", () => {
  expect(descalingRule("owner-cycle")).toMatchObject({ owner: true, throughTank: true, instead: "" });
  expect(descalingRule("owner-cycle", "never")).toMatchObject({ owner: false, throughTank: true });
  expect(descalingRule("workshop-only", "cycle")).toMatchObject({ owner: false, throughTank: true });
  expect(descalingRule("dismantle-only", "cycle")).toMatchObject({ owner: false, throughTank: false });
  for (const card of ["workshop-only", "dismantle-only"] as const) expect(descalingRule(card).instead).not.toBe("");
});
