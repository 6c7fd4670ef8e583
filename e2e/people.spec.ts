import { randomUUID } from "node:crypto";
import type { Browser, Page } from "@playwright/test";
import { TOTP, Secret } from "otpauth";
import { eq, sql } from "drizzle-orm";
import { account, session } from "../db/schema";
import { DEMO_PASSWORD } from "../db/seed/people";
import { database } from "../server/database";
import { expect, expectAccessible, signIn, test, surely } from "./workshop";

/** People come and go: asked in, a lost phone, a lost password, a second factor, and the tablet on the bench. */

const PHRASE = "three wet towels";

/** Somebody new, asked in by the lead who is signed in on this page, come in on a device of their own. */
async function member(page: Page, browser: Browser, baseURL: string, role = "technician") {
  const name = `Per ${randomUUID().slice(0, 6)}`;
  const email = `${name.replace(" ", "-").toLowerCase()}@lowtide.example`;
  await page.goto("/people");
  const asked = page.getByRole("region", { name: "Ask somebody in" });
  await asked.getByLabel("Name").fill(name);
  await asked.getByLabel("Email").fill(email);
  await asked.getByLabel("May").selectOption(role);
  await asked.getByRole("button", { name: "Make the link" }).click();
  const link = (await asked.getByText(/\/join\//).textContent())!;
  const phone = await (await browser.newContext({ baseURL, viewport: { width: 390, height: 844 } })).newPage();
  await phone.goto(link);
  await phone.getByLabel("Password").fill(PHRASE);
  await phone.getByRole("button", { name: "Come in" }).click();
  await expect(phone.getByRole("heading", { name: "On the bench" })).toBeVisible();
  return { name, email, link, phone, done: () => phone.context().close() };
}

const enter = async (page: Page, email: string, password: string) => {
  await page.goto("/sign-in");
  await page.getByLabel("Email").fill(email);
  await page.getByLabel("Password").fill(password);
  await page.getByRole("button", { name: "Sign in" }).click();
};

test("asked in by a link, once: a password of their own, and to work", async ({ page, browser, baseURL }) => {
  await signIn(page);
  await page.goto("/settings");
  await page.getByRole("link", { name: "People" }).click();
  await expectAccessible(page);
  const { name, link, phone, done } = await member(page, browser, baseURL!);
  await expect(page.getByRole("listitem").filter({ hasText: name }).first()).toContainText("technician");

  // The link opens nothing a second time.
  const other = await (await browser.newContext({ baseURL: baseURL! })).newPage();
  await other.goto(link);
  await expect(other.getByRole("heading", { name: "This link opens nothing any more" })).toBeVisible();
  await other.context().close();

  // What is weak is refused beside its field, in the reset too; here: what a technician sees.
  await phone.goto("/settings");
  await expect(phone.getByRole("link", { name: "People" })).toHaveCount(0);
  await phone.goto("/register");
  await expect(phone.getByRole("heading", { level: 1 })).toBeVisible();
  await done();
});

test("a weak password is refused beside its field, and nothing is lost", async ({ page, browser, baseURL }) => {
  await signIn(page);
  await page.goto("/people");
  const asked = page.getByRole("region", { name: "Ask somebody in" });
  await asked.getByLabel("Name").fill("Weak Start");
  await asked.getByLabel("Email").fill(`${randomUUID()}@lowtide.example`);
  await asked.getByRole("button", { name: "Make the link" }).click();
  const link = (await asked.getByText(/\/join\//).textContent())!;
  const phone = await (await browser.newContext({ baseURL: baseURL! })).newPage();
  await phone.goto(link);
  await expectAccessible(phone);
  await phone.getByLabel("Your name").fill("Strong Start");
  for (const [password, why] of [
    ["short", "are the least"],
    ["password1234", "tried first"],
    ["Strong-Start-1", "on the door"],
  ] as const) {
    await phone.getByLabel("Password").fill(password);
    await phone.keyboard.press("Enter");
    await expect(phone.getByRole("alert")).toContainText(why);
    await expect(phone.getByLabel("Your name")).toHaveValue("Strong Start");
  }
  await phone.getByLabel("Password").fill(PHRASE);
  await phone.keyboard.press("Enter");
  await expect(phone.getByRole("heading", { name: "On the bench" })).toBeVisible();
  await phone.context().close();
  // Withdrawn ones are gone from the list.
  await page.reload();
  await expect(page.getByText("Weak Start")).toHaveCount(0);
});

test("without a connection a password form says so, keeps what stands on the screen, and sends nothing later", async ({
  page,
  context,
}) => {
  await signIn(page);
  await page.goto("/access");
  const form = page.getByRole("region", { name: "Password" });
  await form.getByLabel("Password now").fill("not my password");
  await form.getByLabel("New password").fill("nine dry saucers");
  await context.setOffline(true);
  await form.getByRole("button", { name: "Change password" }).click();
  await expect(form.getByText("Not saved: no connection. Send it again")).toBeVisible();
  await expect(form.getByLabel("New password")).toHaveValue("nine dry saucers");
  await context.setOffline(false);
  await form.getByRole("button", { name: "Change password" }).click();
  await expect(form.getByText("That is not your password.")).toBeVisible();
});

test("a lost phone is signed out from another device, at once", async ({ page, browser, baseURL }) => {
  await signIn(page);
  const { email, phone, done } = await member(page, browser, baseURL!);
  const desk = await (await browser.newContext({ baseURL: baseURL! })).newPage();
  await enter(desk, email, PHRASE);
  await expect(desk.getByRole("heading", { name: "On the bench" })).toBeVisible();
  await desk.goto("/settings");
  await desk.getByRole("link", { name: "Your access" }).click();
  await expectAccessible(desk);
  const sessions = desk.getByRole("region", { name: "Where you are signed in" });
  await expect(sessions.getByRole("listitem")).toHaveCount(2);
  await sessions.getByRole("button", { name: "Sign out there" }).click();
  await expect(sessions.getByRole("listitem")).toHaveCount(1);
  await phone.goto("/");
  await expect(phone).toHaveURL(/\/sign-in/);
  await desk.context().close();
  await done();
});

test("a lost password: a lead’s link sets a new one, and the old opens nothing", async ({ page, browser, baseURL }) => {
  await signIn(page);
  const { name, email, phone, done } = await member(page, browser, baseURL!);
  await page.reload();
  const row = page.getByRole("listitem").filter({ hasText: name }).first();
  await row.getByRole("button", { name: "Link for a new password" }).click();
  const link = (await row.getByText(/\/join\//).textContent())!;
  const desk = await (await browser.newContext({ baseURL: baseURL! })).newPage();
  await desk.goto(link);
  await expect(desk.getByRole("heading", { name: "A new password" })).toBeVisible();
  await desk.getByLabel("Password").fill("nine dry saucers");
  await desk.getByRole("button", { name: "Set it and sign in" }).click();
  await expect(desk.getByRole("heading", { name: "On the bench" })).toBeVisible();
  await phone.goto("/");
  await expect(phone).toHaveURL(/\/sign-in/);
  await enter(phone, email, PHRASE);
  await expect(phone.getByText("do not match")).toBeVisible();
  // Let go: out everywhere, and not in again.
  await page.reload();
  await surely(row, "Let go", /^Let go/);
  await expect(row).toContainText("let go");
  await desk.goto("/");
  await expect(desk).toHaveURL(/\/sign-in/);
  await desk.context().close();
  await done();
});

test("second factor: switched on with a phone’s app, asked for at the door", async ({ page, browser, baseURL }) => {
  await signIn(page);
  const { email, phone, done } = await member(page, browser, baseURL!);
  await phone.goto("/access");
  const factor = phone.getByRole("region", { name: "Second factor" });
  const shown = (await factor.getByText(/^([A-Z2-7]{4} ?){8}$/).textContent())!;
  const secret = shown.replaceAll(" ", "");
  const code = (ahead = 0) =>
    new TOTP({ secret: Secret.fromBase32(secret) }).generate({ timestamp: Date.now() + ahead });
  await factor.getByLabel("Code it shows").fill("000000");
  await factor.getByRole("button", { name: "Switch it on" }).click();
  await expect(factor.getByRole("alert")).toContainText("not the one of now");
  await expect(factor.getByText(shown)).toBeVisible();
  await factor.getByLabel("Code it shows").fill(code());
  await factor.getByRole("button", { name: "Switch it on" }).click();
  await expect(factor.getByText("Write these down")).toBeVisible();
  const paper = (await factor.getByRole("listitem").first().textContent())!;

  const desk = await (await browser.newContext({ baseURL: baseURL! })).newPage();
  await enter(desk, email, PHRASE);
  await expect(desk.getByLabel("Code")).toBeFocused();
  await desk.getByLabel("Code").fill(paper);
  await desk.keyboard.press("Enter");
  await expect(desk.getByRole("heading", { name: "On the bench" })).toBeVisible();
  await desk.context().close();
  await done();
});

test("the tablet on the bench: people take over by PIN, for the work alone", async ({ page, browser, baseURL }) => {
  await signIn(page);
  const { name, phone, done } = await member(page, browser, baseURL!, "lead");
  await phone.goto("/access");
  const tablets = phone.getByRole("region", { name: "Tablets on the bench" });
  await tablets.getByLabel("Your PIN").fill("1234");
  await tablets.getByRole("button", { name: "Set PIN" }).click();
  await expect(tablets.getByRole("alert")).toContainText("guessed first");
  await tablets.getByLabel("Your PIN").fill("2580");
  await tablets.getByRole("button", { name: "Set PIN" }).click();
  await expect(tablets.getByRole("button", { name: "Change PIN" })).toBeVisible();

  const tablet = await (
    await browser.newContext({ baseURL: baseURL!, viewport: { width: 1024, height: 768 } })
  ).newPage();
  await enter(tablet, "ilka@lowtide.example", DEMO_PASSWORD);
  await expect(tablet.getByRole("heading", { name: "On the bench" })).toBeVisible();
  await tablet.goto("/access");
  await tablet.getByLabel("Name of this device").fill(`Tablet ${name}`);
  await tablet.getByRole("button", { name: "Make this a tablet of the workshop" }).click();
  await expect(
    tablet
      .getByRole("listitem")
      .filter({ hasText: `Tablet ${name}` })
      .first(),
  ).toBeVisible();
  await tablet.goto("/settings");
  await tablet.getByRole("button", { name: "Sign out" }).click();
  await expect(tablet.getByRole("heading", { name: "Who is at the bench?" })).toBeVisible();
  await expectAccessible(tablet);
  await tablet.getByRole("radio", { name }).check();
  await tablet.getByLabel("PIN").fill("2581");
  await tablet.keyboard.press("Enter");
  await expect(tablet.getByRole("alert")).toContainText("not the PIN");
  await tablet.getByLabel("PIN").fill("2580");
  await tablet.keyboard.press("Enter");
  await expect(tablet.getByRole("heading", { name: "On the bench" })).toBeVisible();
  await expect(tablet.getByRole("link", { name: "Switch" })).toBeVisible();
  // A lead by password, but not by PIN.
  await tablet.goto("/people");
  await expect(tablet.getByRole("heading", { name: "People of" })).toHaveCount(0);
  await tablet.goto("/access");
  await expect(tablet.getByText("You are here by PIN, for the work.")).toBeVisible();
  await tablet.goto("/library");
  await expect(tablet.getByRole("link", { name: /New spec/ })).toHaveCount(0);
  await tablet.context().close();
  await done();
});

test("what opens an account asks for the password once more; the lead sees each of it, and ends it", async ({
  page,
  browser,
  baseURL,
}) => {
  await signIn(page);
  const { name, email, phone, done } = await member(page, browser, baseURL!);
  const [own] = await database().select({ id: account.id }).from(account).where(eq(account.email, email));
  await database()
    .update(session)
    .set({ provenAt: sql`now() - interval '11 minutes'` })
    .where(eq(session.accountId, own!.id));
  await phone.goto("/access");
  await expectAccessible(phone);
  const pin = phone.getByRole("region", { name: "Tablets on the bench" });
  await pin.getByLabel("Your PIN").fill("2580");
  await pin.getByRole("button", { name: "Set PIN" }).click();
  await expect(pin.getByText("Type your password once more, at the top of this page")).toBeVisible();
  const again = phone.getByLabel("Your password", { exact: true });
  await again.fill("not my password");
  await phone.keyboard.press("Enter");
  await expect(phone.getByText("That is not your password.")).toBeVisible();
  await again.fill(PHRASE);
  await phone.keyboard.press("Enter");
  await expect(again).toHaveCount(0);
  // What was typed before stands there still.
  await expect(pin.getByLabel("Your PIN")).toHaveValue("2580");
  await pin.getByRole("button", { name: "Set PIN" }).click();
  await expect(pin.getByRole("button", { name: "Change PIN" })).toBeVisible();

  await page.goto("/people");
  await page.getByText(`What opens ${name}’s account: 2`).click();
  await expectAccessible(page);
  await page.getByRole("listitem").filter({ hasText: name }).getByRole("button", { name: "End the PIN" }).click();
  await expect(page.getByText(`What opens ${name}’s account: 1`)).toBeVisible();
  const log = page.getByRole("region", { name: "Signing in, and changes to it" });
  await expect(log.getByRole("listitem").filter({ hasText: `${name} has a new PIN` })).toBeVisible();
  await page
    .getByRole("listitem")
    .filter({ hasText: name })
    .first()
    .getByRole("button", { name: "End all of it" })
    .click();
  await expect(page.getByText(`What opens ${name}’s account`)).toHaveCount(0);
  await phone.goto("/");
  await expect(phone.getByRole("button", { name: "Sign in" })).toBeVisible();
  await done();
});
