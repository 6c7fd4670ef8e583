import { atStation, begin, expect, freshMachine, letPass, note, read, signIn, test, tickOff } from "../workshop";
import { workOff } from "../prepared";
import { pull, toShots } from "../typed-shots";
import { expectOneVoice, signedPaper } from "../one-voice";

test("S13: hard water, a dry boiler primed through the wand, rested and rinsed; 94 °C; 18 g to 44 ml in 27 s is kept, and nothing else is said", async ({
  page,
}) => {
  await signIn(page);
  await begin(page, await freshMachine("K3"), ["setup", "water", "temperature", "shots", "steam"], { stopAt: "water" });
  const sheet = page.locator("#sheet");
  const station = page.locator("[data-station-in-hand]");
  await note(page, "Hardness", "180 ppm");
  await expect(page.locator("#gauge")).toContainText(/180\s*mg\/L CaCO₃\s*out of spec/);
  await page.getByRole("button", { name: "Filter or softener fitted, or ordered" }).click();
  await atStation(page, "Power");
  await tickOff(page, /rating plate/, /earth OK/);
  await atStation(page, "Prime through the wand");
  // The order is kept: no heat on a dry boiler, no rinse before the pump has rested.
  for (const later of ["Rinse the new boiler", "Purge the group"])
    await expect(sheet.getByText("A dry boiler is primed first.").first(), later).toBeVisible();
  await expect(sheet).toContainText("Never heat an empty boiler: prime it first.");
  await tickOff(page, "Tank filled, wand open over a jug");
  await page.getByRole("button", { name: "On: start the timer" }).click();
  await letPass(page, 40);
  await page.getByRole("button", { name: "Water flows from the wand" }).click();
  await expect(station).toContainText("The pump rests; other work can be done.");
  await letPass(page, 181);
  await atStation(page, "Rinse the new boiler");
  await note(page, "Rinsed through the wand", "0.6 L");
  await atStation(page, "Purge the group");
  const jobId = /jobs\/([0-9a-f-]+)/.exec(page.url())![1]!;
  await workOff(jobId, { stopAt: "temperature" });
  await page.reload();
  await atStation(page, "Temperature at the group");
  const group = { field: "Plateau of the water" };
  await page.getByLabel("Set point on the display").fill("94");
  await read(page, "94.0", group);
  await expect(sheet.locator("li").filter({ hasText: "Temperature at the group" }).first()).toContainText("in spec");
  await expectOneVoice(page);

  // Millilitres go where the cup is asked for.
  await toShots(page);
  await pull(page, { Coffee: "Pier No. 4", Grind: "12", dose: "18", cup: "44 ml", seconds: "27", taste: "balanced" });
  const change = page.getByRole("region", { name: "Next change" });
  await expect(change).toContainText("Keep: this is the recipe.");
  await expect(page.getByRole("list", { name: "Tries" })).toContainText("18.0 g to 44 ml (36.0 g) in 27.0 s");
  await expectOneVoice(page);
  await page.getByRole("button", { name: "Use shot 1 as the recipe" }).click();
  await page.getByRole("link", { name: "Back to the sheet" }).click();

  await atStation(page, "Leak check");
  await page.getByRole("link", { name: "Boiler and steam", exact: true }).click();
  await atStation(page, "Boiler and steam");
  await expect(page.getByRole("region", { name: "Timed steaming" }).getByRole("listitem")).toHaveCount(8);
  await workOff(jobId);
  await page.reload();
  await atStation(page, "Sign");
  const paper = await signedPaper(page);
  for (const told of ["170 to 190 mg/L CaCO₃", "Filter or softener fitted", "44 ml (36.0 g)", "−1 to 1 °C"])
    await expect(paper).toContainText(told);
});
