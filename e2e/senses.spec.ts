import type { Locator, Page } from "@playwright/test";
import { prepared } from "./prepared";
import { alive, begin, dueIn, expect, freshMachine, signIn, signInAlone, startJob, test } from "./workshop";

/** What is seen without the product’s colours, without movement; what is heard and felt; and keys that are somebody’s own. */

/** How a thing is set off from its neighbours where its colours are the reader’s own. */
const edge = (what: Locator) =>
  what.evaluate((e) => {
    const { outlineStyle, outlineWidth, backgroundColor, borderTopWidth } = getComputedStyle(e);
    return [outlineStyle === "none" ? "0px" : outlineWidth, backgroundColor, borderTopWidth].join(" ");
  });

test.describe("colours of the reader’s own", () => {
  test.use({ forcedColors: "active" });

  test("what is chosen, current, or the main thing is told from the rest", async ({ page }) => {
    await signIn(page);
    await begin(page, await freshMachine("K4"), "Pressure check", {});
    const current = page.locator("#bench a[aria-current=page]");
    const other = page.locator("#bench a:not([aria-current])").first();
    expect(await edge(current)).not.toBe(await edge(other));
    expect(await edge(page.locator("li[aria-current=step]"))).not.toBe(
      await edge(page.locator("#sheet ol > li").first()),
    );
    const save = page.getByRole("button", { name: "Save", exact: true });
    expect(await edge(save)).not.toBe(await edge(page.getByRole("button", { name: "Keys on this screen" })));
    // The strip is drawn in the reader’s colours: its line is not that of the ground it stands on.
    const [line, ground] = await page
      .locator("#gauge svg[role=img] path")
      .first()
      .evaluate((path) => {
        return [getComputedStyle(path).stroke, getComputedStyle(document.documentElement).backgroundColor];
      });
    expect(line).not.toBe(ground);

    await page.goto("/settings");
    const [chosen, unchosen] = [
      page.locator("label:has(:checked)").first(),
      page.locator("label:has(input[type=radio]:not(:checked))").first(),
    ];
    expect(await edge(chosen)).not.toBe(await edge(unchosen));
    await page.setViewportSize({ width: 390, height: 844 });
    await page.goto(`/jobs/${await prepared(await freshMachine("K4"), "check", {})}`);
    const zones = page.getByRole("navigation", { name: "Zones" });
    expect(await edge(zones.locator("[aria-current]"))).not.toBe(
      await edge(zones.locator("a:not([aria-current])").first()),
    );
  });
});

test.describe("less movement", () => {
  test.use({ reducedMotion: "reduce" });

  test("nothing moves by itself, and nothing shakes", async ({ page }) => {
    await watched(page);
    await signIn(page);
    const pages = [
      "/",
      "/register",
      "/settings",
      `/jobs/${await prepared(await freshMachine("K1"), ["shots"], {})}/shots`,
    ];
    for (const path of pages) {
      await page.goto(path);
      const moving = await page.evaluate(
        () =>
          [...document.querySelectorAll("*")].filter((e) => {
            const { transitionDuration, animationName, scrollBehavior } = getComputedStyle(e);
            return parseFloat(transitionDuration) > 0 || animationName !== "none" || scrollBehavior === "smooth";
          }).length,
      );
      expect(moving, path).toBe(0);
    }
    await expect(page.locator("main[data-ready]")).toBeVisible();
    await page.keyboard.press("p");
    await running(page);
    await page.keyboard.press("s");
    await expect(page.getByText(/^Stopped at/)).toBeVisible();
    expect(await felt(page)).toEqual([]);
  });
});

/** Notes what a phone would do: shake, and stay awake. */
async function watched(page: Page) {
  await page.addInitScript(() => {
    const noted = { shakes: [] as unknown[], held: 0, released: 0 };
    Object.assign(window, { noted });
    navigator.vibrate = (pattern) => noted.shakes.push(pattern) > 0;
    Object.defineProperty(navigator, "wakeLock", {
      value: {
        request: () => {
          noted.held++;
          return Promise.resolve({ release: () => Promise.resolve(void noted.released++) });
        },
      },
    });
  });
}
/** A stop before the second is a slip, and is not taken. */
const running = (page: Page) => expect(page.getByRole("timer")).toHaveText(/^([2-9]|\d\d)/);

type Noted = { noted: { shakes: unknown[]; held: number; released: number } };
const felt = (page: Page) => page.evaluate(() => (window as unknown as Noted).noted.shakes);
const awake = (page: Page) =>
  page.evaluate(() => {
    const { held, released } = (window as unknown as Noted).noted;
    return held - released;
  });

test("a shot keeps the screen awake, its stop is felt, and clearing it asks", async ({ page }) => {
  await watched(page);
  const by = await signInAlone(page);
  await page.goto(`/jobs/${await prepared(await freshMachine("K1", { of: by }), ["shots"], { by })}/shots`);
  await expect(page.locator("main[data-ready]")).toBeVisible();
  expect(await awake(page)).toBe(0);
  await page.keyboard.press("p");
  await expect.poll(() => awake(page)).toBe(1);
  await page.keyboard.press("c");
  const asked = page.getByRole("group", { name: "Clear the timer?" });
  await expect(asked.getByRole("button", { name: "Keep it" })).toBeFocused();
  // Nothing is lost by asking, and a second press of the key is no answer.
  await page.keyboard.press("c");
  await expect(asked).toBeVisible();
  await page.keyboard.press("Enter");
  await expect(asked).toBeHidden();
  await page.keyboard.press("d");
  await running(page);
  await page.keyboard.press("s");
  await expect(page.getByText(/^Stopped at/)).toBeVisible();
  expect(await felt(page)).toEqual([[80]]);
  await expect.poll(() => awake(page)).toBe(0);
  // The cup’s field has the focus by now: a letter is a letter there.
  await page.getByRole("button", { name: "Clear the timer" }).click();
  await asked.getByRole("button", { name: "Clear it" }).click();
  await expect(page.getByText(/^Stopped at/)).toBeHidden();
});

test("a timer that comes due is felt and said, over the bar at the top and nothing else", async ({ page }) => {
  await watched(page);
  await page.clock.install();
  // Every clock of a workshop is told to everybody in it.
  const by = await signInAlone(page);
  await begin(page, await freshMachine("K7", { of: by }), "Service", { by, warm: false });
  await expect(page.locator("[aria-current=step] h3")).toHaveText(/Boiler|warm/i);
  const task = await page.locator("[data-station-in-hand] [id^='task-']").first().getAttribute("id");
  await expect.poll(() => awake(page)).toBeGreaterThan(0);
  // Well ahead, however long the page takes to load; then the browser’s own clock is put forward.
  await dueIn(page, task!.replace("task-", ""), 120);
  await page.reload();
  await alive(page);
  await page.clock.fastForward(121_000);
  const news = page.getByRole("listitem").filter({ hasText: "is due" });
  await expect(news).toBeVisible();
  expect(await felt(page)).toEqual([[300, 150, 300]]);
  // The bar at the top is 52 px high; no field, and not the main button, lies under it.
  const box = (await news.boundingBox())!;
  expect(box.y + box.height).toBeLessThanOrEqual(53);
});

test("single keys are somebody’s own: changed, and switched off", async ({ page }) => {
  await signInAlone(page);
  const set = async (change: () => Promise<void>) => {
    await page.goto("/settings#keys");
    await change();
    await page.getByRole("button", { name: "Save the keys" }).click();
    await expect(page.locator("#keys").getByText("Saved.")).toBeVisible();
    await page.goto("/");
    await expect(page.getByRole("heading", { name: "On the bench" })).toBeVisible();
  };
  const search = page.getByRole("searchbox");
  const press = async (key: string) => {
    await page.locator("#main").evaluate((e) => (e as HTMLElement).focus());
    await page.evaluate(() => (document.activeElement as HTMLElement | null)?.blur());
    await page.keyboard.press(key);
  };
  await set(() => page.getByLabel(/^Search the register/).fill("f"));
  await press("/");
  await expect(search).not.toBeFocused();
  await press("f");
  await expect(search).toBeFocused();
  await press("?");
  const help = page.getByRole("dialog", { name: "Keys on this screen" });
  await expect(help.getByText("f", { exact: true })).toBeVisible();
  await page.keyboard.press("Escape");

  await set(() => page.getByRole("group", { name: "Single keys are" }).getByLabel("off").check());
  await press("f");
  await press("?");
  await expect(search).not.toBeFocused();
  await expect(help).toBeHidden();
  // They are still listed, and the way to switch them on again with them.
  await page.getByRole("button", { name: "Keys on this screen" }).click();
  await expect(help.getByText("Single keys are switched off.")).toBeVisible();
  await help.getByRole("link", { name: /Change the keys/ }).click();
  await page.waitForURL(/settings/);
  await page.getByRole("group", { name: "Single keys are" }).getByLabel("on").check();
  await page.getByLabel(/^Search the register/).fill("/");
  await page.getByRole("button", { name: "Save the keys" }).click();
  await expect(page.locator("#keys").getByText("Saved.")).toBeVisible();
});

test("every key that is listed does something, or says that it does not just now", async ({ page }) => {
  await signIn(page);
  await startJob(page, await freshMachine("K4"), "Pressure check");
  await page.getByRole("button", { name: "Keys on this screen" }).click();
  const help = page.getByRole("dialog", { name: "Keys on this screen" });
  // Nothing is measured in the first step.
  await expect(help.getByText("To the reading: not just now")).toBeVisible();
  await expect(help.getByText("To the step in hand", { exact: true })).toBeVisible();
  await page.keyboard.press("Escape");
  await page.keyboard.press("r");
  await expect(page.locator("#said")).toHaveText("Not in this step.");
  await page.keyboard.press("n");
  await expect(page.locator("[data-station-in-hand] :focus")).toHaveCount(1);
});
