import type { Page } from "@playwright/test";
import { expect, expectAccessible, onBench, openMachine, signIn, test } from "./workshop";

/** What stands on a screen only after somebody did something there, in both themes (every page as it opens: every-screen.spec.ts). */

/** A theme changes colours and nothing else: the dark one is held against what colours can break. */
async function soundInBothThemes(page: Page) {
  await page.emulateMedia({ colorScheme: "light" });
  await expectAccessible(page);
  await page.emulateMedia({ colorScheme: "dark" });
  await expectAccessible(page, ["color-contrast", "link-in-text-block"]);
}

test("sheets of all kinds of steps, and two shots compared, are sound in both themes", async ({ page }) => {
  await signIn(page, "tobin@lowtide.example");
  for (const [link, shows] of [
    [/The Gutting Shed.*Brew pressure: adjust/, "Brew pressure: adjust"],
    [/Net Loft Café.*Brew pressure: as found/, "Brew pressure: as found"],
    [/Pim’s kitchen.*Sign/, "Sign"],
  ] as const) {
    await (await onBench(page, link)).click();
    await expect(page.getByRole("heading", { name: shows, exact: true }).first()).toBeVisible();
    await soundInBothThemes(page);
  }
  await page.goto("/machines/serial/NTB-10233");
  await page.getByRole("link", { name: /open since/ }).click();
  await page.waitForURL(/\/jobs\//);
  await page.goto(`${page.url()}/shots`);
  await page.getByText("All of shot 3").click();
  for (const box of (await page.getByRole("checkbox", { name: /^Compare/ }).all()).slice(0, 2)) await box.check();
  await expect(page.getByRole("region", { name: "Two shots compared" })).toBeVisible();
  await soundInBothThemes(page);
});

test("machines with a history, and steps that are not in hand, are sound in both themes", async ({ page }) => {
  await signIn(page, "tobin@lowtide.example");
  for (const serial of ["BV-70418", "NTD-3307", "HP2-1142"]) {
    await openMachine(page, serial);
    await expect(page.getByRole("heading", { name: "History" })).toBeVisible();
    await soundInBothThemes(page);
  }
  for (const [link, station] of [
    [/Quayside Rooms/, "boiler-ready"],
    [/Sefa’s kitchen/, "water"],
    [/Winterbourne’s barn/, "parts"],
  ] as const) {
    await (await onBench(page, link)).click();
    await page.waitForURL(/\/jobs\//);
    await page.goto(`${page.url().split("?")[0]}?at=${station}`);
    await expect(page.locator("[data-station-in-hand]")).toBeVisible();
    await soundInBothThemes(page);
  }
});

test("unit and theme are a person's own", async ({ page }) => {
  await signIn(page, "runa@chandlery.example");
  await page.goto("/settings");
  await page.getByLabel("psi").check();
  await page.getByLabel("under the counter").check();
  await page.getByRole("button", { name: "Save", exact: true }).click();
  await expect(page.getByText("Saved.")).toBeVisible();
  await expect(page.locator("html")).toHaveAttribute("data-theme", "dark");
  await page.goto("/");
  await page.getByRole("link", { name: /BV-70999/ }).click();
  await expect(page.getByText(/\d+ → \d+ psi/).first()).toBeVisible();
  await expectAccessible(page);
});

test("forms work before scripts arrive", async ({ browser, baseURL }) => {
  const context = await browser.newContext({ javaScriptEnabled: false, baseURL: baseURL! });
  const page = await context.newPage();
  await page.goto("/sign-in");
  await page.getByLabel("Email").fill("tobin@lowtide.example");
  await page.getByLabel("Password").fill("wet-hands-9bar");
  await page.getByRole("button", { name: "Sign in" }).click();
  await expect(page.getByRole("heading", { name: "On the bench" })).toBeVisible();
  await (await onBench(page, /Net Loft Café.*Brew pressure: as found/)).click();
  await page.getByLabel("The gauge shows").fill("many");
  await page.getByRole("button", { name: "Save", exact: true }).click();
  await expect(page.getByText("“many” is not a number.")).toBeVisible();
  await expect(page.getByLabel("The gauge shows")).toHaveValue("many");
  await context.close();
});
