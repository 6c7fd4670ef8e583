import { atStation, begin, expect, freshMachine, signIn, test } from "../workshop";
import { pull, toShots } from "../typed-shots";
import { expectOneVoice, signedPaper } from "../one-voice";

test("S19: ground at the finest it drips, 4 g in 60 s: asked for the tray, told by its 60 ml, much coarser within the scale", async ({
  page,
}) => {
  await signIn(page);
  await begin(page, await freshMachine("K1"), ["shots"]);
  await toShots(page);
  const change = page.getByRole("region", { name: "Next change" });
  const finest = { Grind: "1", dose: "18", cup: "4", seconds: "60", flow: "drip" };
  await pull(page, { ...finest, Coffee: "Harbour blend" });
  // Not seen: asked for, never asserted.
  await expect(change).toContainText("Did water come back to the tray? Catch it and type the ml");
  await expect(change).not.toContainText(/went back|the OPV works\. Not/);
  await expect(change).toContainText(/Set grinder to \d+ \(\d+ steps coarser\)/);
  await expectOneVoice(page);

  await page.getByText("Pressure, temperature, water, TDS").click();
  await page.getByLabel("Caught in the tray, ml").fill("60");
  await pull(page, finest);
  await expect(change).toContainText("60 ml came back to the tray: the OPV works. Not dangerous for the machine.");
  await expect(change).toContainText(/Set grinder to \d+ \(\d+ steps coarser\)/);
  await expectOneVoice(page);
  const to = Number(/Set grinder to (\d+)/.exec(await change.innerText())![1]);
  expect(to).toBeGreaterThan(2);
  expect(to).toBeLessThanOrEqual(60);

  await pull(page, { Grind: String(to), dose: "18", cup: "36", seconds: "25.5", taste: "balanced" });
  await expect(change).toContainText("Keep: this is the recipe.");
  await expectOneVoice(page);
  await page.getByRole("button", { name: "Use shot 3 as the recipe" }).click();
  await page.getByRole("link", { name: "Back to the sheet" }).click();
  await atStation(page, "Sign");
  await expect(await signedPaper(page)).toContainText("4.0 g in 60.0 s");
});
