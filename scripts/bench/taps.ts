import { chromium } from "@playwright/test";
import { eq } from "drizzle-orm";
import { connect, poolOf } from "../../db/client";
import { machine } from "../../db/schema";
import { DEMO_PASSWORD } from "../../db/seed/people";
import { USUAL_SCHOOLS } from "../../core/school";
import { type Shot, USUAL_GRINDER, dialIn, recipeFor } from "../../core/shot";
import { ms, table } from "./measure";
import { BROWSER } from "../lib/packages.mjs";

/** How soon the page answers a tap on the shot clock: Interaction to Next Paint, as the browser itself measures it. */

const base = process.env.BASE_URL!;
const db = connect(process.env.DATABASE_URL!);
const SERIAL = "NTB-10233";
const ROUNDS = 15;

const browser = await chromium.launch({ executablePath: BROWSER, args: ["--no-sandbox", "--disable-gpu"] });
const page = await browser.newPage({ baseURL: base, viewport: { width: 390, height: 844 }, hasTouch: true });
await page.goto("/sign-in");
await page.getByLabel("Email").fill("ilka@lowtide.example");
await page.getByLabel("Password").fill(DEMO_PASSWORD);
await page.getByRole("button", { name: "Sign in" }).click();
await page.getByRole("heading", { name: "On the bench" }).waitFor();
const [found] = await db.select({ id: machine.id }).from(machine).where(eq(machine.serial, SERIAL));
await page.goto(`/machines/${found!.id}`);
await page.getByRole("link", { name: /open since/ }).click();
await page.waitForURL(/\/jobs\//);
await page.goto(`${page.url()}/shots`);
await page.locator("[data-ready]").waitFor();

/** Longest event of each interaction, ms; events under 16 ms are not reported by the browser and count as 16. */
async function interactions(slowdown: number): Promise<number[]> {
  const cdp = await page.context().newCDPSession(page);
  await cdp.send("Emulation.setCPUThrottlingRate", { rate: slowdown });
  await page.evaluate(() => {
    const seen = new Map<number, number>();
    Object.assign(window, { seen });
    new PerformanceObserver((list) => {
      for (const e of list.getEntries() as (PerformanceEntry & { interactionId?: number })[])
        if (e.interactionId) seen.set(e.interactionId, Math.max(seen.get(e.interactionId) ?? 0, e.duration));
    }).observe({ type: "event", durationThreshold: 16, buffered: false } as PerformanceObserverInit);
  });
  let taps = 0;
  for (let i = 0; i < ROUNDS; i++)
    for (const name of [/^Pump on/, /^First drop/, /^Stop/, /^Clear the timer/]) {
      await page.getByRole("button", { name }).first().tap();
      taps++;
      await page.waitForTimeout(name.source.includes("First") ? 1100 : 150);
    }
  const long = await page.evaluate(() => [...(window as unknown as { seen: Map<number, number> }).seen.values()]);
  await cdp.send("Emulation.setCPUThrottlingRate", { rate: 1 });
  await cdp.detach();
  return [...Array.from({ length: Math.max(0, taps - long.length) }, () => 16), ...long].sort((a, b) => a - b);
}

const rows = [["tap on the shot clock", "taps", "p50 ms", "p75 ms", "p98 ms", "worst ms"]];
for (const slowdown of [1, 4]) {
  const took = await interactions(slowdown);
  const at = (share: number) => took[Math.min(took.length - 1, Math.floor(share * took.length))]!;
  rows.push([
    slowdown === 1 ? "this machine" : `processor slowed ${slowdown}×`,
    String(took.length),
    at(0.5).toFixed(0),
    at(0.75).toFixed(0),
    at(0.98).toFixed(0),
    took.at(-1)!.toFixed(0),
  ]);
}
console.log(`\nInteraction to next paint; under 16 ms the browser says 16\n${table(rows)}`);
await browser.close();

/** What one answer of the advisor costs as the tries grow. */
const recipe = recipeFor(USUAL_SCHOOLS);
const advisor = [["tries in the log", "calls", "p50 ms", "p95 ms"]];
for (const tries of [1, 3, 6, 12]) {
  const took: number[] = [];
  for (let i = 0; i < 60; i++) {
    const shots: Shot[] = Array.from({ length: tries }, (_, k) => ({
      setting: 6 + k,
      dose: 18,
      yield: 36,
      seconds: 48 - 2 * k + (i % 5),
    }));
    const start = performance.now();
    dialIn({ recipe, shots, grinder: USUAL_GRINDER, school: "grind" });
    took.push(performance.now() - start);
  }
  took.sort((a, b) => a - b);
  advisor.push([String(tries), String(took.length), ms(took[30]!), ms(took[57]!)]);
}
console.log(`\nThe dial-in advisor, one call\n${table(advisor)}`);

await poolOf(db).end();
