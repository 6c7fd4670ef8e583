import { begin, expect, formWith, freshMachine, signIn, test } from "../workshop";
import { expectOneVoice } from "../one-voice";
import { table } from "../typed-table";

test("S14: no display: brewed 10 s after the light, shorter for sour, longer for bitter, and another way at the cap; steam bled off", async ({
  page,
}) => {
  await signIn(page);
  await begin(page, await freshMachine("K2"), ["steam", "temperature"], { stopAt: "steam" });
  const station = page.locator("[data-station-in-hand]");
  const heatUp = formWith(page, /From the steam switch to the ready light/);
  await heatUp.getByRole("textbox").fill("80");
  await heatUp.getByRole("button", { name: /^Save/ }).click();
  // Bled at 0, 20 and 40 s, and steamed from 70 s on, before the light.
  const steaming = page.getByRole("region", { name: "Timed steaming" }).getByRole("listitem");
  const seconds = (await steaming.allInnerTexts()).map((text) => [Number(/^(\d+) s/.exec(text)![1]), text] as const);
  let at = 0;
  const begun = seconds.map(([lasts, text]) => ({ at: (at += lasts) - lasts, text }));
  expect(begun.flatMap((s) => (/bleed water/.test(s.text) ? [s.at] : []))).toEqual([0, 20, 40]);
  expect(begun.find((s) => /Start steaming now/.test(s.text))!.at).toBe(70);
  await page.goto(`${page.url().split("?")[0]}?at=temperature`);

  const cycle = table(page, "Cycle of the light");
  await cycle.row({ "Resting, s": "15" });
  await expect(cycle.box).toContainText("1 cycle: rests about 15 s.");
  await page.getByText("Timed brewing").click();
  await expect(station).toContainText("Wait 10 s more");
  await expect(station).toContainText("Pump on: brew now");

  const wait = table(page, "The wait, by taste");
  const tasted = async (seconds: string, taste: string, said: string | RegExp) => {
    await wait.row({ "Waited, s": seconds }, { Taste: taste });
    await expect(wait.box).toContainText(said);
    await expect(wait.box).not.toContainText(/Keep \d+ s\. (Bitter|Sour)/);
    await expectOneVoice(page);
  };
  await tasted("10", "sour", "Next: wait 6 s. Sour: the water was too cool. Wait less.");
  await wait.box
    .getByRole("button", { name: /^Exclude/ })
    .first()
    .click();
  await wait.box.getByLabel("Reason").fill("Another coffee from here on.");
  await wait.box.getByRole("button", { name: "Exclude", exact: true }).click();
  await expect(wait.box).not.toContainText("Next: wait");
  await tasted("6", "bitter", "Next: wait 10 s. Bitter: the water was too hot. Wait longer.");
  await tasted(
    "10",
    "bitter",
    /10 s is as long as the rest allows: cooler another way\. Flush .*thermostat lower.*roast/,
  );
  await expect(wait.box).not.toContainText(/Next: wait|Wait longer\./);
});
