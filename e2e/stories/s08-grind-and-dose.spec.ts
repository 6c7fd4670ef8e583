import { atStation, begin, expect, freshMachine, read, signIn, test } from "../workshop";
import { pull, toShots } from "../typed-shots";
import { expectOneVoice, signedPaper } from "../one-voice";

test("S8: choked at grind 2, 32 g in 30 s at 5: one step or some seconds more, in the band; the dose is asked for at each new grind", async ({
  page,
}) => {
  await signIn(page);
  await begin(page, await freshMachine("K1"), ["grinder", "shots"], { schools: { shotWindow: "20-30" } });
  const gauge = page.locator("#gauge");
  const scale = { field: "The scale shows" };
  const next = page.getByRole("region", { name: "Next move" });
  await atStation(page, "Grinder and dose");
  await page.getByRole("button", { name: "Stale grounds purged" }).click();
  await page.getByRole("button", { name: "over 2.5 cm of beans" }).click();

  // By halves: 8.5 g each at one o’clock, 9.2 at two.
  const halves = async (at: string, first: string, second: string) => {
    if (!(await gauge.getByLabel("This is").isVisible())) await gauge.getByText("Basket: double.").click();
    await gauge.getByLabel("This is").selectOption("the first half");
    await page.getByLabel("Amount dial at").fill(at);
    await read(page, first, scale);
    await expect(gauge).toContainText(`First half ${first} g.`);
    await page.getByLabel("Amount dial at").fill(at);
    await read(page, second, scale);
  };
  await halves("1:00", "8.5", "8.5");
  await expect(next).toContainText(/^Turn amount dial .* later, more coffee, to (1:\d\d|2:\d\d)\./);
  await expectOneVoice(page);
  await page.locator("button[data-key=turn]").click();
  await expect(page.locator("button[data-key=turn]")).toBeHidden();
  await halves("1:45", "9.0", "8.9");
  // Two weighings know less than one: once more, and nothing is said of adjusting.
  await expect(next).toContainText("Read once more to be sure.");
  await page.getByLabel("Amount dial at").fill("1:45");
  await read(page, "18", scale);
  await atStation(page, "Calibration shots");
  await expectOneVoice(page);

  await toShots(page);
  const change = page.getByRole("region", { name: "Next change" });
  const last = page.getByRole("list", { name: "Tries" }).locator("> li").first();
  await pull(page, { Coffee: "Harbour blend", Grind: "2", dose: "17.9", cup: "3", seconds: "40", choked: true });
  await expect(change).toContainText(/coarser/);
  await expect(change).not.toContainText("The surplus water went back");
  await pull(page, { Grind: "5", dose: "17.9", cup: "32", seconds: "30", by: "double" });
  await expect(last).toContainText("just in");
  await expect(page.getByText("inside the band of 4 g")).toHaveCount(1);
  await expect(change).toContainText(
    "Use it, or set grinder to 6 (1 step coarser), same dose, or let the button run 3 s longer.",
  );
  await expectOneVoice(page);

  // Another grind, another dose: asked for again, and the old one is no part of it.
  await expect(page.getByRole("status").filter({ hasText: "The grind went from 2 to 5" })).toBeVisible();
  await page.getByRole("link", { name: "To the dose" }).click();
  await atStation(page, "Grinder and dose");
  await expect(gauge).toContainText("–.– g");
  await expect(gauge).toContainText("The grind went from 2 to 5 since the dose was weighed");
  await page.getByLabel("Amount dial at").fill("1:45");
  await read(page, "18", scale);
  await expect(page.locator("#sheet li").filter({ hasText: "Grinder and dose" }).first()).toContainText(/18\.0 g/);
  await atStation(page, "Calibration shots");
  await page.getByRole("link", { name: /^(Pull|To the shots|Go on)/ }).click();
  await page.getByRole("button", { name: "Use shot 2 as the recipe" }).click();
  await page.getByRole("link", { name: "Back to the sheet" }).click();
  await atStation(page, "Sign");
  await expect(await signedPaper(page)).toContainText("32.0 g in 30.0 s");
});
