import type { Page } from "@playwright/test";
import { atStation, expect } from "./workshop";

/** Shots pulled and typed as a person does it. */

interface Typed {
  Coffee?: string;
  Grind?: string;
  dose: string;
  cup: string;
  seconds: string;
  by?: string;
  taste?: "sour" | "balanced" | "bitter";
  flow?: string;
  choked?: boolean;
}

/** From the sheet to the room where shots are pulled. */
export async function toShots(page: Page) {
  await atStation(page, "Calibration shots");
  await page.getByRole("link", { name: /^(Pull the first shot|Pull another shot|To the shots)/ }).click();
  await expect(page.getByRole("heading", { name: "Calibration shots" })).toBeVisible();
  await page.waitForFunction(() => document.querySelector("[data-ready]") !== null);
}

/** One shot, saved, and seen among the tries. */
export async function pull(page: Page, { dose, cup, seconds, taste, flow, by, choked, ...named }: Typed) {
  const tries = page.getByRole("list", { name: "Tries" }).locator("> li");
  const before = await tries.count();
  for (const [label, words] of Object.entries({
    ...named,
    "Dose, g": dose,
    "In the cup, g": cup,
    "Seconds, s": seconds,
  }))
    await page.getByLabel(label, { exact: true }).fill(words);
  if (by) await page.getByLabel("Ended by").selectOption(by);
  if (choked) await page.getByRole("checkbox", { name: /choked/i }).check({ force: true });
  for (const chip of [taste, flow])
    if (chip) await page.getByRole("radio", { name: chip, exact: true }).check({ force: true });
  await page.getByRole("button", { name: "Save shot" }).click();
  await expect(tries).toHaveCount(before + 1);
}
