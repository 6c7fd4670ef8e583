import { USUAL_SCHOOLS } from "../core/school";
import type { Locator, Page } from "@playwright/test";
import {
  STRANGER,
  TECHNICIAN,
  atStation,
  expect,
  expectAccessible,
  freshMachine,
  letPass,
  begin,
  note,
  openMachine,
  signIn,
  signInAlone,
  startJob,
  test,
  tickOff,
} from "./workshop";

/** Keyboard alone, wet hands on a phone, and who may set what. */

/** Tabs on until this has the focus. */
async function reach(page: Page, what: Locator) {
  await expect(what).toBeVisible();
  for (let i = 0; i < 120; i++) {
    if (await what.evaluate((e) => e === document.activeElement)) return;
    await page.keyboard.press("Tab");
  }
  throw new Error("The keyboard does not reach it.");
}

async function press(page: Page, what: Locator) {
  await reach(page, what);
  await page.keyboard.press("Enter");
}

async function type(page: Page, label: string, words: string) {
  const field = page.getByRole("textbox", { name: label, exact: true });
  await reach(page, field);
  await page.keyboard.type(words);
  const form = page.locator("form").filter({ has: field });
  await press(page, form.getByRole("button", { name: /^Save/ }));
}

test("installing a grinder by keyboard alone, from the door to the signature", async ({ page }) => {
  await signIn(page);
  await openMachine(page, await freshMachine("K14"));
  const start = page.getByRole("button", { name: "Start the install" });
  await expect(page.getByRole("radio", { name: "Pressure check" })).toHaveCount(0);
  await press(page, start);
  await page.waitForURL(/\/jobs\//);
  const station = page.locator("[data-station-in-hand]");
  const confirm = async (name: string | RegExp) => {
    const button = station.locator("button[name]").filter({ hasText: name });
    await press(page, button);
    await expect(button).toBeHidden();
  };

  await type(page, "Condition as it stands", "New.");
  await expect(page.getByRole("list", { name: "Condition, recorded" })).toContainText("New.");
  await press(page, page.getByRole("button", { name: "None seen" }));
  await type(page, "Accessories present", "Hopper, brush.");
  await atStation(page, "Set it down");
  await confirm("Stable, level surface");
  await atStation(page, "Tools");
  await expect(station.getByRole("list", { name: "Cautions" })).toContainText("Unplug before hands go near the burrs");
  await confirm("All set out");
  await atStation(page, "Power");
  await confirm(/rating plate/);
  await confirm(/earth OK/);
  await atStation(page, "Grinder and dose");
  await confirm("Stale grounds purged");
  await press(page, station.getByRole("button", { name: "over 2.5 cm of beans" }));
  await expect(station).toContainText("Beans in the hopper: over 2.5 cm of beans");
  for (const [label, words] of [
    ["Timer, s", "9.4"],
    ["Grind set to", "11"],
  ] as const) {
    await reach(page, page.getByRole("textbox", { name: label, exact: true }));
    await page.keyboard.type(words);
  }
  await type(page, "The scale shows", "180");
  await expect(page.getByText("180.0 g can’t be: no basket holds that. Check number and unit.")).toBeVisible();
  await page.getByRole("textbox", { name: "The scale shows" }).fill("");
  await type(page, "The scale shows", "18.1");
  await atStation(page, "Clean");
  await confirm(/Chamber and chute/);
  await atStation(page, "Hand over");
  for (const part of ["Dose by time", "Cleaning"]) {
    const form = station.locator("form").filter({ has: page.getByText(part, { exact: true }) });
    await press(page, form.getByRole("button", { name: "Owner did it" }));
    await expect(station.getByText(`${part}: Owner did it`)).toBeVisible();
  }
  await confirm(/Told: what not to change/);
  // Known issues may still be told: the sheet waits to be sent on.
  await press(page, page.getByRole("link", { name: "Next: Sign" }));
  await atStation(page, "Sign");
  await press(page, page.getByRole("button", { name: "Sign the job" }));
  await expect(page.getByRole("heading", { name: "Owner’s page" })).toBeVisible();
  await press(page, page.getByRole("link", { name: /\/owner\// }));
  await expect(page.getByText("Dose in the basket").first()).toBeVisible();
  await expect(page.getByRole("heading", { name: "Brew pressure at the group" })).toHaveCount(0);
});

test.describe("on a phone", () => {
  test.use({ viewport: { width: 390, height: 844 }, hasTouch: true });

  test("a first fill is run with a thumb: the clock in view, nothing sideways", async ({ page }) => {
    await signIn(page);
    await startJob(page, await freshMachine("K7"), "Install");
    await page.getByLabel("Condition as it stands").fill("Sound.");
    await page.locator(".step-bar").getByRole("button", { name: "Save the condition" }).tap();
    await page.getByRole("button", { name: "None seen" }).tap();
    await note(page, "Accessories present", "All.");
    await tickOff(page, /Stable/, /Room/);
    await tickOff(page, "All set out");
    await note(page, "Hardness", "2 °dH");
    await atStation(page, "Power");
    await tickOff(page, /rating plate/, /earth OK/);
    await atStation(page, "First fill");
    const on = page.locator("[data-station-in-hand]").getByRole("button", { name: "On: start the timer" });
    expect((await on.boundingBox())!.height).toBeGreaterThanOrEqual(44);
    await on.tap();
    await expect(page.locator("[data-station-in-hand]").getByRole("timer")).toBeInViewport();
    await expectAccessible(page);
    await letPass(page, 40);
    await page
      .locator("[data-station-in-hand]")
      .getByRole("button", { name: "Full: pump and fill have stopped" })
      .tap();
    await atStation(page, "Rinse the new boiler");
    const sideways = await page.evaluate(
      () => document.documentElement.scrollWidth - document.documentElement.clientWidth,
    );
    expect(sideways).toBe(0);
  });
});

test("a workshop's schools are its lead's to set, and new jobs begin with them", async ({ page, browser, baseURL }) => {
  await signIn(page, STRANGER);
  await page.goto("/workshop");
  await page.getByLabel("Hardness of the water").selectOption("published-band");
  await page.getByLabel("Warming up").selectOption("blank-shots");
  await page.getByRole("button", { name: "Save the workshop" }).click();
  await expect(page.getByText("Saved. Open jobs keep what they began with.")).toBeVisible();
  await openMachine(page, "BV-70999");
  const open = page.getByRole("link", { name: /Pressure check open/ });
  if (await open.isVisible()) {
    await open.click();
    await page.waitForURL(/\/jobs\//);
    await expect(
      page.getByText(/OPV set to ceiling at 11\.0 to 12\.0 bar|OPV set to ceiling at \d+ to \d+ psi/),
    ).toBeVisible();
  }

  const technician = await browser.newPage({ baseURL: baseURL! });
  await signIn(technician, TECHNICIAN);
  await technician.goto("/settings");
  await expect(technician.getByRole("link", { name: "Workshop and methods" })).toHaveCount(0);
  const refused = await technician.evaluate(
    async (schools) => {
      const words = { name: "Mine", town: "Here", contact: "", timeZone: "UTC", pressureUnit: "bar", paper: "A4" };
      const body = new URLSearchParams({ ...words, decisionRule: "simple", ...schools });
      const response = await fetch("/workshop.data", { method: "POST", body });
      return [response.status, (await response.text()).includes("Only a lead sets the workshop")];
    },
    USUAL_SCHOOLS as unknown as Record<string, string>,
  );
  expect(refused).toEqual([403, true]);
  await technician.close();
});

for (const scripts of [true, false])
  test.describe(scripts ? "with scripts" : "before the scripts are there", () => {
    test.use({ javaScriptEnabled: scripts });
    test("how a clock tells when it is due is asked once, and can be turned off", async ({ page }) => {
      const by = await signInAlone(page);
      await begin(page, await freshMachine("K7", { of: by }), "Service", { by, warm: false });
      const asked = page.getByRole("complementary", { name: "When a timer ends" });
      await expect(asked).toBeVisible();
      if (scripts) await expectAccessible(page);
      // It goes at once; a page asked for in the same moment may not know the answer yet.
      const answered = page.waitForResponse((r) => r.request().method() === "POST" && r.url().includes("/settings"));
      await asked.getByRole("button", { name: "Sound only" }).click();
      await answered;
      await expect(asked).toBeHidden();
      await page.goto("/");
      await expect(page.getByRole("heading", { name: "On the bench" })).toBeVisible();
      await expect(asked).toBeHidden();
      await page.goto("/settings");
      const sound = page.getByRole("group", { name: "Sound when a timer ends" });
      await expect(sound.getByLabel("on")).toBeChecked();
      await expect(page.getByRole("group", { name: "Notification when a timer ends" }).getByLabel("off")).toBeChecked();
    });
  });
