import type { Page } from "@playwright/test";
import { expect, ownersPage } from "./workshop";

/** Every sentence on a screen, read for what speaks against another of them, or of a thing that this machine does not have. */

interface Told {
  /** Things of other kinds of machine: none may be named. */
  lacks?: RegExp;
}

/** Advice that changes what is judged beside it. */
const CHANGES = /^(Turn|Raise|Lower|Fit|Set |Program|Stop:|Keep the grind: (stop|teach)|\d+\.\d g (more|less) coffee)/;
const IN_SPEC = /in spec|just in/;

export async function expectOneVoice(page: Page, { lacks }: Told = {}) {
  const words = await page.locator("main").innerText();
  expect(words, "no gap in a sentence").not.toMatch(/\bNaN\b|undefined|\bnull\b|\[object|Infinity/);
  if (lacks) expect(words, "nothing that this machine lacks").not.toMatch(lacks);

  const verdict = await said(page, "#gauge output, #gauge [role=status]");
  const next = await said(page, "[aria-label='Next move']");
  if (IN_SPEC.test(verdict) && !/out of spec|can’t tell/.test(verdict))
    expect(next, `beside “${verdict}”`).not.toMatch(CHANGES);
  const tried = await said(page, "[aria-label=Tries] > li");
  const change = (await said(page, "[aria-label='Next change']")).replace(/^Next change\s*/, "");
  if (IN_SPEC.test(tried) && !/out of spec/.test(tried)) expect(change, `beside “${tried}”`).not.toMatch(CHANGES);
  if (/out of spec/.test(tried)) expect(change, `beside “${tried}”`).not.toMatch(/^Keep: this is/);
}

/** Signed, and the owner’s page read: every sentence on the sheet before it, and on the paper. */
export async function signedPaper(page: Page) {
  await expectOneVoice(page);
  await ownersPage(page);
  await expectOneVoice(page);
  return page.locator("main");
}

async function said(page: Page, selector: string): Promise<string> {
  const first = page.locator(selector).first();
  return (await first.count()) > 0 ? (await first.innerText()).replace(/\s+/g, " ").trim() : "";
}
