import { atStation, coversOff, expect, freshMachine, ownersPage, read, signIn, test, toAsFound } from "../workshop";

test("S2: the machine’s own gauge first, then a fine one: one figure everywhere, and nothing coarse holds it up", async ({
  page,
}) => {
  await signIn(page);
  // On the pump side, where it shows 1 bar more than the group has.
  await toAsFound(page, await freshMachine("K7", { ownGauge: { toGroup: -1 } }));
  const gauge = page.locator("#gauge");
  const inHand = gauge.getByRole("combobox", { name: "Gauge", exact: true });
  const own = { label: "The machine’s own gauge" };
  const next = page.getByRole("region", { name: "Next move" });
  await expect(gauge).toContainText("own gauge (pump side): 9.5 to 10.5 bar. At the group: 8.5 to 9.5 bar.");

  await inHand.selectOption(own);
  await read(page, "8.5");
  // A finer one is asked for before any cover, and it is the one in hand.
  await expect(next).toContainText("Read with Portafilter gauge A before anything is opened");
  await expect(inHand.locator("option:checked")).toHaveText("Portafilter gauge A");
  await inHand.selectOption(own);
  await read(page, "8.5");
  await page.getByRole("button", { name: "Finer instrument not at hand" }).click();
  await coversOff(page);

  // Towards the target, in turns that land; what to expect is said on the gauge that is read.
  await expect(next).toContainText(/^Turn OPV (½|⅝|¾) turn clockwise\./);
  await expect(next).toContainText(
    /Expect 8\.\d to 11\.\d bar on the machine’s own gauge \(target 9\.5 to 10\.5 bar\)/,
  );
  await page.locator("button[data-key=turn]").click();
  await expect(page.locator("button[data-key=turn]")).toBeHidden();
  await inHand.selectOption(own);
  await read(page, "10");

  // An end, not a fault.
  await expect(gauge.getByRole("status").first()).toContainText("9.0");
  await expect(gauge).toContainText("can’t tell");
  await expect(next).toContainText("Can’t tell with this instrument");
  await expect(next).toContainText("Leave it as it is, or read with Portafilter gauge A.");
  await expect(next.getByRole("button", { name: "Leave it as it is" })).toBeVisible();
  await expect(page.getByText(/Stop:|too coarse to decide\b.*99 %/)).toHaveCount(0);

  await expect(inHand.locator("option:checked")).toHaveText("Portafilter gauge A");
  await read(page, "8.9");
  await atStation(page, "Cover back on");
  await expect(gauge.getByRole("status").first()).toHaveText(/9\.0\s*bar\s*in spec.*± 0\.2/s);
  await page.getByRole("button", { name: "Unplugged: the cover is on" }).click();
  await atStation(page, "Sign");
  await expect(page.locator("#sheet")).not.toContainText(/finer instrument needed|could not decide/);
  await ownersPage(page);
  await expect(page.locator("main")).toContainText("9.0");
  await expect(page.locator("main")).toContainText("Portafilter gauge A");
  await expect(page.locator("main")).toContainText("own gauge");
  await expect(page.locator("main")).not.toContainText(/could not decide|can’t tell/);
});
