import ICAL from "ical.js";
import { linkTokenOf } from "../server/open-links";
import { randomBytes } from "node:crypto";
import { type IncomingMessage, get } from "node:http";
import { isNull, sql } from "drizzle-orm";
import { ownerLink } from "../db/schema";
import { database } from "../server/database";
import { prepared, workOff } from "./prepared";
import { atStation, expect, expectAccessible, freshMachine, signIn, test, tickOff, workLine, surely } from "./workshop";

/** What the owner takes away: a card on a phone, its dates, and a signature of their own. */

test("handed over: the card on a phone says what to do, its dates go into a calendar, and the owner signs by link", async ({
  page,
  browser,
  baseURL,
}) => {
  await signIn(page);
  const skips = ["steam", "temperature", "grinder", "shots", "volumes", "buttons", "light-cycle"];
  const jobId = await prepared(await freshMachine("K3"), "handover", { skips });
  await page.goto(`/jobs/${jobId}`);
  await atStation(page, "Sign");
  await page.getByRole("button", { name: "Sign the job" }).click();
  const href = (await page.getByRole("link", { name: "Card for the owner" }).getAttribute("href"))!;

  // Somebody who is nobody here, on a phone.
  const elsewhere = await browser.newContext({ baseURL: baseURL!, viewport: { width: 390, height: 844 } });
  const owner = await elsewhere.newPage();
  await owner.goto(href);
  await expect(owner.getByRole("heading", { name: "Tryout K3" })).toBeVisible();
  await expect(owner.getByRole("region", { name: "Keeping it well" })).toContainText("Refill the boiler straight away");
  await expect(owner.getByRole("region", { name: "This is normal" })).toContainText("The puck is wet");
  await expect(owner.getByRole("img", { name: "QR code of this card" })).toBeVisible();
  // Not the job report.
  await expect(owner.getByText("Seen on arrival")).toHaveCount(0);
  await expect(owner.getByLabel("Your name")).toBeVisible();
  await expectAccessible(owner);
  const wide = () => owner.evaluate(() => document.documentElement.scrollWidth <= window.innerWidth);
  expect(await wide()).toBe(true);

  const [download] = await Promise.all([
    owner.waitForEvent("download"),
    owner.getByRole("link", { name: "Put them into your calendar" }).click(),
  ]);
  const text = await (await download.createReadStream()).toArray().then((parts) => Buffer.concat(parts).toString());
  const events = new ICAL.Component(ICAL.parse(text) as unknown[]).getAllSubcomponents("vevent");
  expect(events.map((e) => new ICAL.Event(e).summary)).toEqual([
    "Next service: Tryout K3",
    "Back-flush with cleaner: Tryout K3",
  ]);

  // An empty box is said beside it, and the name stays.
  await owner.getByLabel("Your name").fill("Vera Osk");
  await owner.getByRole("button", { name: "I have received it" }).click();
  await expect(owner.getByText("Sign in the box first.")).toBeVisible();
  await expect(owner.getByLabel("Your name")).toHaveValue("Vera Osk");
  const box = (await owner.getByRole("img", { name: "Sign here" }).boundingBox())!;
  await owner.mouse.move(box.x + 40, box.y + 90);
  await owner.mouse.down();
  for (const [x, y] of [
    [90, 40],
    [130, 110],
    [190, 50],
    [260, 100],
  ] as const)
    await owner.mouse.move(box.x + x, box.y + y, { steps: 5 });
  await owner.mouse.up();
  await owner.getByRole("button", { name: "I have received it" }).click();
  await expect(owner.getByRole("img", { name: "Signature of Vera Osk" })).toBeVisible();
  await expect(owner.getByRole("button", { name: "I have received it" })).toHaveCount(0);

  // Changed behind the application, the card says so.
  const alarm = owner.getByText("This was changed afterwards. Do not rely on it.");
  await expect(alarm).toHaveCount(0);
  await database().transaction(async (tx) => {
    await tx.execute(sql`set local session_replication_role = replica`);
    await tx.execute(sql`update acknowledgement set name = 'Somebody Else' where job_id = ${jobId}`);
  });
  await owner.reload();
  await expect(alarm).toBeVisible();

  // Withdrawn, it shows nothing.
  await surely(page, "Withdraw", "Withdraw the link");
  await expect(page.getByText("No link is valid now.")).toBeVisible();
  expect((await owner.goto(href))!.status()).toBe(404);
  await elsewhere.close();
});

test("a used K1 refurbished for a first-time owner: what was shown, tried and left out, on the card of a phone", async ({
  page,
  browser,
  baseURL,
}) => {
  await signIn(page);
  const jobId = await prepared(await freshMachine("K1"), ["work", "clean", "hand-over"], { workByHand: true });
  await page.goto(`/jobs/${jobId}`);
  await atStation(page, "Work and parts");
  const lines = page.getByRole("list", { name: "Work and parts, recorded" }).getByRole("listitem");
  // After one line the next: the step stays until somebody goes on.
  await workLine(page, { what: "Group gasket", why: "hard, leaked at the handle" });
  await expect(lines).toHaveCount(1);
  await workLine(page, { what: "Burrs", how: "adjusted", why: "realigned" });
  await expect(lines).toHaveCount(2);
  await workLine(page, { what: "Pump", why: "loud, still holds 9 bar", outcome: "Declined" });
  await expect(lines).toHaveCount(3);
  await workOff(jobId, { stopAt: "hand-over" });
  await page.goto(`/jobs/${jobId}?at=hand-over`);
  const station = page.locator("[data-station-in-hand]");
  const part = (name: string) => station.locator("form").filter({ has: page.getByText(name, { exact: true }) });
  // What to say and to show stands beside each part until it is answered.
  await expect(part("Dose")).toContainText("The same weight each time");
  await expectAccessible(page);
  for (const [name, how] of [
    ["Warm-up", "Owner did it"],
    ["Dose", "Owner did it"],
    ["Tamp", "Owner did it"],
    ["Shot", "Shown only"],
    ["Milk", "Not shown"],
    ["Cleaning", "Shown only"],
    ["Water", "Shown only"],
  ] as const) {
    await part(name).getByRole("button", { name: how }).click();
    await expect(station.getByText(`${name}: ${how}`)).toBeVisible();
  }
  await expect(station).not.toContainText("The same weight each time");
  await tickOff(page, /^Told:/);
  await station.getByLabel(/^Accessories given/).fill("1 double basket, tamper");
  await station.getByRole("button", { name: "Save", exact: true }).first().click();
  await atStation(page, "Sign");
  await page.getByRole("button", { name: "Sign the job" }).click();
  const href = (await page.getByRole("link", { name: "Card for the owner" }).getAttribute("href"))!;
  const elsewhere = await browser.newContext({ baseURL: baseURL!, viewport: { width: 390, height: 844 } });
  const owner = await elsewhere.newPage();
  await owner.goto(href);
  await expect(owner.getByRole("region", { name: "Shown to you" })).toHaveText(
    /Warm-up \(you did it\), Dose \(you did it\), Tamp \(you did it\), Shot, Cleaning, Water\./,
  );
  await expect(owner.getByRole("region", { name: "With it" })).toContainText("Given: 1 double basket, tamper");
  await expectAccessible(owner);
  await owner.goto(href.replace("/card/", "/owner/"));
  await expect(owner.getByText("Milk: Not shown")).toBeVisible();
  await expect(owner.getByText(/Pump: to be renewed, loud, still holds 9 bar\. Declined by the owner/)).toBeVisible();
  await elsewhere.close();
});

test("without drawing: the typed name is the signature, by keyboard alone", async ({ page }) => {
  await signIn(page);
  const skips = ["steam", "temperature", "grinder", "shots", "volumes", "buttons", "light-cycle"];
  await page.goto(`/jobs/${await prepared(await freshMachine("K3"), "handover", { skips })}`);
  await atStation(page, "Sign");
  await page.getByRole("button", { name: "Sign the job" }).click();
  await page.goto((await page.getByRole("link", { name: "Card for the owner" }).getAttribute("href"))!);
  await page.getByLabel("Your name").fill("Vera Osk");
  // The box is there once its script is.
  await expect(async () => {
    await page.getByRole("button", { name: "Sign with my typed name" }).focus();
    await page.keyboard.press("Enter");
    await expect(page.locator("[name=drawing]")).toHaveValue(/^data:image\/png/, { timeout: 500 });
  }).toPass();
  await page.getByRole("button", { name: "I have received it" }).focus();
  await page.keyboard.press("Enter");
  await expect(page.getByRole("img", { name: "Signature of Vera Osk" })).toBeVisible();
});

test("links that are none are counted and slowed, and a good one is never held up", async ({ baseURL }) => {
  // From an address of its own: everybody else’s links are left alone.
  const ask = (token: string) =>
    new Promise<IncomingMessage>((done, failed) => {
      get(`${baseURL}/card/${token}`, { localAddress: "127.0.0.7" }, (answer) => done(answer.resume())).on(
        "error",
        failed,
      );
    });
  const answers: number[] = [];
  for (let i = 0; i < 1000; i++) {
    const answer = await ask(randomBytes(24).toString("base64url"));
    answers.push(answer.statusCode!);
    if (answer.statusCode === 429) expect(Number(answer.headers["retry-after"])).toBeGreaterThan(0);
  }
  const held = answers.filter((status) => status === 429).length;
  expect(new Set(answers)).toEqual(new Set([404, 429]));
  expect(held).toBeGreaterThan(950);
  const [link] = await database().select().from(ownerLink).where(isNull(ownerLink.revokedAt)).limit(1);
  expect((await ask(linkTokenOf("owner", link!)!)).statusCode).toBe(200);
});
