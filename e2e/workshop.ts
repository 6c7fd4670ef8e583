import AxeBuilder from "@axe-core/playwright";
import { type Cookie, type Locator, type Page, expect, test as base } from "@playwright/test";
import { readFileSync } from "node:fs";
import { type RunningValve, type ValveTwin, runValve } from "../core/twin";
import { randomLcg } from "d3-random";
import { createHash, randomBytes, randomUUID } from "node:crypto";
import { eq, sql } from "drizzle-orm";
import type { KindId, ModelCard } from "../core/kind";
import type { Scope } from "../core/sheet";
import { connect } from "../db/client";
import { ownGauge } from "../db/own-gauge";
import { account, benchTablet, instrument, machine, model, owner, site, workshop } from "../db/schema";
import { DEMO_PASSWORD } from "../db/seed/people";
import { openSession } from "../server/sessions";
import { LEAD, STRANGER, TECHNICIAN, stateOf } from "./people";
import { type Prepared, passTime, prepared } from "./prepared";
import { SLOW } from "./slow";

export { expect };

/** Every page of every test: nothing may be asked of any other machine, and no script may fail. */
export const test = base.extend<{ page: Page }>({
  page: async ({ page, baseURL }, use) => {
    const strangers: string[] = [];
    const errors: string[] = [];
    const home = new URL(baseURL!).host;
    page.on("request", (request) => {
      const url = new URL(request.url());
      if (/^(http|ws)/.test(url.protocol) && url.host !== home) strangers.push(request.url());
    });
    page.on("pageerror", (error) => errors.push(error.message));
    await use(page);
    expect(strangers, "requests that left the machine").toEqual([]);
    expect(errors, "errors in the page").toEqual([]);
  },
});

export { LEAD, STRANGER, TECHNICIAN };

/** Signed in, with the cookies of the run’s first signing in, and on no page yet. Who signs in by hand is in {@link signInByForm}. */
export async function signIn(page: Page, email = LEAD) {
  const { cookies } = JSON.parse(readFileSync(stateOf(email), "utf8")) as { cookies: Cookie[] };
  const url = new URL(page.url() === "about:blank" ? process.env.BASE_URL! : page.url());
  await page.context().addCookies(cookies.map((c) => ({ ...c, domain: url.hostname })));
}

/** The bench, signed in. */
export async function openBench(page: Page, email = LEAD) {
  await signIn(page, email);
  await page.goto("/");
  await expect(page.getByRole("heading", { name: "On the bench" })).toBeVisible();
}

export async function signInByForm(page: Page, email = LEAD) {
  await page.goto("/sign-in");
  await page.getByLabel("Email").fill(email);
  await page.getByLabel("Password").fill(DEMO_PASSWORD);
  await page.getByRole("button", { name: "Sign in" }).click();
  await expect(page.getByRole("heading", { name: "On the bench" })).toBeVisible();
}

const db = process.env.DATABASE_URL ? connect(process.env.DATABASE_URL) : undefined;

/**
 * Signed in to a workshop with nobody else in it, or with one colleague: what is set there no other test sets, and the clocks that run there
 * are its own.
 *
 * @param beside email of somebody who is there already
 * @returns the email of who is signed in, a lead
 */
export async function signInAlone(page: Page, beside?: string): Promise<string> {
  const [id, own] = [randomUUID(), randomUUID()];
  const email = `alone-${id}@quay.example`;
  const [theirs] = beside ? await db!.select().from(account).where(eq(account.email, beside)) : [];
  if (!theirs) await db!.insert(workshop).values({ id: own, name: "Lone Quay", town: "Saltby", contact: "" });
  await db!.insert(account).values({
    id,
    workshopId: theirs?.workshopId ?? own,
    email,
    name: "Oda Lind",
    role: "lead",
    preferences: { pressureUnit: "bar", theme: "system" },
    passwordHash: "opens nothing",
  });
  const asked = new Request(process.env.BASE_URL!);
  const cookie = await db!.transaction((tx) => openSession(tx, asked, { accountId: id, way: "password" }));
  const [name, value] = cookie.split(";")[0]!.split("=");
  await page.context().addCookies([{ name: name!, value: value!, url: process.env.BASE_URL! }]);
  return email;
}

/** As the database knows a secret. */
export const hashOf = (secret: string) => createHash("sha256").update(secret).digest("hex");

/** The browser of a page becomes a shared tablet of somebody’s workshop. */
export async function asTablet(page: Page, enrolledBy: string, workshopId: string) {
  const tablet = randomBytes(24).toString("base64url");
  await db!.insert(benchTablet).values({ tokenHash: hashOf(tablet), workshopId, name: "By the window", enrolledBy });
  await page.context().addCookies([{ name: "ng_tablet", value: tablet, url: process.env.BASE_URL! }]);
}

/** Once the scripts of a page answer. */
export const alive = (page: Page) => page.waitForFunction(() => "live" in document.documentElement.dataset);

/** A machine of a kind that no other test works on, in the demo's first workshop or somebody else's. Returns its serial. */
export async function freshMachine(
  kind: KindId,
  more: {
    of?: string;
    altitude?: number;
    card?: Partial<ModelCard>;
    /** The machine’s own gauge: at the group, or on the pump side, where it shows so many bar more. */
    ownGauge?: true | { toGroup: number };
  } = {},
): Promise<string> {
  if (!db) throw new Error("DATABASE_URL must name the database behind BASE_URL.");
  const whose = eq(account.email, more.of ?? LEAD);
  const [lead] = await db.select({ workshopId: account.workshopId }).from(account).where(whose);
  const { workshopId } = lead!;
  const [modelId, siteId, ownerId] = [randomUUID(), randomUUID(), randomUUID()];
  const serial = `TRY-${modelId.slice(0, 8).toUpperCase()}`;
  await db.insert(model).values({
    id: modelId,
    workshopId,
    maker: "Tryout",
    name: kind,
    kind,
    opvResponse: 2,
    opvResponseSd: 0.7,
    opvRaises: "clockwise",
    card: more.card ?? {},
  });
  await db.insert(owner).values({ id: ownerId, workshopId, name: `Somebody ${serial}` });
  await db.insert(site).values({
    id: siteId,
    workshopId,
    ownerId,
    name: `Bench place ${serial}`,
    town: "Merrowhaven",
    altitude: more.altitude ?? 0,
  });
  const machineId = randomUUID();
  const own = { id: machineId, workshopId, modelId, siteId, serial };
  const { ownGauge: gauge } = more;
  const place = typeof gauge === "object" ? ("pump" as const) : ("group" as const);
  const off = typeof gauge === "object" ? { gaugeToGroup: gauge.toGroup, gaugeToGroupU: 0.3 } : {};
  await db.insert(machine).values({ ...own, ...off, gaugePlace: gauge ? place : "none" });
  if (gauge) await db.insert(instrument).values(ownGauge(randomUUID(), workshopId, machineId, place));
  return serial;
}

/** Opens a machine's page by its serial, through the bench's search. */
export async function openMachine(page: Page, serial: string) {
  await page.goto("/");
  await page.getByRole("searchbox").fill(serial);
  await expect(page.getByText("1 machine found")).toBeAttached();
  await page.getByRole("link", { name: serial }).click();
  await page.waitForURL(/\/machines\//);
}

/** The tile of a job on the bench: other tests have begun newer ones, which come on pages before it. */
export async function onBench(page: Page, name: RegExp) {
  await page.goto("/");
  const tile = page.getByRole("region", { name: "On the bench" }).getByRole("link", { name }).first();
  const earlier = page.getByRole("link", { name: "Earlier ones" });
  while (!(await tile.isVisible()) && (await earlier.isVisible()))
    await page.goto((await earlier.getAttribute("href"))!);
  return tile;
}

/** Starts a job on a machine that has none open, and leaves the sheet on its first station. */
export async function startJob(page: Page, serial: string, type: string, complaint = "") {
  await openMachine(page, serial);
  await expect(page.getByRole("heading", { name: "Start a job" })).toBeVisible();
  await page.getByRole("radio", { name: type }).check();
  await page.getByLabel("Complaint").fill(complaint);
  await page.getByRole("button", { name: /^Start the / }).click();
  await page.waitForURL(/\/jobs\//);
}

/** Starts a pressure check. */
export const startService = (page: Page, serial: string, complaint = "") =>
  startJob(page, serial, "Pressure check", complaint);

/** The form around a field or button of the station in hand. */
export function formWith(page: Page, label: string | RegExp) {
  return page.locator("[data-station-in-hand] form").filter({ has: page.getByRole("textbox", { name: label }) });
}

/** Types a figure or words for a task of the station in hand and saves it. */
export async function note(page: Page, label: string, value: string) {
  const form = formWith(page, label);
  await form.getByRole("textbox", { name: label }).fill(value);
  await form.getByRole("button", { name: /^Save/ }).click();
}

/** A line of work on the station in hand. */
export async function workLine(
  page: Page,
  { what, why, how, outcome = "Done" }: { what: string; why: string; how?: string; outcome?: string },
) {
  const station = page.locator("[data-station-in-hand]");
  await station.getByLabel("Part or task").fill(what);
  await station.getByLabel("How", { exact: true }).selectOption({ label: how ?? "renewed" });
  await station.getByLabel("Why").fill(why);
  await station.getByRole("group", { name: "What came of it" }).getByRole("button", { name: outcome }).click();
}

/** A line about a part that safety hangs on: chosen, with what was done to it. */
export async function criticalLine(
  page: Page,
  { part, act = "replaced by type", why }: { part: string; act?: string; why: string },
) {
  const station = page.locator("[data-station-in-hand]");
  await station.getByLabel("Safety-critical part").selectOption({ label: part });
  await station.getByLabel("What was done to it").selectOption({ label: act });
  await station.getByLabel("Why").fill(why);
  await station.getByRole("group", { name: "What came of it" }).getByRole("button", { name: "Save" }).click();
}

/** Answers questions of the station in hand, each by the button that says the answer. */
export async function answerWith(page: Page, ...answers: (string | RegExp)[]) {
  for (const name of answers) {
    const button = page.locator("[data-station-in-hand]").getByRole("button", { name, exact: true });
    await button.click();
    // With the last answer the sheet goes on, and the step is not there any more.
    await expect.poll(() => button.evaluateAll((all) => all.every((b) => b.ariaPressed === "true"))).toBe(true);
  }
}

/** What every visit with work is asked before anybody signs. */
export const asBuilt = (page: Page) => answerWith(page, "All as built, none bridged or left off", "None");

/** Every part of the demonstration: the owner did it. */
export async function showAll(page: Page) {
  const did = page.locator("[data-station-in-hand]").getByRole("button", { name: "Owner did it", exact: true });
  await expect(did.first()).toBeVisible();
  for (const button of await did.all()) {
    await button.click();
    await expect(button).toHaveAttribute("aria-pressed", "true");
  }
}

/** Ticks tasks of the station in hand off, one by one. */
export async function tickOff(page: Page, ...labels: (string | RegExp)[]) {
  for (const label of labels) {
    const button = page.locator("[data-station-in-hand] button[name=key]").filter({ hasText: label });
    await button.click();
    await expect(button).toBeHidden();
  }
}

/** Waits for a station to be the one in hand; where the step before stays open for what is optional in it, goes on as a person does. */
export async function atStation(page: Page, title: string) {
  const inHand = page.locator("[aria-current=step] h3");
  const next = page.getByRole("link", { name: `Next: ${title}`, exact: true });
  // On a phone the sheet may be behind the gauge.
  await expect.poll(async () => (await inHand.textContent()) === title || (await next.isVisible())).toBe(true);
  await expect(async () => {
    if ((await inHand.textContent()) !== title) await next.click({ timeout: 1000 * SLOW });
    await expect(inHand).toHaveText(title, { timeout: 3000 * SLOW });
  }).toPass();
}

export async function ownersPage(page: Page) {
  await page.getByRole("button", { name: "Sign the job" }).click();
  await expect(page.getByRole("heading", { name: "Owner’s page" })).toBeVisible();
  await page.goto((await page.getByRole("link", { name: /\/owner\// }).getAttribute("href"))!);
}

const jobOf = (page: Page) => /jobs\/([0-9a-f-]+)/.exec(page.url())![1]!;

/** Lets the clocks of this page's job run ahead: what a person would wait for. */
export async function letPass(page: Page, seconds: number) {
  await passTime(jobOf(page), seconds);
  await page.reload();
}

/** Makes a running clock of this page's job due in so many seconds. */
export async function dueIn(page: Page, task: string, seconds: number) {
  const jobId = jobOf(page);
  await db!.transaction(async (tx) => {
    await tx.execute(sql`SET LOCAL session_replication_role = replica`);
    await tx.execute(sql`UPDATE job SET revision = revision + 1 WHERE id = ${jobId}`);
    await tx.execute(sql`
      UPDATE timer SET at = at - interval '10 min', due_at = now() + make_interval(secs => ${seconds})
      WHERE job_id = ${jobId} AND task = ${task}`);
  });
}

const TYPES = { Service: "service", Handover: "handover", Install: "install", "Pressure check": "check" } as const;

/** A sheet worked off to where the story begins, on the screen. */
export async function begin(
  page: Page,
  serial: string,
  type: keyof typeof TYPES | readonly Scope[],
  given: Prepared = {},
) {
  await page.goto(`/jobs/${await prepared(serial, typeof type === "string" ? TYPES[type] : type, given)}`);
}

/** Signed in, a fresh K5 worked off to its water at the group: its pressure is in spec as found, so the case stays shut. */
export async function toGroupTemperature(page: Page) {
  await signIn(page);
  await begin(page, await freshMachine("K5"), "Service", { ticks: ["steam.dry"] });
  await read(page, "8.9");
  await atStation(page, "Temperature at the group");
}

/** Puts the settling wait of the last change behind this page's job. */
export async function letSettle(page: Page, minutes: number) {
  const jobId = jobOf(page);
  await db!.transaction(async (tx) => {
    await tx.execute(sql`SET LOCAL session_replication_role = replica`);
    await tx.execute(sql`UPDATE adjustment SET at = at - make_interval(mins => ${minutes}) WHERE job_id = ${jobId}`);
    await tx.execute(sql`UPDATE reading SET at = at - make_interval(mins => ${minutes}) WHERE job_id = ${jobId}`);
    await tx.execute(sql`UPDATE job SET revision = revision + 1 WHERE id = ${jobId}`);
  });
  await page.reload();
}

/** Gets a fresh sheet to its first reading. */
export async function toAsFound(page: Page, serial: string) {
  await startService(page, serial);
  await page.getByLabel("Condition as it stands").fill("No damage seen.");
  await page.locator("[data-station-in-hand]").getByRole("button", { name: "Save the condition" }).click();
  await tickOff(page, "All set out");
  await expect(page.getByLabel("The gauge shows")).toBeVisible();
}

/** Takes the cover off, where the sheet asks for it. */
export async function coversOff(page: Page) {
  await page.getByRole("button", { name: "Off, unplugged: the cover is off" }).click();
  await expect(page.getByRole("alertdialog")).toBeHidden();
  await atStation(page, ADJUST);
  await expect(page.locator("[data-key=turn]").or(page.getByLabel("The gauge shows")).first()).toBeVisible();
}

/** A valve to work on: what the needle would show, to a tenth. */
export function valve(twin: Partial<ValveTwin> = {}): RunningValve & { shows(): string } {
  const running = runValve(
    { response: 2, backlash: 0, ceiling: 99, setting: 8.2, noise: 0.04, stale: 0, ...twin },
    randomLcg(0.42),
  );
  return { ...running, shows: () => running.read().toFixed(1) };
}

export async function read(page: Page, figure: string, { field = "The gauge shows", returned = "" } = {}) {
  const lines = page
    .getByRole("list", { name: "Readings and adjustments", includeHidden: true })
    .getByRole("listitem", { includeHidden: true });
  const step = page.locator("[aria-current=step] h3");
  const state = async () => [await lines.count(), await step.textContent()] as const;
  const before = await state();
  if (returned) await page.getByLabel("Water back through the OPV").selectOption({ label: returned });
  await page.getByLabel(field, { exact: true }).fill(figure);
  await page
    .locator("form")
    .filter({ has: page.getByLabel(field, { exact: true }) })
    .getByRole("button", { name: "Save", exact: true })
    .click();
  // One more line, or the sheet has gone on to the next step, whose knob has a log of its own.
  await expect
    .poll(async () => {
      const [count, title] = await state();
      return count === before[0] + 1 || title !== before[1];
    })
    .toBe(true);
}

const ADJUST = "Brew pressure: adjust";
const AS_LEFT = "Brew pressure: as left";

/** Follows the advice until the sheet has what it needs as left. Returns how many moves it took. */
export async function adjust(page: Page, machine: RunningValve & { shows(): string }): Promise<number> {
  let moves = 0;
  await expect(page.locator("[aria-current=step] h3")).not.toHaveText("Brew pressure: as found");
  for (let i = 0; i < 12; i++) {
    const phase = await page.locator("[aria-current=step] h3").textContent();
    if (phase === "Covers off") {
      await coversOff(page);
      continue;
    }
    if (phase !== ADJUST && phase !== AS_LEFT) return moves;
    const turned = page.getByRole("button", { name: /^Turned .* (anti)?clockwise$/ });
    await expect(turned.or(page.getByLabel("The gauge shows")).first()).toBeVisible();
    if (phase === ADJUST && (await turned.isVisible())) {
      const amount = await amountOf(turned);
      machine.turn(amount);
      await turned.click();
      await expect(turned).toBeHidden();
      moves++;
    }
    await read(page, machine.shows());
  }
  throw new Error("The sheet never came to an end.");
}

const PARTS: Record<string, number> = {
  "⅛": 0.125,
  "¼": 0.25,
  "⅜": 0.375,
  "½": 0.5,
  "⅝": 0.625,
  "¾": 0.75,
  "⅞": 0.875,
};

/** Turns on the button of an advised move, clockwise up. */
export async function amountOf(button: { textContent(): Promise<string | null> }): Promise<number> {
  const [, whole, part, way] = /Turned (\d*)([⅛¼⅜½⅝¾⅞]?) turns? (\w+)/.exec((await button.textContent()) ?? "")!;
  return (Number(whole || 0) + (part ? PARTS[part]! : 0)) * (way === "clockwise" ? 1 : -1);
}

/** What can’t be undone: the first tap asks, the second does it. */
export async function surely(within: Page | Locator, does: string, then: string | RegExp) {
  await within.locator("summary").filter({ hasText: does }).click();
  await within.getByRole("button", { name: then }).click();
}

/** What axe finds on a page, in words. @param rules all of its own where none are named */
export async function axeFinds(page: Page, rules: { only?: string[]; tags?: string[] } = {}): Promise<string[]> {
  // Pages have no frames in them: in one go, without a page of its own to put the frames’ results together.
  const axe = new AxeBuilder({ page }).setLegacyMode(true).options({ resultTypes: ["violations"] });
  if (rules.only) axe.withRules(rules.only);
  if (rules.tags) axe.withTags(rules.tags);
  const { violations } = await axe.analyze();
  return violations.map((v) => `${v.id}: ${v.nodes.map((n) => n.target.join(" ")).join(", ")}`);
}

/** Nothing that axe finds. @param only rules to hold it against, where the rest was looked at in another theme */
export async function expectAccessible(page: Page, only?: string[]) {
  expect(await axeFinds(page, only ? { only } : {})).toEqual([]);
}
