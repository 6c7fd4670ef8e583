import type { Browser, Page } from "@playwright/test";
import { eq, sql } from "drizzle-orm";
import { account, session } from "../db/schema";
import { database } from "../server/database";
import { expect, expectAccessible, signInAlone, test } from "./workshop";

/** Passkeys with a device that the browser itself plays: made, used at the door and instead of the password, and ended. */

test.use({ viewport: { width: 390, height: 844 } });

/** Somebody signed in at the application’s name: browsers keep passkeys for no number. */
async function byName(page: Page, browser: Browser, baseURL: string) {
  const email = await signInAlone(page);
  const site = new URL(baseURL);
  site.hostname = "localhost";
  const context = await browser.newContext({ baseURL: site.origin, viewport: { width: 390, height: 844 } });
  const cookies = await page.context().cookies(baseURL);
  await context.addCookies(cookies.map((c) => ({ ...c, domain: "localhost" })));
  const phone = await context.newPage();
  const cdp = await context.newCDPSession(phone);
  await cdp.send("WebAuthn.enable");
  const { authenticatorId } = await cdp.send("WebAuthn.addVirtualAuthenticator", {
    options: {
      protocol: "ctap2",
      transport: "internal",
      hasResidentKey: true,
      hasUserVerification: true,
      isUserVerified: true,
    },
  });
  const unlocks = (isUserVerified: boolean) =>
    cdp.send("WebAuthn.setUserVerified", { authenticatorId, isUserVerified });
  const [own] = await database().select({ id: account.id }).from(account).where(eq(account.email, email));
  return { phone, unlocks, accountId: own!.id };
}

test("a passkey is made, opens the door without a password, and is shown instead of it", async ({
  page,
  browser,
  baseURL,
}) => {
  const { phone, unlocks, accountId } = await byName(page, browser, baseURL!);
  await phone.goto("/access");
  const keys = phone.getByRole("region", { name: "Passkeys" });
  // Not unlocked: said beside the button, and what was typed stays.
  await unlocks(false);
  await keys.getByLabel("Name of the device").fill("green phone");
  await keys.getByRole("button", { name: "Make a passkey" }).click();
  await expect(keys.getByText("The device gave no key")).toBeVisible();
  await expect(keys.getByLabel("Name of the device")).toHaveValue("green phone");
  await unlocks(true);
  await keys.getByRole("button", { name: "Make a passkey" }).click();
  await expect(keys.getByRole("listitem")).toContainText(/green phone, made .*, not used yet/);
  await expect(keys.getByText("Made. Sign in with it the next time.")).toBeVisible();
  await expectAccessible(phone);
  // A second one on the same device is none.
  await keys.getByLabel("Name of the device").fill("again");
  await phone.keyboard.press("Enter");
  await expect(keys.getByText("This device has a key for your account already.")).toBeVisible();

  await phone.goto("/settings");
  await phone.getByRole("button", { name: "Sign out" }).click();
  await expect(phone.getByLabel("Password")).toBeVisible();
  await expectAccessible(phone);
  await phone.getByRole("button", { name: "Sign in with a passkey" }).click();
  await expect(phone.getByRole("heading", { name: "On the bench" })).toBeVisible();

  // Asked for again after a while.
  await database()
    .update(session)
    .set({ provenAt: sql`now() - interval '11 minutes'` })
    .where(eq(session.accountId, accountId));
  await phone.goto("/access");
  const again = phone.getByRole("button", { name: "Show a passkey instead" });
  await again.click();
  await expect(again).toHaveCount(0);
  await expect(keys.getByRole("listitem")).toContainText(/last used \d/);

  // Seen and ended by a lead, as anything else that opens an account.
  await phone.goto("/people");
  await phone.getByText("What opens Oda Lind’s account: 2").click();
  const row = phone.getByRole("listitem").filter({ hasText: "passkey “green phone”" }).last();
  await row.getByRole("button", { name: "End passkey" }).click();
  await expect(phone.getByText("passkey “green phone”")).toHaveCount(0);
  await phone.goto("/settings");
  await phone.getByRole("button", { name: "Sign out" }).click();
  await phone.getByRole("button", { name: "Sign in with a passkey" }).click();
  await expect(phone.getByText("No account here knows that key")).toBeVisible();
  await phone.context().close();
});
