import { LEAD, STRANGER, expect, expectAccessible, signIn, test } from "./workshop";

test("a gauge’s certificate comes back changed: which visits, whose machines, and which verdicts would be others", async ({
  page,
}) => {
  await signIn(page, LEAD);
  await page.goto("/kit");
  await page.getByRole("link", { name: "What it touched: Portafilter gauge A" }).click();
  await expect(page.getByRole("heading", { name: "What Portafilter gauge A touched" })).toBeVisible();
  // As its papers are now, what was signed stands.
  await expect(page.getByRole("main").getByRole("status")).toHaveText("No verdict on this page would be another.");
  await expectAccessible(page);

  const add = page.getByLabel("Add to each reading, bar");
  await add.fill("much");
  await add.press("Enter");
  await expect(page.getByText("“much” is not a number.")).toBeVisible();
  await expect(add).toHaveValue("much");

  await add.fill("5000");
  await add.press("Enter");
  await expect(page.getByText("No instrument is off by that much.")).toBeVisible();
  // An address that somebody mangled says so, and shows the last year.
  await page.goto(`${page.url().split("?")[0]}?since=2026-02-31&add=x&after=never&id=1`);
  await expect(page.getByText("That is no day in the calendar.")).toBeVisible();

  await add.fill("-0,6");
  await add.press("Enter");
  await expect(page.getByRole("main").getByRole("status")).toContainText("would have another verdict");
  await expect(page.getByRole("listitem").filter({ hasText: "would be" }).first()).toBeVisible();
  await expectAccessible(page);

  // A whole year is more than a page; the next begins where this one ended.
  const first = await page.getByRole("main").locator("ol > li").first().innerText();
  await page.getByRole("link", { name: "Later ones" }).click();
  await expect(page.getByRole("link", { name: "To the oldest" })).toBeVisible();
  await expect(page.getByLabel("Add to each reading, bar")).toHaveValue("-0,6");
  expect(await page.getByRole("main").locator("ol > li").first().innerText()).not.toBe(first);

  await page.getByLabel("Since").fill("2099-01-01");
  await page.getByRole("button", { name: "Work it out" }).click();
  await expect(page.getByRole("main").getByRole("status")).toHaveText("Nothing was read with it since then.");
});

test("another workshop’s instrument is not found, and nothing is shown without signing in", async ({
  page,
  context,
}) => {
  await signIn(page, LEAD);
  await page.goto("/kit");
  const href = await page.getByRole("link", { name: "What it touched: Portafilter gauge A" }).getAttribute("href");
  await context.clearCookies();
  await signIn(page, STRANGER);
  expect((await page.goto(href!))!.status()).toBe(404);
  await context.clearCookies();
  await page.goto(href!);
  await expect(page.getByLabel("Password")).toBeVisible();
});
