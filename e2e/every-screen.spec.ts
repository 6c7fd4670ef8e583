import { randomBytes, randomUUID } from "node:crypto";
import type { Page } from "@playwright/test";
import { eq } from "drizzle-orm";
import { account, machine, model, oneTimeLink, owner, site } from "../db/schema";
import { database } from "../server/database";
import { ADDRESSES, addressOf, paramsOf } from "./addresses";
import { prepared } from "./prepared";
import {
  LEAD,
  alive,
  asTablet,
  axeFinds,
  expect,
  freshMachine,
  hashOf,
  openMachine,
  openBench,
  signIn,
  test,
} from "./workshop";

/** Every page there is, on every screen there is: nothing that axe finds, nothing that has to be pushed sideways. */

const db = database();

/** WCAG 2.2 AA, with the size of targets, and what axe holds to be good practice. */
const TAGS = ["wcag2a", "wcag2aa", "wcag21a", "wcag21aa", "wcag22aa", "best-practice"];
const THEMES = ["light", "dark"] as const;
const LOOKED_AT = [
  [1280, 800],
  [390, 844],
  [844, 390],
] as const;
const WIDTHS = [
  [320, 568],
  [390, 844],
  [640, 360],
  [844, 390],
  [1024, 768],
  [1280, 800],
] as const;

/** What the platform lets a reader set (WCAG 1.4.12). */
const SPACED = "* { line-height: 1.5 !important; letter-spacing: 0.12em !important; word-spacing: 0.16em !important }";

/** Whatever is wider than its place: the page itself, or a part that would have to be pushed. */
const tooWide = (page: Page) =>
  page.evaluate(() => {
    const said = (e: Element) =>
      `${e.tagName.toLowerCase()}${e.id ? `#${e.id}` : ""}.${e.getAttribute("class")?.split(" ")[0] ?? ""} “${(e.textContent ?? "").trim().slice(0, 24)}” ${e.scrollWidth} > ${e.clientWidth}`;
    const root = document.documentElement;
    const parts = [...document.querySelectorAll<HTMLElement>("body *")].filter((e) => {
      if (e.matches("textarea, input, select, option, .sr-only, .sr-only *") || e.clientWidth === 0) return false;
      // A bar that is wider than the screen is cut off where the page itself can’t be pushed.
      const cut = e.matches("header, nav, main, .zone") || /auto|scroll/.test(getComputedStyle(e).overflowX);
      return cut && e.scrollWidth > e.clientWidth + 1;
    });
    return [...(root.scrollWidth > root.clientWidth ? [root] : []), ...parts].map(said);
  });

/** Words that every reader knows, torn in two where a part was made too narrow for them. */
const tornWords = (page: Page) =>
  page.evaluate(() => {
    const torn = new Set<string>();
    const texts = document.createTreeWalker(document.body, NodeFilter.SHOW_TEXT);
    const range = document.createRange();
    for (let text = texts.nextNode(); text; text = texts.nextNode()) {
      const parent = text.parentElement!;
      if (parent.closest("script, style, svg, .sr-only, .break-all") || !parent.checkVisibility()) continue;
      for (const { 0: word, index } of text.textContent!.matchAll(/(?<![\p{L}\d-])\p{L}{2,22}(?![\p{L}\d-])/gu)) {
        range.setStart(text, index);
        range.setEnd(text, index + word.length);
        const lines = [...range.getClientRects()].filter((r) => r.width > 0.5).map((r) => Math.round(r.top));
        if (new Set(lines).size > 1) torn.add(`torn: “${word}” in ${parent.tagName.toLowerCase()}`);
      }
    }
    return [...torn];
  });

/** What is found on a page, screen by screen. */
async function findings(page: Page, path: string): Promise<string[]> {
  const found: string[] = [];
  const add = (screen: string, what: readonly string[]) => found.push(...what.map((w) => `${path} ${screen}: ${w}`));
  for (const [width, height] of LOOKED_AT) {
    await page.setViewportSize({ width, height });
    for (const colorScheme of THEMES) {
      await page.emulateMedia({ colorScheme });
      add(`${width}x${height} ${colorScheme}`, await axeFinds(page, { tags: TAGS }));
    }
  }
  for (const [width, height] of WIDTHS) {
    await page.setViewportSize({ width, height });
    add(`${width}x${height}`, await tooWide(page));
    add(`${width}x${height}`, await tornWords(page));
  }
  await page.setViewportSize({ width: 390, height: 844 });
  add("390x844", await badFields(page));
  add("390x844", await tightTargets(page));
  await page.setViewportSize({ width: 320, height: 568 });
  await page.addStyleTag({ content: SPACED });
  add("320 spaced", await tooWide(page));
  return found;
}

/** A field on a phone: never zoomed in on, with the right keys, and nothing of another machine offered. */
const badFields = (page: Page) =>
  page.evaluate(() =>
    [
      ...document.querySelectorAll<HTMLInputElement | HTMLTextAreaElement | HTMLSelectElement>(
        "input:not([type=hidden], [type=checkbox], [type=radio], [type=file]), textarea, select",
      ),
    ]
      .filter((e) => e.checkVisibility({ visibilityProperty: true }))
      .flatMap((e) => {
        const bad: string[] = [];
        if (parseFloat(getComputedStyle(e).fontSize) < 16) bad.push("small text");
        if (!e.matches("select, [readonly]")) {
          if (!e.autocomplete) bad.push("no autocomplete");
          if (!e.enterKeyHint) bad.push("no enterkeyhint");
        }
        if (e.matches("input[type=text], input:not([type])") && !e.inputMode) bad.push("no inputmode");
        return bad.map((what) => `${what}: ${e.name || e.id}`);
      }),
  );

/** What can’t be undone is as large as a thumb, and a thumb’s miss away from everything else that can be pressed. */
const tightTargets = (page: Page) =>
  page.evaluate(() => {
    const [LARGE, APART] = [44, 8];
    const shown = (e: Element) => e.checkVisibility({ visibilityProperty: true });
    const all = [...document.querySelectorAll("a[href], button, input:not([type=hidden]), select, textarea, summary")];
    // What lies over the page is not beside anything on it.
    const over = (e: Element | null): boolean =>
      e !== null && (/fixed|sticky/.test(getComputedStyle(e).position) || over(e.parentElement));
    const pressed = all.filter((e) => shown(e) && !over(e)).map((e) => [e, e.getBoundingClientRect()] as const);
    return [...document.querySelectorAll("[data-asks] > summary")].filter(shown).flatMap((e) => {
      const of = e.getBoundingClientRect();
      const name = `“${e.textContent}”`;
      const near = pressed.filter(
        ([other, r]) =>
          other !== e &&
          Math.max(r.left - of.right, of.left - r.right) < APART &&
          Math.max(r.top - of.bottom, of.top - r.bottom) < APART,
      );
      return [
        ...(of.width < LARGE || of.height < LARGE ? [`${name} is ${of.width} × ${of.height}`] : []),
        ...near.map(([other]) => `${name} is too near to “${other.textContent || other.getAttribute("name")}”`),
      ];
    });
  });

const pages = ADDRESSES.filter(({ file }) => file.endsWith(".tsx"));
/** Of nobody who is signed in. The first start has a test of its own (first-start.spec.ts). */
const OUTSIDE = ["/sign-in", "/switch", "/join/:token", "/card/:token", "/owner/:token", "/owner/:token/pdf", "/*"];
const INSIDE = pages.map((a) => a.pattern).filter((p) => ![...OUTSIDE, "/setup"].includes(p));

const leadOf = async () => (await db.select().from(account).where(eq(account.email, LEAD)))[0]!;

/** Opens an address and looks at it on every screen; what is a file, and no page, is left out. */
async function expectSound(page: Page, paths: readonly string[]) {
  const all: string[] = [];
  for (const path of paths) {
    const head = await page.request.get(path);
    if (!head.headers()["content-type"]?.startsWith("text/html")) continue;
    await page.setViewportSize({ width: 1280, height: 800 });
    // A paper that was being made when it was asked for, and is there now, is a file too.
    try {
      await page.goto(path);
    } catch (error) {
      if (/Download is starting/.test(String(error))) continue;
      throw error;
    }
    await alive(page);
    all.push(...(await findings(page, path)));
  }
  expect(all).toEqual([]);
}

/** Some at a time: two run beside each other. */
const PORTION = 7;
for (let from = 0; from < INSIDE.length; from += PORTION)
  test(`pages inside, from ${INSIDE[from]}`, async ({ page }) => {
    test.slow();
    const params = await paramsOf(await leadOf());
    await signIn(page);
    await expectSound(
      page,
      INSIDE.slice(from, from + PORTION).map((p) => addressOf(p, params)),
    );
  });

// A sheet by each thing that is done on one.
for (const [what, kind, visit, given] of [
  ["the look over", "K7", "install", { stopAt: "look-over" }],
  ["a reading", "K4", "check", {}],
  ["meters and buttons", "K11", "handover", { skips: ["steam"] }],
  ["shots", "K1", ["shots"], {}],
  ["work and parts", "K7", "service", { stopAt: "work" }],
  ["the signature", "K3", ["clean"], {}],
] as const)
  test(`a sheet at ${what}`, async ({ page }) => {
    test.slow();
    await signIn(page);
    const jobId = await prepared(await freshMachine(kind), visit, {
      ...given,
      skips: [...("skips" in given ? given.skips : [])],
    });
    await expectSound(page, [`/jobs/${jobId}`, `/jobs/${jobId}?zone=sheet`]);
  });

test("a signed sheet", async ({ page }) => {
  test.slow();
  const { signedId } = await paramsOf(await leadOf());
  await signIn(page);
  await expectSound(page, [`/jobs/${signedId}`]);
});

test("the door, a tablet, an invitation, and what owners see", async ({ page }) => {
  test.slow();
  const lead = await leadOf();
  const { id: leadId, workshopId } = lead;
  const invitation = randomBytes(24).toString("base64url");
  await db.insert(oneTimeLink).values({
    tokenHash: hashOf(invitation),
    id: randomUUID(),
    workshopId,
    what: "invite",
    email: `${randomUUID()}@lowtide.example`,
    name: "Oda",
    role: "technician",
    madeBy: leadId,
    at: new Date(),
    expiresAt: new Date(Date.now() + 3_600_000),
  });
  await asTablet(page, leadId, workshopId);
  const params = await paramsOf(lead);
  await expectSound(
    page,
    OUTSIDE.map((p) => (p === "/join/:token" ? `/join/${invitation}` : addressOf(p, params))),
  );
  // On a tablet the bar at the top has the most to hold.
  await openBench(page);
  await expect(page.getByRole("link", { name: "Switch" })).toBeVisible();
  await expectSound(page, ["/"]);
});

test("a name without a space in it, however long, pushes nothing aside", async ({ page }) => {
  test.slow();
  const long = "Donaudampfschifffahrtsgesellschaftskapitaenswitwenverein";
  const serial = await freshMachine("K4");
  const [at] = await db
    .select({ modelId: machine.modelId, siteId: site.id, ownerId: site.ownerId })
    .from(machine)
    .innerJoin(site, eq(site.id, machine.siteId))
    .where(eq(machine.serial, serial));
  // Once in each of its lists, however often this runs.
  const once = `${long}${serial.slice(4)}`;
  await db.update(model).set({ maker: long, name: once }).where(eq(model.id, at!.modelId));
  await db.update(site).set({ name: long, town: long }).where(eq(site.id, at!.siteId));
  await db
    .update(owner)
    .set({ name: once, email: `${once}@${long}.example` })
    .where(eq(owner.id, at!.ownerId));
  await signIn(page);
  const jobId = await prepared(serial, ["clean"], {});
  await page.goto(`/jobs/${jobId}`);
  await page.getByLabel("Remark for the owner").fill(long);
  await page.getByRole("button", { name: "Sign the job" }).click();
  const ownersPage = await page.getByRole("link", { name: /\/owner\// }).getAttribute("href");
  const next = await prepared(serial, "check", {});
  await openMachine(page, serial);
  const machinePage = page.url();
  const found: string[] = [];
  for (const path of [
    machinePage,
    `${machinePage}/edit`,
    "/",
    `/register?q=${serial}`,
    `/owners/${at!.ownerId}`,
    `/library/models/${at!.modelId}`,
    `/jobs/${next}`,
    `/jobs/${next}?zone=sheet`,
    `/jobs/${next}/shots`,
    `/jobs/${jobId}`,
    ownersPage!,
    ownersPage!.replace("/owner/", "/card/"),
  ]) {
    await page.goto(path);
    for (const [width, height] of WIDTHS) {
      await page.setViewportSize({ width, height });
      found.push(...(await tooWide(page)).map((what) => `${path} ${width}x${height}: ${what}`));
    }
  }
  expect(found).toEqual([]);
});
