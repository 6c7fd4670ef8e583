import { atStation, begin, expect, freshMachine, read, signIn, test } from "../workshop";
import { pull, toShots } from "../typed-shots";
import { expectOneVoice, signedPaper } from "../one-voice";

test("S4: choked, then fast and sour, then 40 g in 29 s, balanced: much coarser, a little finer, kept; one judgement a shot", async ({
  page,
}) => {
  await signIn(page);
  const schools = { opv: "ceiling", ratio: "to-1-2.5" } as const;
  await begin(page, await freshMachine("K7"), ["pressure", "shots"], { schools });
  await read(page, "11");
  await expect(page.locator("#sheet li").filter({ hasText: "Brew pressure: as left" })).toContainText(
    /11\.1 bar\s*in spec/,
  );
  await expectOneVoice(page);
  await toShots(page);
  const change = page.getByRole("region", { name: "Next change" });
  const last = page.getByRole("list", { name: "Tries" }).locator("> li").first();

  await pull(page, { Coffee: "Breakwater blend", Grind: "10", dose: "18", cup: "2", seconds: "30", choked: true });
  await expect(change).toContainText(/Set grinder to (1[3-9]|2\d) \(\d+ steps coarser\)/);
  await expect(change).toContainText("It choked: much coarser, not one step");
  await expectOneVoice(page);

  await pull(page, { Grind: "16", dose: "18", cup: "36", seconds: "19", taste: "sour" });
  await expect(last).toContainText("out of spec");
  await expect(last).toContainText("the seconds, the taste");
  await expect(change).toContainText(/Set grinder to 1[2-5] \([1-4] steps? finer\)/);
  await expectOneVoice(page);

  await pull(page, { Grind: "14", dose: "18", cup: "40", seconds: "29", taste: "balanced" });
  await expect(last).toContainText("in spec");
  await expect(last).not.toContainText(/out of spec|can’t tell/);
  await expect(last).toContainText("Beside the window, and it tastes balanced: taste outranks the clock.");
  await expect(change).toContainText("Keep: this is the recipe.");
  await expect(last).toContainText("1 : 2.22");
  await expectOneVoice(page);
  await page.getByRole("button", { name: "Use shot 3 as the recipe" }).click();
  await expect(page.getByText("Shot 3 is the recipe.")).toBeVisible();
  await page.getByRole("link", { name: "Back to the sheet" }).click();

  await atStation(page, "Sign");
  const paper = await signedPaper(page);
  await expect(paper).toContainText("40.0 g in 29.0 s");
  await expect(paper).toContainText("Used as the recipe");
});
