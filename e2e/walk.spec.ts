import { ByTheScreen } from "./by-the-screen";
import { SLOW } from "./slow";
import { expect, freshMachine, signIn, startJob, test } from "./workshop";

/**
 * Whole visits on six kinds of machine, from the first step to the signature, with nothing but what the screen offers and advises. All
 * kinds, visits and scopes walk the same way through the product’s own commands in server/demo/every-visit.test.ts.
 */

// Nothing that the sheet asks for may be out of reach: it fails at once, not at the end of the test.
test.use({ actionTimeout: 40_000 * SLOW });

for (const [kind, visit, seed] of [
  ["K1", "Handover", 0.21],
  ["K5", "Service", 0.37],
  ["K8", "Pressure check", 0.43],
  ["K10", "Service", 0.58],
  ["K11", "Install", 0.66],
  ["K14", "Handover", 0.72],
] as const)
  test(`a ${kind}: ${visit}, by the screen alone`, async ({ page }) => {
    test.slow();
    await signIn(page);
    await startJob(page, await freshMachine(kind), visit);
    await new ByTheScreen(page, seed).toTheSignature();
    await expect(page.getByText(/^Signed by/).first()).toBeVisible();
  });
