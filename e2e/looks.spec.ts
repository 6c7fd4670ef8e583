import { expect, expectAccessible, onBench, openMachine, signIn, test } from "./workshop";

/** Every screen in both themes: nothing that axe finds, and units as each person set them. */

for (const theme of ["light", "dark"] as const) {
  // A theme changes colours and nothing else: the dark one is held against what colours can break.
  const rules = theme === "dark" ? ["color-contrast", "link-in-text-block"] : undefined;

  test(`signing in, bench, sheets and machines are accessible, ${theme}`, async ({ page }) => {
    test.setTimeout(120_000);
    await page.emulateMedia({ colorScheme: theme });
    await page.goto("/sign-in");
    await expectAccessible(page, rules);
    await signIn(page, "tobin@lowtide.example");
    await expectAccessible(page, rules);
    for (const [link, shows] of [
      [/The Gutting Shed.*Brew pressure: adjust/, "Brew pressure: adjust"],
      [/Net Loft Café.*Brew pressure: as found/, "Brew pressure: as found"],
      [/Pim’s kitchen.*Sign/, "Sign"],
    ] as const) {
      await (await onBench(page, link)).click();
      await expect(page.getByRole("heading", { name: shows, exact: true }).first()).toBeVisible();
      await expectAccessible(page, rules);
    }
    await page.goto("/machines/serial/NTB-10233");
    await page.getByRole("link", { name: /open since/ }).click();
    await page.waitForURL(/\/jobs\//);
    await page.goto(`${page.url()}/shots`);
    await page.getByText("All of shot 3").click();
    for (const box of (await page.getByRole("checkbox", { name: /^Compare/ }).all()).slice(0, 2)) await box.check();
    await expect(page.getByRole("region", { name: "Two shots compared" })).toBeVisible();
    await expectAccessible(page, rules);
    for (const serial of ["BV-70418", "NTD-3307", "HP2-1142"]) {
      await openMachine(page, serial);
      await expect(page.getByRole("heading", { name: "History" })).toBeVisible();
      await expectAccessible(page, rules);
    }
  });

  test(`register, library, settings and other stations are accessible, ${theme}`, async ({ page }) => {
    test.setTimeout(120_000);
    await page.emulateMedia({ colorScheme: theme });
    await signIn(page, "tobin@lowtide.example");
    for (const [path, shows] of [
      ["/settings", "Tobin Marsh"],
      ["/register", "Register"],
      ["/labels", "Labels"],
      ["/machines/new", "Add a machine"],
      ["/library", "Specs"],
      ["/library/kinds/K11", /Two-group/],
    ] as const) {
      await page.goto(path);
      await expect(page.getByRole("heading", { name: shows }).first()).toBeVisible();
      await expectAccessible(page, rules);
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
      await expectAccessible(page, rules);
    }
    await page.goto("/nothing-here");
    await expect(page.getByRole("heading", { name: "Page not found" })).toBeVisible();
    await expectAccessible(page, rules);
  });
}

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
