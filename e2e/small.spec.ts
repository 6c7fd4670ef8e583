import type { Locator, Page } from "@playwright/test";
import { atStation, begin, expect, expectAccessible, freshMachine, read, signIn, startJob, test } from "./workshop";
import { prepared } from "./prepared";

/** A phone upright, on its side, and one of the smallest: what is first, what is under the thumb, what covers all. */

const inside = async (what: Locator, page: Page) => {
  const box = (await what.boundingBox())!;
  const { width, height } = page.viewportSize()!;
  expect(box.x).toBeGreaterThanOrEqual(0);
  expect(box.y).toBeGreaterThanOrEqual(0);
  expect(box.x + box.width).toBeLessThanOrEqual(width);
  expect(box.y + box.height).toBeLessThanOrEqual(height);
  return box;
};

test.describe("the smallest screen", () => {
  test.use({ viewport: { width: 320, height: 256 }, hasTouch: true });

  test("a hard stop covers everything: read from its first word to its last before it can be confirmed", async ({
    page,
  }) => {
    await signIn(page);
    const serial = await freshMachine("K7");
    await begin(page, serial, "Pressure check", {});
    for (const figure of ["11.4", "11.5"]) await read(page, figure);
    const stop = page.getByRole("alertdialog");
    await expect(stop).toBeVisible();
    // From edge to edge, over the bars as well.
    expect(await stop.boundingBox()).toEqual({ x: 0, y: 0, width: 320, height: 256 });
    await expect(stop.getByRole("heading")).toBeFocused();
    await inside(stop.getByRole("heading"), page);
    await expect(stop).toContainText(`Bench place ${serial}`);
    const confirm = stop.getByRole("button");
    await expect(confirm).toBeDisabled();
    // Everything else is out of reach: of fingers, and of those who hear the page.
    for (const [x, y] of [
      [10, 10],
      [160, 250],
      [310, 20],
    ] as const)
      expect(
        await page.evaluate(
          ([x, y]) => document.elementFromPoint(x!, y!)?.closest("[role=alertdialog]") !== null,
          [x, y],
        ),
      ).toBe(true);
    await expect(page.getByRole("navigation", { name: "Zones" })).toHaveCount(0);
    await expect(page.getByRole("link", { name: "Kit" })).toHaveCount(0);
    await page.keyboard.press("Enter");
    await page.keyboard.press("Escape");
    await expect(stop).toBeVisible();
    const lines = stop.getByRole("listitem");
    for (const line of await lines.all()) {
      await line.scrollIntoViewIfNeeded();
      await inside(line, page);
    }
    await confirm.scrollIntoViewIfNeeded();
    await expect(confirm).toBeEnabled();
    await expectAccessible(page);
    await confirm.tap();
    await expect(stop).toBeHidden();
    await expect(page.locator("[aria-current=step] h3")).toHaveText("Brew pressure: adjust");
    await expect(page.getByText(/^Turn OPV/)).toBeVisible();
  });
});

test.describe("a phone upright", () => {
  test.use({ viewport: { width: 390, height: 844 }, hasTouch: true });

  test("the zone that the work needs is there from the first paint, and the others are out of reach", async ({
    page,
  }) => {
    await signIn(page);
    await begin(page, await freshMachine("K4"), "Pressure check", {});
    // As the server sends it, before any script: nothing jumps when they come.
    const document = await (await page.request.get(page.url())).text();
    expect(document).toContain('data-shown="gauge"');
    await expect(page.getByLabel("The gauge shows")).toBeInViewport();
    await inside(page.getByRole("button", { name: "Save", exact: true }), page);
    const zones = page.getByRole("navigation", { name: "Zones" });
    await expect(zones.getByRole("link", { name: "gauge" })).toHaveAttribute("aria-current", "true");
    await expect(page.locator("#bench")).toBeHidden();
    await expect(page.locator("#sheet")).toBeHidden();
    await zones.getByRole("link", { name: "sheet" }).tap();
    await expect(page.locator("#sheet")).toBeVisible();
    await expect(page.locator("#gauge")).toBeHidden();
    await page.getByRole("link", { name: /^Measure: Brew pressure/ }).tap();
    await expect(page.locator("#gauge")).toBeVisible();
    // With a swipe, too.
    await swipe(page, 60, 330);
    await expect(page.locator("#sheet")).toBeVisible();
    await swipe(page, 330, 60);
    await expect(page.locator("#gauge")).toBeVisible();
  });

  test("a hard stop that comes while the gauge is shown is read and confirmed there", async ({ page }) => {
    await signIn(page);
    await begin(page, await freshMachine("K11"), "Handover");
    for (const out of ["1.20", "1.20"]) {
      await page.getByLabel("At cut-in the gauge shows").fill("1.00");
      await read(page, out, { field: "At cut-out the gauge shows" });
    }
    const stop = page.getByRole("alertdialog");
    await expect(stop.getByText("Switch off and unplug before the cover comes off")).toBeInViewport();
    await stop.getByRole("button", { name: "Off, unplugged: the cover is off" }).tap();
    await expect(stop).toBeHidden();
    await expect(page.locator("[data-key=turn]")).toBeVisible();
  });

  test("the gauge comes when it is the next thing, and stays for what it says of the last figure", async ({ page }) => {
    await signIn(page);
    await page.goto(`/jobs/${await prepared(await freshMachine("K7"), ["grinder"], { stopAt: "grinder" })}`);
    const bar = barOf(page);
    const gauge = page.locator("#gauge");
    // Something else comes first: the sheet, though a weighing is asked for in the same step.
    await expect(bar).toHaveText("Stale grounds purged");
    await expect(gauge).toBeHidden();
    await hasBeenRead(page);
    await bar.tap();
    const scale = page.getByLabel("The scale shows");
    await expect(scale).toBeInViewport();
    await expect(bar).toBeHidden();
    await scale.fill("16");
    await scale.press("Enter");
    await expect(gauge.getByText("out of spec").first()).toBeInViewport();
    await tapWhereItSays(page, /^Next: /);
    await expect(page.locator("#sheet")).toBeVisible();
    await expect(page.locator("[aria-current=step] h3")).not.toHaveText("Grinder and dose");
  });

  test("step after step is done from one place under the thumb; the second of two taps does nothing", async ({
    page,
  }) => {
    await signIn(page);
    await startJob(page, await freshMachine("K14"), "Install");
    const bar = barOf(page);
    await expect(bar).toHaveText(/Condition/);
    await bar.tap();
    await expect(page.getByLabel("Condition as it stands")).toBeFocused();
    // What was typed is saved from there too; what the same form takes besides is led to when it is its turn.
    await page.getByLabel("Condition as it stands").fill("New, boxed.");
    await tapWhereItSays(page, "Save the condition");
    await expect(bar).toHaveText(/Transport damage/);
    await expect(page.locator("[id='task-look-over.damage'] :focus")).toBeVisible();
    await page.getByRole("button", { name: "None seen" }).tap();
    await tapWhereItSays(page, /Accessories present/);
    await expect(page.getByLabel("Accessories present")).toBeFocused();
    await page.getByLabel("Accessories present").fill("Hopper.");
    await tapWhereItSays(page, "Save the condition");
    await atStation(page, "Set it down");
    await expect(bar).toHaveText(/Stable, level surface/);
    const box = (await bar.boundingBox())!;
    expect(box.height).toBeGreaterThanOrEqual(44);
    // In the lower third, where a thumb is.
    expect(box.y).toBeGreaterThan((844 * 2) / 3);
    await hasBeenRead(page);
    await bar.dblclick();
    // One tap was meant; what came under the thumb with the second has not been read.
    await expect(page.locator("[aria-current=step] h3")).toHaveText("Tools");
    await tapWhereItSays(page, "All set out");
    const step = page.locator("[aria-current=step] h3");
    await expect(step).toHaveText("Power");
    // To a step by its link: who hears the page is told where they are, and goes on from there.
    await page.getByRole("link", { name: "Tools", exact: true }).tap();
    await expect(step).toHaveText("Tools");
    await expect(step).toBeFocused();
    await expect(page.locator("#said")).toHaveText("Now: Tools.");
  });

  test("buttons and meters of two groups are three screens at most", async ({ page }) => {
    await signIn(page);
    await begin(page, await freshMachine("K11", { card: { groups: 2 } }), "Handover", { skips: ["steam"] });
    await page.getByRole("navigation", { name: "Zones" }).getByRole("link", { name: "sheet" }).tap();
    await atStation(page, "Buttons and meters: as found");
    const station = page.locator("[data-station-in-hand]");
    await expect(station.getByText(/Meter factor, group 2/)).toBeVisible();
    const { height } = (await station.boundingBox())!;
    const room = (await page.locator("#sheet").boundingBox())!.height;
    expect(height / room).toBeLessThanOrEqual(3);
  });
});

test.describe("a phone on its side", () => {
  test.use({ viewport: { width: 844, height: 390 }, hasTouch: true });

  test("reading, strip, advice and one button stand together without scrolling", async ({ page }) => {
    await signIn(page);
    await begin(page, await freshMachine("K4"), "Pressure check", {});
    await expect(page.getByLabel("The gauge shows")).toBeInViewport({ ratio: 1 });
    await inside(page.getByRole("button", { name: "Save", exact: true }), page);
    await read(page, "11.4");
    const turned = page.getByRole("button", { name: /^Turned / });
    await inside(turned, page);
    await inside(page.getByRole("region", { name: "Next move" }).getByText(/^Turn /), page);
    const strip = page
      .locator("#gauge")
      .getByRole("img", { name: /^Brew pressure/ })
      .first();
    await inside(strip, page);
    await inside(page.locator("#gauge").getByText("11.5").first(), page);
    await expectAccessible(page);
  });
});

/** As long as somebody looks at a button before it is pressed. */
async function hasBeenRead(page: Page) {
  const shown = await page.evaluate(() => performance.now());
  await page.waitForFunction((at) => performance.now() > at + 600, shown);
}

/** The bar under the thumb: what is done next, or the way to it. */
const barOf = (page: Page) =>
  page.locator(".step-bar").getByRole("link").or(page.locator(".step-bar").getByRole("button"));

/** Pressed there once it has been read. */
async function tapWhereItSays(page: Page, words: string | RegExp) {
  await expect(barOf(page)).toHaveText(words);
  await hasBeenRead(page);
  await barOf(page).tap();
}

async function swipe(page: Page, from: number, to: number) {
  const client = await page.context().newCDPSession(page);
  const at = (x: number) => [{ x, y: 420 }];
  await client.send("Input.dispatchTouchEvent", { type: "touchStart", touchPoints: at(from) });
  for (let i = 1; i <= 6; i++)
    await client.send("Input.dispatchTouchEvent", { type: "touchMove", touchPoints: at(from + ((to - from) * i) / 6) });
  await client.send("Input.dispatchTouchEvent", { type: "touchEnd", touchPoints: [] });
}
