import { mkdirSync } from "node:fs";
import { type Page, chromium } from "@playwright/test";
import { DEMO_PASSWORD } from "../../db/seed/people";
import { BROWSER } from "../lib/packages.mjs";

/** One picture of each main view. Words after the command pick views by name. */

const base = process.env.BASE_URL!;
const folder = "docs/screenshots";
const wanted = process.argv.slice(2);

interface View {
  name: string;
  /** A path, or the name of a link on the bench. */
  at: string | RegExp;
  theme?: "light" | "dark";
  phone?: boolean;
  /** A phone on its side. */
  side?: boolean;
  before?: (page: Page) => Promise<void>;
}

const VIEWS: readonly View[] = [
  { name: "bench", at: "/" },
  { name: "sheet-next-move", at: /The Gutting Shed/ },
  { name: "sheet-offset", at: /Lighthouse flat/, theme: "dark" },
  {
    name: "sheet-volumes",
    at: /Ropewalk Espresso/,
    async before(page) {
      await page
        .locator("summary")
        .filter({ hasText: /pulses per ml,/ })
        .first()
        .click();
      // Drawn once it comes into sight.
      await page.getByRole("button", { name: "Save row" }).first().scrollIntoViewIfNeeded();
      await page.getByRole("figure").first().scrollIntoViewIfNeeded();
    },
  },
  {
    name: "shots",
    at: /Vale’s houseboat/,
    before: (page) => page.goto(`${page.url().split("?")[0]}/shots`).then(() => {}),
  },
  { name: "kit", at: "/kit" },
  { name: "hard-stop", at: /Josune’s flat/, phone: true },
  { name: "sheet-phone", at: /The Gutting Shed/, phone: true },
  { name: "sheet-on-its-side", at: /The Gutting Shed/, side: true, theme: "dark" },
  {
    name: "import",
    at: "/records",
    async before(page) {
      const rows = ["Datum;Serial no.;Druck vorher;Pressure after;Technician;Arbeit;Invoice"];
      for (let year = 2021; year <= 2025; year++)
        for (const serial of ["HE2-3301", "BV-70418", year === 2023 ? "BV-7O433" : "BV-70433"])
          rows.push(
            `${14 + (rows.length % 9)}.${rows.length % 12 || 3}.${year};${serial};9,${rows.length % 9};9,0;Orrin;"gasket; screen";${rows.length}`,
          );
      rows[5] = rows[5]!.replace(";9,0;", ";9,,0;");
      await page
        .getByLabel("File")
        .setInputFiles({ name: "visits.csv", mimeType: "text/csv", buffer: Buffer.from(rows.join("\n")) });
      await page.getByRole("button", { name: "Send the file" }).click();
      await page.getByRole("button", { name: "Check all rows" }).click();
      await page.getByText("can’t be imported as they are").waitFor();
    },
  },
  {
    name: "sheet-warm-up",
    at: /Quayside Rooms/,
    before: (page) => page.goto(`${page.url().split("?")[0]}?at=boiler-ready`).then(() => {}),
  },
  { name: "machine", at: /HE2-3301/ },
  { name: "register", at: "/register" },
  { name: "library", at: "/library" },
  { name: "people", at: "/people" },
  {
    name: "sheet-work",
    at: /Winterbourne’s barn/,
    async before(page) {
      await page.getByRole("group", { name: "What came of it" }).scrollIntoViewIfNeeded();
    },
  },
  {
    name: "owner-card",
    at: /HE2-3301/,
    phone: true,
    async before(page) {
      await page.goto(new URL(await cardOfDemo(page), base).href);
    },
  },
  { name: "settings", at: "/settings" },
  {
    name: "owner-page",
    at: /BV-70418/,
    async before(page) {
      await page.locator("a[href^='/jobs/']").filter({ hasText: "→" }).first().click();
      const link = await page.getByRole("link", { name: /\/owner\// }).getAttribute("href");
      await page.goto(new URL(link!, base).href);
    },
  },
];

/** Of the machine in hand, as it was handed over last. */
async function cardOfDemo(page: Page): Promise<string> {
  await page
    .locator("a[href^='/jobs/']")
    .filter({ hasText: /handover/i })
    .first()
    .click();
  return (await page.getByRole("link", { name: "Card for the owner" }).getAttribute("href"))!;
}

mkdirSync(folder, { recursive: true });
const browser = await chromium.launch({ executablePath: BROWSER, args: ["--no-sandbox", "--disable-gpu"] });
for (const view of VIEWS) {
  if (wanted.length > 0 && !wanted.some((w) => view.name.includes(w))) continue;
  const context = await browser.newContext({
    baseURL: base,
    viewport: view.side
      ? { width: 844, height: 390 }
      : view.phone
        ? { width: 390, height: 844 }
        : { width: 1280, height: 800 },
    colorScheme: view.theme ?? "light",
    reducedMotion: "reduce",
  });
  const page = await context.newPage();
  await page.goto("/sign-in");
  await page.getByLabel("Email").fill("ilka@lowtide.example");
  await page.getByLabel("Password").fill(DEMO_PASSWORD);
  await page.getByRole("button", { name: "Sign in" }).click();
  await page.getByRole("heading", { name: "On the bench" }).waitFor();
  if (typeof view.at === "string") await page.goto(view.at);
  else {
    if (/^\w+-\d+$/.test(view.at.source)) {
      await page.getByRole("searchbox").fill(view.at.source);
      await page.getByText("1 machine found").waitFor({ state: "attached" });
    }
    await page.getByRole("link", { name: view.at }).first().click();
    await page.waitForURL(/\/(jobs|machines)\//);
  }
  await view.before?.(page);
  await page.evaluate(() => document.fonts.ready);
  // Charts come when they are looked at.
  await page.waitForTimeout(400);
  await page.getByText("Drawing…").first().waitFor({ state: "detached" });
  await page.screenshot({ path: `${folder}/${view.name}.png` });
  await context.close();
}
await browser.close();
