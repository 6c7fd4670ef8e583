import { STRANGER, expect, openMachine, signIn, test } from "./workshop";

// A phone on the other side of the world from the workshop, which is in Auckland.
test.use({ timezoneId: "America/New_York" });

test("days and hours are the workshop’s: after a full load, after a move in the application, and on the owner’s page", async ({
  page,
}) => {
  await signIn(page, STRANGER);
  await openMachine(page, "BV-70999");
  await page.getByRole("region", { name: "History" }).getByRole("link").first().click();
  const signed = page.locator("p").filter({ hasText: "Signed by" });
  const times = signed.locator("time");
  await expect(times).toHaveCount(2);
  const iso = (await times.nth(1).getAttribute("datetime"))!;
  const there = new Intl.DateTimeFormat("en-GB", { timeStyle: "short", timeZone: "Pacific/Auckland" }).format(
    new Date(iso),
  );
  const moved = await signed.innerText();
  expect(moved).toContain(`at ${there}`);
  await page.reload();
  expect(await signed.innerText()).toBe(moved);
  await page.locator("a[href^='/owner/']").first().click();
  await expect(page.getByText(/^Signed by/)).toContainText(`at ${there}`);
});

test("a lead sets the zone; one there is none of is refused beside the field", async ({ page }) => {
  await signIn(page, STRANGER);
  await page.goto("/workshop");
  const zone = page.getByLabel("Time zone");
  await expect(zone).toHaveValue("Pacific/Auckland");
  await zone.fill("Moon/Base");
  await zone.press("Enter");
  await expect(page.getByText("No time zone is called “Moon/Base”.")).toBeVisible();
  await zone.fill("Pacific/Auckland");
  await zone.press("Enter");
  await expect(page.getByText("Saved. Open jobs keep what they began with.")).toBeVisible();
});
