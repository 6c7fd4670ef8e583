import { expect, expectAccessible, freshMachine, openMachine, signIn, startJob, test } from "./workshop";

/** The life of one machine: its readings over the years, where it was, and whose it is. */

test("readings over the years, each against its tolerance, with the next service and its reason; all of it by keyboard", async ({
  page,
}) => {
  await signIn(page);
  await openMachine(page, "HE2-3301");
  const years = page.getByRole("region", { name: "Readings over the years" });
  const brew = years.getByRole("figure").filter({ hasText: "Brew pressure at the group" });
  await expect(brew.getByRole("img", { name: /\d+ visits\. As left .* bar\. Between visits it moves/ })).toBeVisible();
  await expect(years.getByRole("figure")).not.toHaveCount(1);
  await expect(page.getByText("Next service", { exact: true })).toBeVisible();
  const history = page.getByRole("region", { name: "History" });
  await history
    .locator("summary", { hasText: /shots?$/ })
    .first()
    .focus();
  await page.keyboard.press("Enter");
  await expect(history.getByText(/^Recipe: /).first()).toBeVisible();
  await expectAccessible(page);
  await page.setViewportSize({ width: 390, height: 844 });
  expect(await page.evaluate(() => document.documentElement.scrollWidth <= window.innerWidth)).toBe(true);
});

test("a modification since the last visit is the first thing the next one says", async ({ page }) => {
  await signIn(page);
  await openMachine(page, "NTB-10877");
  const open = page.getByRole("link", { name: /open since/ });
  await page.getByRole("button", { name: "Add a modification" }).click();
  await page.getByLabel("What was changed").fill("Pump renewed by the owner’s brother");
  await page.getByRole("button", { name: "Save", exact: true }).click();
  await expect(page.getByRole("region", { name: "History" })).toContainText("Pump renewed by the owner’s brother");
  if (await open.isVisible()) await open.click();
  else await startJob(page, "NTB-10877", "Pressure check");
  await expect(page.getByText(/^Since the last visit, .*: 1 change/)).toBeVisible();
  await expect(page.locator("#sheet").getByText("Pump renewed by the owner’s brother")).toBeVisible();
});

test("retired, no job is started on it; back in service, one is; its owner is called with one tap, and twice in the register is once", async ({
  page,
}) => {
  await signIn(page);
  const serial = await freshMachine("K7");
  await openMachine(page, serial);
  const machine = page.url();
  await page.getByText("Out of service for good").click();
  await page.getByRole("button", { name: "Retire the machine" }).click();
  await expect(page.getByText("Say why: its history keeps it.")).toBeVisible();
  await page.getByLabel("Reason").fill("Boiler cracked.");
  await page.getByRole("button", { name: "Retire the machine" }).click();
  await expect(page.getByText(/^Retired on/)).toBeVisible();
  await expect(page.getByRole("button", { name: /^Start the/ })).toHaveCount(0);
  await expectAccessible(page);
  await page.getByText("Back in service", { exact: true }).click();
  await page.getByLabel("Reason").fill("New boiler.");
  await page.getByRole("button", { name: "Take it back into service" }).click();
  await expect(page.getByRole("button", { name: /^Start the/ })).toBeVisible();
  await expect(page.getByRole("region", { name: "History" })).toContainText("Back in service: New boiler.");

  await page.locator("dl a[href^='/owners/']").click();
  const name = `Osk ${Date.now()}`;
  await page.getByLabel("Name", { exact: true }).fill(name);
  await page.getByLabel("Phone").fill("ring twice");
  await page.getByRole("button", { name: "Save", exact: true }).click();
  await expect(page.getByText(/^Digits, like/)).toBeVisible();
  await page.getByLabel("Phone").fill("+44 1632 960123");
  await page.getByRole("button", { name: "Save", exact: true }).click();
  await expect(page.getByRole("link", { name: "+44 1632 960123" })).toHaveAttribute("href", "tel:+441632960123");
  await expect(page.getByRole("heading", { name })).toBeVisible();
  await expectAccessible(page);

  // The same person under another name, with another machine.
  await page.goto(`${machine}/edit`);
  const other = `Vera ${name}`;
  await page.getByLabel("Owner", { exact: true }).fill(other);
  await page.getByRole("button", { name: "Save" }).click();
  await expect(page.getByRole("region", { name: "History" })).toContainText(`(${name}) to`);
  await page.locator("dl a[href^='/owners/']").click();
  await page.getByText("The same owner stands here twice").click();
  await page.getByLabel("Name of the entry that stays").fill("Nobody at all");
  await page.getByRole("button", { name: "Merge into that entry" }).click();
  await expect(page.getByText(/^No owner of that name/)).toBeVisible();
  await page.getByLabel("Name of the entry that stays").fill(name);
  await page.getByRole("button", { name: "Merge into that entry" }).click();
  await expect(page.getByRole("heading", { name, exact: true })).toBeVisible();
  await expect(page.getByRole("link", { name: serial })).toBeVisible();
});
