import { atStation, begin, expect, freshMachine, read, signIn, test } from "../workshop";
import { pull, toShots } from "../typed-shots";
import { expectOneVoice, signedPaper } from "../one-voice";

test("S7: 60 and 27 g as found, a dose in halves trimmed to 17.8, the double taught again: stop at 34 g", async ({
  page,
}) => {
  await signIn(page);
  await begin(page, await freshMachine("K1"), ["volumes", "grinder", "shots"]);
  const gauge = page.locator("#gauge");
  const sheet = page.locator("#sheet");
  const cup = { field: "In the cup" };
  await read(page, "60", cup);
  // The single is offered before the sheet goes on.
  await atStation(page, "Buttons and meters: as found");
  await sheet.getByRole("link", { name: /Single button, as found/ }).click();
  await expect(gauge.getByRole("heading", { name: "Single button" })).toBeVisible();
  await read(page, "27", cup);
  const found = sheet.locator("li").filter({ hasText: "Buttons and meters: as found" });
  await expect(found).toContainText("60.0 g");
  await expect(found).toContainText("27.0 g");

  await atStation(page, "Grinder and dose");
  await page.getByRole("button", { name: "Stale grounds purged" }).click();
  await page.getByRole("button", { name: "over 2.5 cm of beans" }).click();
  await gauge.getByText("Basket: double.").click();
  await gauge.getByLabel("This is").selectOption("the first half");
  await page.getByLabel("Amount dial at").fill("2");
  await read(page, "9.8", { field: "The scale shows" });
  await expect(gauge).toContainText("First half 9.8 g. Press, then 8.2 g more.");
  await gauge.getByLabel("Trimmed to, g").fill("17.8");
  await page.getByLabel("Amount dial at").fill("2");
  await read(page, "9.4", { field: "The scale shows" });
  const dose = sheet.locator("li").filter({ hasText: "Grinder and dose" });
  await expect(dose).toContainText("17.8 g");
  await expect(dose).toContainText(/just in|in spec/);
  await expect(page.locator("main")).not.toContainText(/19\.2 g|spoon/);
  await expectOneVoice(page);

  await toShots(page);
  await pull(page, { Coffee: "Harbour blend", Grind: "5", dose: "17.8", cup: "50", seconds: "35", by: "double" });
  const change = page.getByRole("region", { name: "Next change" });
  await expect(change).toContainText("Keep the grind: teach the button for 36 g in the cup.");
  await expectOneVoice(page);
  await pull(page, { Grind: "5", dose: "17.8", cup: "36.1", seconds: "25.4", by: "manual", taste: "balanced" });
  await expect(change).toContainText("Keep: this is the recipe.");
  await page.getByRole("button", { name: "Use shot 2 as the recipe" }).click();
  await page.getByRole("link", { name: "Back to the sheet" }).click();

  await atStation(page, "Teach the buttons");
  const next = page.getByRole("region", { name: "Next move" });
  await expect(next).toContainText(/stop at 34(\.0)? g on the scale, near 2[345] s/i);
  await expectOneVoice(page);
  await page.locator("button[data-key=turn]").click();
  await expect(page.locator("button[data-key=turn]")).toBeHidden();
  for (const grams of ["35.8", "36.3", "36.0"]) await read(page, grams, cup);
  await expect(sheet.locator("li").filter({ hasText: "Teach the buttons" }).first()).toContainText(
    /36\.\d g\s*in spec/,
  );
  await expectOneVoice(page);
  await atStation(page, "Sign");
  // The single stands as it was found, and that is told.
  await page.getByLabel("What the owner should know").fill("The single button still gives 27 g.");
  const paper = await signedPaper(page);
  await expect(paper).toContainText("60.0");
  await expect(paper).toContainText("27.0");
  await expect(paper).toContainText("17.8");
  await expect(paper).not.toContainText("spoon");
});
