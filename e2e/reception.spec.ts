import { randomUUID } from "node:crypto";
import sharp from "sharp";
import type { Browser, BrowserContext, Locator, Page, Route } from "@playwright/test";
import { atStation, begin, expect, freshMachine, openMachine, signIn, startService, test } from "./workshop";

/** Behind a counter with poor reception: nothing that is on the screen goes away, nothing that was saved is lost or doubled. */

const SAID = "Not saved: no connection. Kept here, sent when the connection is back.";

const aPhoto = () =>
  sharp({ create: { width: 60, height: 40, channels: 3, background: "#886633" } })
    .png()
    .toBuffer();

/** The application runs, and has fetched the scripts of its other pages and parts. */
async function everythingThere(page: Page) {
  const fetched = (part: string) =>
    page.evaluate((name) => performance.getEntriesByType("resource").some((e) => e.name.includes(name)), part);
  for (const part of ["/kit-", "/charts-", "/table-"]) await expect.poll(() => fetched(part)).toBe(true);
}

/** Another browser of the same person: nothing of the application is kept in it. */
async function nothingKept(browser: Browser, page: Page) {
  const fresh = await browser.newContext({ storageState: await page.context().storageState() });
  return { fresh, cold: await fresh.newPage() };
}

/** Does something without a connection: it is said, the page stays, and goes through by itself once the connection is back. */
async function without(context: BrowserContext, page: Page, act: () => Promise<unknown>, arrived: Locator) {
  await expect(arrived).toBeHidden();
  await context.setOffline(true);
  await act();
  await expect(page.getByText(SAID)).toBeVisible();
  await expect(page.getByRole("main")).toBeVisible();
  await expect(page.getByRole("heading", { name: /Something went wrong|No connection/ })).toHaveCount(0);
  await context.setOffline(false);
  await expect(arrived).toBeVisible();
  await expect(page.getByText(SAID)).toBeHidden();
}

test("every kind of save on a pressure check, without a connection: from the look over to the signature", async ({
  page,
  context,
}) => {
  await signIn(page);
  await startService(page, await freshMachine("K13"));
  const button = (name: string | RegExp) => page.getByRole("button", { name });
  const save = (act: () => Promise<unknown>, arrived: Locator) => without(context, page, act, arrived);
  await everythingThere(page);
  const lines = page
    .getByRole("list", { name: "Readings and adjustments", includeHidden: true })
    .getByRole("listitem", { includeHidden: true });

  await page.getByLabel("Photos").setInputFiles({ name: "front.png", mimeType: "image/png", buffer: await aPhoto() });
  await save(() => button("Add photo").click(), page.getByRole("link", { name: "Photo 1, opens large" }));
  await expect(page.getByRole("link", { name: /opens large/ })).toHaveCount(1);
  await page.getByLabel("Condition as it stands").fill("Scratched at the left.");
  await save(() => button("Save the condition").click(), button("All set out"));
  await page.getByText("OPV set to regulate at").click();
  await page.getByLabel("Hardness of the water").selectOption("published-band");
  const own = page.getByText("this job’s own").first();
  await save(() => page.getByRole("button", { name: "Use these for this job" }).click(), own);
  const first = page.getByLabel("The gauge shows");
  await save(() => button("All set out").click(), first);

  const shown = async (figure: string) => {
    await page.getByLabel("The gauge shows").fill(figure);
    await button("Save").click();
  };
  await save(() => shown("10.9"), lines.nth(0));
  await shown("10.8");
  await expect(lines).toHaveCount(2);
  // A hard stop is confirmed too.
  const move = button("Spring fitted: 1 step softer");
  const stop = page.getByRole("alertdialog", { name: "Before the spring is swapped" });
  await context.setOffline(true);
  await stop.getByRole("button", { name: "The gauge reads zero, it is off, unplugged and cool" }).click();
  await expect(stop.getByText(SAID)).toBeVisible();
  await context.setOffline(false);
  await expect(stop).toBeHidden();
  await page.getByLabel("The gauge reads zero, the machine is off and unplugged").first().check();
  await save(() => move.click(), lines.filter({ hasText: /softer/ }).first());
  await shown("9.1");
  await expect(lines).toHaveCount(4);
  const zero = page.getByRole("alertdialog", { name: "Trapped pressure" });
  // It covers the sheet at once: what the last reading came to is said on it.
  await expect(zero).toContainText(/Brew pressure: as left 9\.[12] bar, in spec\./);
  await save(() => zero.getByRole("button", { name: "The gauge reads zero" }).click(), button("Sign the job"));
  await save(() => button("Sign the job").click(), page.getByRole("heading", { name: "Owner’s page" }));
  await page.locator("summary").filter({ hasText: "Withdraw" }).click();
  await save(() => button("Withdraw the link").click(), page.getByText("No link is valid now."));
  // Each of them once.
  await page.reload();
  await expect(page.getByText("Scratched at the left.")).toHaveCount(1);
});

test("and on a handover: choices, ticks, entries, rows put in and taken out, schools, a station left out", async ({
  page,
  context,
}) => {
  await signIn(page);
  await begin(page, await freshMachine("K1"), "Handover", { skips: ["steam", "temperature"] });
  await atStation(page, "Buttons and meters: as found");
  const station = page.locator("[data-station-in-hand]");
  await everythingThere(page);
  const save = (act: () => Promise<unknown>, arrived: Locator) => without(context, page, act, arrived);
  await page.getByText("Does the button store volume or seconds?").click();
  const runs = page.locator("details").filter({ hasText: "Does the button store" });
  await runs.getByLabel("Run", { exact: true }).selectOption("blank");
  await runs.getByLabel("Ran for, s").fill("20");
  const row = runs.getByRole("listitem").filter({ hasText: /Run it once with coffee/ });
  await save(() => runs.getByRole("button", { name: "Save row" }).click(), row);
  await runs.getByRole("button", { name: /^Exclude/ }).click();
  await runs.getByLabel("Reason").fill("Wrong button.");
  await context.setOffline(true);
  await runs.getByRole("button", { name: "Exclude", exact: true }).click();
  await expect(page.getByText(SAID)).toBeVisible();
  await context.setOffline(false);
  await expect(row).toBeHidden();
  await page.goto(`${page.url().split("?")[0]}?at=grinder`);
  await atStation(page, "Grinder and dose");
  await save(
    () => station.getByRole("button", { name: "over 2.5 cm of beans" }).click(),
    station.getByText("Beans in the hopper: over 2.5 cm of beans"),
  );
  const purged = station.getByRole("button", { name: "Stale grounds purged", exact: true });
  await context.setOffline(true);
  await purged.click();
  await expect(page.getByText(SAID)).toBeVisible();
  await context.setOffline(false);
  await expect(purged).toBeHidden();

  const wanted = station.locator("form").filter({ has: page.getByRole("textbox", { name: /^Dose wanted/ }) });
  await wanted.getByRole("textbox", { name: /^Dose wanted/ }).fill("17.5");
  await save(() => wanted.getByRole("button", { name: /^Save/ }).click(), station.getByText("17.5 g").first());

  await page.getByText("Skip this step").click();
  await page.getByLabel("Reason").fill("The owner grinds elsewhere.");
  const reason = page.locator("#sheet").getByText("The owner grinds elsewhere.");
  await save(() => page.getByRole("button", { name: "Skip it" }).click(), reason);
});

test("in the shots’ room: the clock is tapped and the shot noted, and both arrive", async ({ page, context }) => {
  await signIn(page);
  await begin(page, await freshMachine("K3"), "Handover", { skips: ["steam", "temperature", "grinder"] });
  await page.goto(`${page.url().split("?")[0]}/shots`);
  await expect(page.locator("main[data-ready]")).toBeVisible();
  await context.setOffline(true);
  await page.getByRole("button", { name: /^Pump on/ }).click();
  await page.getByRole("button", { name: /^First drop/ }).click();
  const clock = page.getByRole("timer", { name: "Seconds of the shot" });
  await expect.poll(async () => Number(await clock.textContent())).toBeGreaterThan(2);
  await page.getByRole("button", { name: /^Stop/ }).click();
  await expect(page.getByText(/^Stopped at/)).toBeVisible();
  for (const [label, words] of Object.entries({
    Coffee: "Breakwater blend",
    Grind: "10",
    "Dose, g": "18",
    "In the cup, g": "36",
    "First drop, s": "6",
    "Seconds, s": "26",
  }))
    await page.getByLabel(label, { exact: true }).fill(words);
  await page.getByRole("button", { name: "Save shot" }).click();
  await expect(page.getByText(SAID)).toBeVisible();
  await context.setOffline(false);
  const tries = page.getByRole("list", { name: "Shots of this job" }).getByRole("listitem");
  await expect(page.getByText("36.0 g").first()).toBeVisible();
  await expect(page.getByText(SAID)).toBeHidden();
  await page.reload();
  await expect(tries.or(page.getByText("Shot 1")).first()).toBeVisible();
  await expect(page.getByText("Shot 2")).toHaveCount(0);
});

test("pages with one form: a machine, a job, an instrument, a setting", async ({ page, context }) => {
  await signIn(page);
  const serial = `OFF-${randomUUID().slice(0, 8)}`;
  await page.goto("/machines/new");
  await page.getByLabel("Model").selectOption({ label: "Brandvik Skerry" });
  await page.getByLabel("Serial", { exact: true }).fill(serial);
  for (const field of ["Owner", "Site", "Town"]) await page.getByLabel(field, { exact: true }).fill(`Away ${serial}`);
  await without(
    context,
    page,
    () => page.getByRole("button", { name: "Add it to the register" }).click(),
    page.getByRole("heading", { name: "Brandvik Skerry" }),
  );
  await page.getByRole("radio", { name: "Pressure check" }).check();
  await without(
    context,
    page,
    () => page.getByRole("button", { name: "Start the pressure check" }).click(),
    page.getByLabel("Condition as it stands"),
  );

  await page.goto("/kit/new");
  await page.getByLabel("Name").fill(`Gauge ${serial}`);
  for (const [label, words] of [
    ["to, bar", "16"],
    ["Smallest step, bar", "0.1"],
    ["Class", "1.6"],
  ] as const)
    await page.getByLabel(label, { exact: true }).fill(words);
  const gauge = page.getByRole("link", { name: `Gauge ${serial}`, exact: true });
  await without(context, page, () => page.getByRole("button", { name: "Save", exact: true }).click(), gauge);
  const row = page.getByRole("listitem").filter({ has: gauge });
  await row.locator("summary").filter({ hasText: "Retire" }).click();
  await context.setOffline(true);
  await row.getByRole("button", { name: "Retire it" }).click();
  await expect(page.getByText(SAID)).toBeVisible();
  await context.setOffline(false);
  await expect(gauge).toBeHidden();

  await page.goto("/settings");
  await context.setOffline(true);
  await page.getByRole("button", { name: "Save", exact: true }).click();
  await expect(page.getByText("Not saved: no connection. Press it again when the connection is back.")).toBeVisible();
  await context.setOffline(false);
});

test("a page asked for without a connection: the one before stays a tap away, and it comes by itself", async ({
  page,
  context,
}) => {
  await signIn(page);
  await startService(page, await freshMachine("K4"));
  await page.getByLabel("Condition as it stands").fill("Half typed");
  await everythingThere(page);
  await context.setOffline(true);
  await expect(page.getByText("No connection. This page stays;")).toBeVisible();
  await page.getByRole("link", { name: "Kit", exact: true }).click();
  await expect(page.getByRole("heading", { name: "No connection" })).toBeVisible();
  await page.getByRole("button", { name: "Go back" }).click();
  await expect(page.getByLabel("Condition as it stands")).toHaveValue("Half typed");
  await page.getByRole("link", { name: "Kit", exact: true }).click();
  await expect(page.getByRole("heading", { name: "No connection" })).toBeVisible();
  await context.setOffline(false);
  await expect(page.getByRole("heading", { name: "Kit", exact: true })).toBeVisible();
  await expect(page.getByText("No connection. This page stays;")).toBeHidden();
});

test("a connection that goes before the scripts of other pages are there costs nothing once it is back", async ({
  page,
  browser,
}) => {
  await signIn(page);
  await openMachine(page, await freshMachine("K4"));
  const { fresh, cold } = await nothingKept(browser, page);
  await fresh.route("**/assets/sheet-*", (route) => route.abort("internetdisconnected"));
  const failed = cold.waitForEvent("requestfailed");
  await cold.goto(page.url());
  await failed;
  await fresh.setOffline(true);
  await fresh.unrouteAll();
  await cold.getByRole("radio", { name: "Pressure check" }).check();
  await without(
    fresh,
    cold,
    () => cold.getByRole("button", { name: "Start the pressure check" }).click(),
    cold.getByLabel("Condition as it stands"),
  );
  await fresh.close();
});

/** In the shots’ room without its chart’s scripts, a first shot typed and not saved yet. */
async function withoutTheChart(page: Page, browser: Browser, answer: (route: Route) => Promise<void>) {
  await signIn(page);
  await begin(page, await freshMachine("K3"), "Handover", { skips: ["steam", "temperature", "grinder"] });
  const { fresh, cold } = await nothingKept(browser, page);
  await fresh.route("**/assets/shot-chart-*", answer);
  let begun = 0;
  cold.on("domcontentloaded", () => void begun++);
  await cold.goto(`${page.url().split("?")[0]}/shots`);
  await expect(cold.locator("main[data-ready]")).toBeVisible();
  const shot = { Coffee: "Breakwater blend", Grind: "10", "Dose, g": "18", "In the cup, g": "36", "Seconds, s": "26" };
  for (const [label, words] of Object.entries(shot)) await cold.getByLabel(label, { exact: true }).fill(words);
  return { fresh, cold, cup: cold.getByLabel("In the cup, g", { exact: true }), begun: () => begun };
}

test("a part whose scripts did not come is there once they do, and nothing typed is lost", async ({
  page,
  browser,
}) => {
  const { fresh, cold, cup } = await withoutTheChart(page, browser, (route) => route.abort("internetdisconnected"));
  const failed = cold.waitForEvent("requestfailed", (request) => request.resourceType() === "script");
  await cold.getByRole("button", { name: "Save shot" }).click();
  await failed;
  await cup.fill("37.5");
  await fresh.unrouteAll();
  await expect(cold.getByText("Drawing…")).toBeHidden();
  await expect(cup).toHaveValue("37.5");
  await fresh.close();
});

test("a part that never comes is left out in words, and the page is not begun anew for it without end", async ({
  page,
  browser,
}) => {
  const broken = (route: Route) => route.fulfill({ status: 404, body: "" });
  const { fresh, cold, cup, begun } = await withoutTheChart(page, browser, broken);
  await cold.getByRole("button", { name: "Save shot" }).click();
  await expect(cold.getByText("A part of this page could not be loaded.")).toBeVisible();
  expect(begun()).toBe(2);
  await cup.fill("37.5");
  await fresh.unrouteAll();
  await cold.getByRole("link", { name: "Load the page again" }).click();
  await expect(cold.getByText("A part of this page could not be loaded.")).toBeHidden();
  await expect(cold.getByText("Drawing…")).toBeHidden();
  await expect(cup).toHaveValue("37.5");
  await fresh.close();
});

test("what waits goes out however often the line fails, and when its page has been left", async ({ page, context }) => {
  await signIn(page);
  await startService(page, await freshMachine("K4"));
  const sheet = page.url();
  await everythingThere(page);
  // The server answers when it is looked for, and the save is lost twice as the recipe, with a reason.
  let lost = 0;
  await page.route(/\/jobs\/.*\.data/, (route) =>
    route.request().method() === "POST" && lost < 2 ? (lost++, route.abort()) : route.continue(),
  );
  await page.getByLabel("Condition as it stands").fill("Said three times.");
  await page.getByRole("button", { name: "Save the condition" }).click();
  const tools = page.getByRole("button", { name: "All set out" });
  await expect(tools).toBeVisible();
  expect(lost).toBe(2);

  await context.setOffline(true);
  await tools.click();
  await expect(page.getByText(SAID)).toBeVisible();
  await page.getByRole("link", { name: /^Nimble Gauge/ }).click();
  await expect(page.getByRole("heading", { name: /On the bench|No connection/ })).toBeVisible();
  const arrived = page.waitForResponse((answer) => answer.request().method() === "POST" && answer.ok());
  await context.setOffline(false);
  await expect(page.getByRole("heading", { name: "On the bench" })).toBeVisible();
  await arrived;
  await page.goto(sheet);
  await everythingThere(page);
  await expect(tools).toBeHidden();
  await expect(page.getByText("Said three times.")).toHaveCount(1);
});
