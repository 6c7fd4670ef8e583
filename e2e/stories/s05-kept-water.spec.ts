import { atStation, begin, expect, freshMachine, read, signIn, test } from "../workshop";
import { pull, toShots } from "../typed-shots";
import { expectOneVoice } from "../one-voice";
import { table } from "../typed-table";

test("S5: 85 ml blank in 4 s, 44 g of 22 g in 85 s and of 18 g in 40 s: volume, 41 ml kept, and that is used; typed once", async ({
  page,
}) => {
  await signIn(page);
  await begin(page, await freshMachine("K1"), ["volumes", "grinder", "shots"], { skips: ["grinder"] });
  const storage = table(page, "Does the button store volume or seconds?");
  const [blank, coffee] = [{ Run: "without coffee" }, { Run: "with coffee" }];
  await storage.row({ "Ran for, s": "4", "In the cup, g (optional)": "85" }, blank);
  await storage.row({ "Ran for, s": "85", "In the cup, g (optional)": "44", "Dose, g (optional)": "22" }, coffee);
  await expect(storage.box).toContainText(/It stores volume, 9\d %\./);

  // The alarm on the way says what it is before anything is looked for.
  await page.getByText("Flow alarm: find the cause").click();
  await expect(page.locator("[data-station-in-hand]")).toContainText(
    "It is information first: nothing is broken by it",
  );

  await storage.row({ "Ran for, s": "40", "In the cup, g (optional)": "44", "Dose, g (optional)": "18" }, coffee);
  await expect(storage.box).toContainText("Measured: 41.0, 41.0 ml kept, 18.0 ml more than its kind does.");
  // What is kept at 18 g by these runs, and water enough for it: 36 g come, not 32.
  await expect(storage.box).toContainText(/so (39|40|41)\.\d ± \d\.\d ml at 18\.0 g/);
  await expect(storage.box).toContainText(/Programme: 7[5-7]\.\d ml for 36 g in the cup\. Expect 3[56]\.\d/);
  await expectOneVoice(page);

  await read(page, "60", { field: "In the cup" });
  await toShots(page);
  await pull(page, { Coffee: "Harbour blend", Grind: "6", dose: "18", cup: "36.2", seconds: "25" });
  const last = page.getByRole("list", { name: "Tries" }).locator("> li").first();
  await last.getByText("All of shot 1").click();
  await expect(last).toContainText(/Water kept, expected\s*(39|40|41)\.\d ± \d\.\d ml/);
  await expectOneVoice(page);
  await page.getByRole("button", { name: "Use shot 1 as the recipe" }).click();
  await page.getByRole("link", { name: "Back to the sheet" }).click();
  await atStation(page, "Teach the buttons");
  await expectOneVoice(page);
});
