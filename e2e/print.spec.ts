import { join } from "node:path";
import type { Page } from "@playwright/test";
import { and, asc, desc, eq, isNull, lt, sql } from "drizzle-orm";
import { getDocument } from "pdfjs-dist/legacy/build/pdf.mjs";
import { account, job, machine, ownerLink } from "../db/schema";
import { linkTokenOf } from "../server/open-links";
import { database } from "../server/database";
import { LEAD, begin, expect, freshMachine, openBench, signIn, test } from "./workshop";

/** What comes out of the printer, with the printer’s backgrounds off: its pages, and what stands on them. */

const db = database();
const PAPERS = { A4: [595, 842], Letter: [612, 792] } as const;

async function printed(page: Page, format: keyof typeof PAPERS = "A4") {
  const pdf = await getDocument({
    data: new Uint8Array(await page.pdf({ format, printBackground: false })),
    standardFontDataUrl: join(process.cwd(), "node_modules/pdfjs-dist/standard_fonts/"),
  }).promise;
  const pages: string[] = [];
  for (let i = 1; i <= pdf.numPages; i++) {
    const { items } = await (await pdf.getPage(i)).getTextContent();
    pages.push(items.map((item) => ("str" in item ? item.str : "")).join(" "));
  }
  return pages;
}

/** Where things stand on paper: laid out as it is for the printer, at the width between its margins. */
async function asPrinted(page: Page, [width, height]: readonly [number, number]) {
  // 16 mm on each side; CSS counts 96 to the inch, paper 72.
  const margin = (2 * 16 * 96) / 25.4;
  const size = { width: Math.round((width * 96) / 72 - margin), height: Math.round((height * 96) / 72 - margin) };
  await page.setViewportSize(size);
  await page.emulateMedia({ media: "print" });
  return size;
}

test("a sheet prints its own job: no other customer’s machine, nothing to press, what was found and read", async ({
  page,
}) => {
  await signIn(page);
  const serial = await freshMachine("K4");
  await begin(page, serial, "Pressure check", { entries: {} });
  await expect(page.getByLabel("The gauge shows")).toBeVisible();
  const others = await page.locator("#bench a[href^='/jobs/'] > span:first-child").allTextContents();
  const pages = await printed(page);
  const all = pages.join(" ");
  expect(pages.length).toBeLessThanOrEqual(2);
  expect(all).toContain(serial);
  expect(all).toContain("Brew pressure: as found");
  const elsewhere = others.filter((name) => !name.includes(serial));
  expect(elsewhere.length).toBeGreaterThan(0);
  for (const name of elsewhere) expect(all).not.toContain(name);
  for (const word of ["Skip this step", "Register", "Settings", "Save"]) expect(all).not.toContain(word);
});

test("the bench prints as the day’s sheet, without the register and without an empty page", async ({ page }) => {
  await openBench(page);
  const pages = await printed(page);
  expect(pages[0]).toContain("On the bench");
  expect(pages[0]).toContain("Low Tide Espresso Works");
  expect(pages.join(" ")).not.toContain("Add a machine");
  for (const words of pages) expect(words.trim()).not.toBe("");
});

test("the owner’s page: no page is empty, no result is torn in two", async ({ page }) => {
  const [lead] = await db.select().from(account).where(eq(account.email, LEAD));
  const [found] = await db
    .select({ link: ownerLink })
    .from(ownerLink)
    .innerJoin(job, eq(job.id, ownerLink.jobId))
    // Of the demo’s past: other tests sign today.
    .where(
      and(
        eq(ownerLink.workshopId, lead!.workshopId),
        isNull(ownerLink.revokedAt),
        lt(job.signedAt, sql`now() - interval '1 day'`),
      ),
    )
    .orderBy(desc(sql`cardinality(${job.scopes})`), asc(ownerLink.id))
    .limit(1);
  await page.goto(`/owner/${linkTokenOf("owner", found!.link)}`);
  for (const format of ["A4", "Letter"] as const) {
    const pages = await printed(page, format);
    expect(pages.length).toBeLessThanOrEqual(6);
    for (const words of pages) expect(words.trim().length).toBeGreaterThan(40);
    // A figure and the strip under it are on one page: a heading never ends one.
    for (const words of pages) expect(words.trim()).not.toMatch(/(As found|As left|Tolerance|Work and readings)$/);
  }
});

test("labels: eight rows of three on A4 and on Letter, each whole and inside the page", async ({ page }) => {
  await signIn(page);
  const [lead] = await db.select().from(account).where(eq(account.email, LEAD));
  const machines = await db
    .select({ id: machine.id })
    .from(machine)
    .where(eq(machine.workshopId, lead!.workshopId))
    .orderBy(machine.id)
    .limit(24);
  // The demo has fewer: the sheet is filled with machines of this test’s own.
  while (machines.length < 24) {
    const serial = await freshMachine("K7");
    const [made] = await db.select({ id: machine.id }).from(machine).where(eq(machine.serial, serial));
    machines.push(made!);
  }
  await page.goto(`/labels?${machines.map((m) => `machine=${m.id}`).join("&")}`);
  await expect(page.getByRole("img", { name: /^Code that opens/ })).toHaveCount(24);
  for (const [format, paper] of Object.entries(PAPERS) as ["A4", readonly [number, number]][]) {
    await page.emulateMedia({ media: null });
    expect(await printed(page, format)).toHaveLength(1);
    const { width, height } = await asPrinted(page, paper);
    const boxes = await page.locator("#main li").evaluateAll((all) =>
      all.map((e) => {
        const { x, y, right, bottom } = e.getBoundingClientRect();
        return { x, y, right, bottom, whole: [...e.children].every((c) => c.getBoundingClientRect().bottom <= bottom) };
      }),
    );
    expect(new Set(boxes.map((b) => Math.round(b.x))).size).toBe(3);
    expect(new Set(boxes.map((b) => Math.round(b.y))).size).toBe(8);
    for (const box of boxes) {
      expect(box.whole).toBe(true);
      expect(box.right).toBeLessThanOrEqual(width);
      expect(box.bottom).toBeLessThanOrEqual(height);
    }
  }
});

test("nothing on paper needs the printer’s backgrounds", async ({ page }) => {
  await signIn(page);
  await begin(page, await freshMachine("K4"), "Pressure check", {});
  await page.emulateMedia({ media: "print" });
  const hidden = await page.evaluate(() => {
    const light = (colour: string) => (colour.match(/\d+/g) ?? []).slice(0, 3).every((x) => Number(x) > 160);
    return [...document.querySelectorAll<HTMLElement>("#sheet *, #gauge *")]
      .filter((e) => e.checkVisibility() && [...e.childNodes].some((n) => n.nodeType === 3 && n.textContent!.trim()))
      .filter((e) => light(getComputedStyle(e).color))
      .map((e) => e.textContent!.slice(0, 30));
  });
  expect(hidden).toEqual([]);
});
