import { descalingRule } from "../kind";

/** Common practice of the trade: no published figure to check against. */

test("a workshop’s method narrows what the model permits, and never widens it", () => {
  expect(descalingRule("owner-cycle")).toMatchObject({ owner: true, throughTank: true, instead: "" });
  expect(descalingRule("owner-cycle", "never")).toMatchObject({ owner: false, throughTank: true });
  expect(descalingRule("workshop-only", "cycle")).toMatchObject({ owner: false, throughTank: true });
  expect(descalingRule("dismantle-only", "cycle")).toMatchObject({ owner: false, throughTank: false });
  for (const card of ["workshop-only", "dismantle-only"] as const) expect(descalingRule(card).instead).not.toBe("");
});
