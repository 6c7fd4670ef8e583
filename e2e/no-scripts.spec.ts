import { type Locator, type Page, expect, test } from "@playwright/test";
import { readFileSync } from "node:fs";
import { standingOf } from "../core/job";
import { type Preset, type Scope, type TaskKind, tasksNow } from "../core/sheet";
import type { KindId } from "../core/kind";
import { jobFrom } from "../db/queries/job-from";
import { sheetRow } from "../db/queries/jobs";
import { database } from "../server/database";
import { personOf } from "../server/jobs/person-of";
import { setPin } from "../server/people/quick-switch";
import { LEAD, stateOf } from "./people";
import { prepared } from "./prepared";
import { asTablet, freshMachine, signInAlone } from "./workshop";

/** Before scripts arrive, or where they never do: every kind of task is on its page, and what it takes can be sent. */

test.use({ javaScriptEnabled: false, viewport: { width: 1280, height: 800 } });

test.beforeEach(async ({ context }) => {
  const { cookies } = JSON.parse(readFileSync(stateOf(LEAD), "utf8")) as {
    cookies: Parameters<typeof context.addCookies>[0];
  };
  const { hostname } = new URL(process.env.BASE_URL!);
  await context.addCookies(cookies.map((c) => ({ ...c, domain: hostname })));
});

/** Visits that have every kind of task between them. */
const VISITS: readonly (readonly [KindId, Preset])[] = [
  ["K7", "install"],
  ["K11", "handover"],
  ["K14", "handover"],
  ["K5", "service"],
  ["K8", "install"],
  // With a filter to purge.
  ["K11", "install"],
];

/** Where it is done or typed, without a script: in the task’s own form, or at the gauge. */
const CONTROL: Readonly<Record<TaskKind, string>> = {
  tick: "button[name=key]",
  heat: "button[name=key]",
  text: "textarea[name=typed], textarea[name=accessories]",
  choice: "button[name=typed], input[type=radio]",
  figure: "input[name^=typed]",
  hardness: "input[name^=typed]",
  purge: "input[name^=typed]",
  cartridge: "input[name=typed]",
  bursts: "button",
  timer: "button",
  warm: "button, p",
  condition: "textarea[name=text]",
  readings: "#gauge [name=reading]",
  adjust: "#gauge :is([name=reading], [data-key=turn], section)",
  loop: "#gauge [name=reading], a[href*='loop=']",
  table: "[name^='cell.']",
  plan: "li",
  shots: "a[href$='/shots']",
  diagnosis: "summary",
  sign: "[name=name]",
  work: "[name=what]",
  left: "button, input, textarea",
};

const standing = async (jobId: string) =>
  standingOf(jobFrom((await sheetRow(database(), (await personOf(LEAD)).workshop.id, jobId))!));

test("every kind of task stands in the document, with what it takes", async ({ page }) => {
  test.slow();
  const missing = new Set(Object.keys(CONTROL) as TaskKind[]);
  for (const [kind, visit] of VISITS) {
    if (missing.size === 0) break;
    const jobId = await prepared(await freshMachine(kind), visit, { stopAt: "look-over" });
    const { plan, records } = await standing(jobId);
    // A station that is not reached yet shows its line, not its tasks: worked off up to each that has a kind still missing.
    for (const station of plan) {
      const kinds = tasksNow(station, records).filter((t) => missing.has(t.kind));
      if (kinds.length === 0) continue;
      const here = await prepared(await freshMachine(kind), visit, { stopAt: station.id });
      await page.goto(`/jobs/${here}?at=${station.id}`);
      const inHand = page.locator("[data-station-in-hand]");
      if ((await page.locator("[aria-current=step] h3").textContent()) !== station.title) continue;
      const now = await standing(here);
      for (const task of tasksNow(
        now.plan.find((s) => s.id === station.id)!,
        now.records,
      ).filter((t) => missing.has(t.kind))) {
        const selector = CONTROL[task.kind];
        const place = selector.startsWith("#") ? page.locator("body") : inHand;
        await expect(place.locator(selector).first(), `${task.kind} in ${kind}, ${station.id}`).toBeAttached();
        // Nothing waits in a hidden corner for a script to bring it out.
        await expect(place.locator(`[hidden] :is(${selector})`)).toHaveCount(0);
        missing.delete(task.kind);
      }
    }
  }
  // Those behind what only hands do: read, poured, worked off.
  const seen = async (kind: TaskKind, in_: Page | Locator) => {
    await expect(in_.locator(CONTROL[kind]).first(), kind).toBeAttached();
    missing.delete(kind);
  };
  const inHand = page.locator("[data-station-in-hand]");
  await page.goto(`/jobs/${await prepared(await freshMachine("K1"), ["shots"], {})}`);
  await seen("shots", inHand);
  await page.goto(`/jobs/${await prepared(await freshMachine("K3"), ["clean"], {})}`);
  await seen("sign", inHand);
  await page.goto(`/jobs/${await prepared(await freshMachine("K4"), "check", {})}`);
  await page.getByLabel("The gauge shows").fill("11.4");
  await saved(page, () => page.getByRole("button", { name: "Save", exact: true }).click());
  await expect(page.locator("[aria-current=step] h3")).toHaveText("Brew pressure: adjust");
  await seen("adjust", page);
  expect([...missing]).toEqual([]);
});

async function saved(page: Page, press: () => Promise<void>) {
  // Without scripts each is a page of its own: what comes next is looked at once it is there.
  const [answer] = await Promise.all([
    page.waitForResponse((r) => r.request().method() === "POST"),
    page.waitForEvent("load"),
    press(),
  ]);
  expect(answer.status()).toBeLessThan(400);
}

test("a visit from its first words to the signature", async ({ page }) => {
  const scopes: readonly Scope[] = ["water", "clean"];
  const jobId = await prepared(await freshMachine("K3"), scopes, { stopAt: "look-over" });
  await page.goto(`/jobs/${jobId}`);
  const station = page.locator("[data-station-in-hand]");
  const title = page.locator("[aria-current=step] h3");
  await station.getByLabel("Condition as it stands").fill("Sound.");
  await saved(page, () => station.getByRole("button", { name: "Save the condition" }).click());
  // What was saved is a line now, and the field is empty for the next.
  await expect(page.getByText("Sound.").first()).toBeVisible();
  for (const field of await page.getByLabel("Condition as it stands").all()) await expect(field).toHaveValue("");
  for (let i = 0; i < 20 && (await title.textContent()) !== "Sign"; i++) {
    const step = await title.textContent();
    const tick = station.locator("button[name=key]").first();
    const choice = station.locator("button[name=typed]:not([aria-pressed=true])").first();
    const words = station.locator("[data-undone] textarea[name=typed]").first();
    const figure = station.locator("[data-undone] input[name^=typed]").first();
    const next = page.getByRole("link", { name: /^Next: / }).first();
    if (await tick.isVisible()) await saved(page, () => tick.click());
    else if (await figure.isVisible()) {
      await figure.fill("3");
      await saved(page, () => figure.press("Enter"));
    } else if (await words.isVisible()) {
      await words.fill("All there.");
      await saved(page, () => station.locator("form").filter({ has: words }).getByRole("button").click());
    } else if (await station.locator("[data-undone]").getByRole("button").first().isVisible())
      await saved(page, () => station.locator("[data-undone]").getByRole("button").first().click());
    else if (await next.isVisible()) await next.click();
    else if (await choice.isVisible()) await saved(page, () => choice.click());
    else throw new Error(`No way on from “${step}”.`);
  }
  await expect(title).toHaveText("Sign");
  await saved(page, () => page.getByRole("button", { name: "Sign the job" }).click());
  await expect(page.getByText(/^Signed by/).first()).toBeVisible();
});

test("on a phone the zones are links, and the next thing to do is pressed", async ({ page }) => {
  await page.setViewportSize({ width: 390, height: 844 });
  const jobId = await prepared(await freshMachine("K4"), "check", {});
  await page.goto(`/jobs/${jobId}`);
  await expect(page.getByLabel("The gauge shows")).toBeVisible();
  const zones = page.getByRole("navigation", { name: "Zones" });
  await zones.getByRole("link", { name: "sheet" }).click();
  await expect(page.locator("#sheet")).toBeVisible();
  await expect(page.locator("#gauge")).toBeHidden();
  await page.getByRole("link", { name: /^Measure: / }).click();
  await page.getByLabel("The gauge shows").fill("10.1");
  await saved(page, () => page.getByRole("button", { name: "Save", exact: true }).click());
  await expect(
    page
      .locator("#gauge")
      .getByText(/^10\.\d/)
      .first(),
  ).toBeVisible();
  await expect(page.getByLabel("The gauge shows")).toHaveValue("");
});

test("a shared tablet is taken over; who is not chosen is asked for", async ({ page, context }) => {
  const one = await signInAlone(page);
  const people = [await personOf(one), await personOf(await signInAlone(page, one))] as const;
  for (const person of people) await setPin(person, "7391");
  await context.clearCookies();
  await asTablet(page, people[0].id, people[0].workshop.id);
  await page.goto("/switch");
  const takeOver = page.getByRole("button", { name: "Take over" });
  await page.getByLabel("PIN").fill("7391");
  await takeOver.click();
  await expect(page.getByText("Say who you are.")).toBeVisible();
  await page.getByRole("radio").last().check();
  await page.getByLabel("PIN").fill("1");
  await takeOver.click();
  await expect(page.getByRole("alert")).toBeVisible();
  await expect(page.getByRole("radio").last()).toBeChecked();
  await page.getByLabel("PIN").fill("7391");
  await takeOver.click();
  await expect(page.getByRole("heading", { name: "On the bench" })).toBeVisible();
});
