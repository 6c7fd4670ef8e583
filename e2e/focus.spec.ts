import { randomUUID } from "node:crypto";
import type { Page } from "@playwright/test";
import { eq } from "drizzle-orm";
import { account } from "../db/schema";
import { database } from "../server/database";
import { addNote } from "../server/jobs/commands/notes";
import { personOf } from "../server/jobs/person-of";
import { paramsOf } from "./addresses";
import { prepared } from "./prepared";
import { LEAD, TECHNICIAN, begin, expect, freshMachine, openBench, signIn, startJob, test } from "./workshop";

/** After every save the focus is where the work goes on, what was refused is led to, and both are said. */

/** What has the focus: what it is, and its name. */
const focused = (page: Page) =>
  page.evaluate(() => {
    const e = document.activeElement as HTMLInputElement | null;
    if (!e || e === document.body) return "nothing";
    const name = e.getAttribute("aria-label") ?? e.labels?.[0]?.textContent ?? e.textContent ?? "";
    return `${e.tagName.toLowerCase()} ${name.trim().replace(/\s+/g, " ")}`;
  });
const said = (page: Page) => page.locator("#said");

interface Row {
  /** The field that is typed in and sent with Enter, or the button that is pressed. */
  field?: string;
  typed?: string;
  button?: string | RegExp;
  then: string | RegExp;
  says: string | RegExp;
}

async function walk(page: Page, rows: readonly Row[]) {
  for (const { field, typed = "", button, then, says } of rows) {
    if (field) {
      const control = page.getByLabel(field, { exact: true });
      await control.fill(typed);
      const lines = await control.evaluate((e) => e.tagName === "TEXTAREA");
      await control.press(lines ? "Control+Enter" : "Enter");
    } else await page.getByRole("button", { name: button! }).press("Enter");
    await expect(said(page)).toHaveText(says);
    await expect.poll(() => focused(page), { message: `after ${field ?? String(button)}` }).toMatch(then);
  }
}

test("a visit by keyboard goes from one thing to do to the next, each said", async ({ page }) => {
  await signIn(page);
  await startJob(page, await freshMachine("K4"), "Pressure check");
  await walk(page, [
    { field: "Condition as it stands", typed: "Sound.", then: "button All set out", says: "Saved. Now: Tools." },
    {
      button: "All set out",
      then: "input The gauge shows",
      says: "Ticked: All set out. Now: Brew pressure: as found.",
    },
    {
      field: "The gauge shows",
      typed: "11.5",
      then: /^button Turned .* anticlockwise/,
      says: "Saved. Now: Brew pressure: adjust.",
    },
    { button: /^Turned /, then: "input The gauge shows", says: "Saved." },
    {
      field: "The gauge shows",
      typed: "9.0",
      then: "textarea Remark for the owner",
      says: "Saved. Now: Sign.",
    },
    { button: "Sign the job", then: /^p Signed by/, says: /^Saved\./ },
  ]);
  expect(await focused(page)).not.toBe("nothing");
});

test("what is refused has the focus at its field", async ({ page }) => {
  await signIn(page);
  await begin(page, await freshMachine("K4"), "Pressure check", {});
  const reading = page.getByLabel("The gauge shows", { exact: true });
  await reading.fill("nine");
  await page.getByRole("button", { name: "Save", exact: true }).press("Enter");
  await expect(reading).toHaveAttribute("aria-invalid", "true");
  await expect(reading).toBeFocused();
});

test("an unusual value is asked about at its own field, which is marked; the answer has the focus", async ({
  page,
}) => {
  await signIn(page);
  await page.goto(`/jobs/${await prepared(await freshMachine("K1"), ["shots"], {})}/shots`);
  await expect(page.locator("main[data-ready]")).toBeVisible();
  await page.getByLabel("In the cup, g").fill("36");
  await page.getByLabel("Seconds, s").fill("27");
  await page.getByLabel("Grind", { exact: true }).fill("5");
  await page.getByLabel("Coffee", { exact: true }).fill("Quay blend");
  await page.getByLabel("Grinder", { exact: true }).fill("Bench grinder");
  const dose = page.getByLabel("Dose, g");
  await dose.fill("4");
  await page.getByRole("button", { name: "Save shot" }).press("Enter");
  const question = page.getByRole("checkbox", { name: /4 g is unusual for a basket/ });
  await expect(question).toBeFocused();
  // Marked, and told with the field.
  await expect(dose).toHaveAttribute("data-asked", "");
  await expect(dose).toHaveAccessibleDescription(/unusual for a basket/);
  const [field, asked] = [(await dose.boundingBox())!, (await question.boundingBox())!];
  expect(asked.y - (field.y + field.height)).toBeLessThan(60);
  await question.press("Space");
  await page.getByRole("button", { name: "Save shot" }).press("Enter");
  await expect(said(page)).toHaveText("Saved.");
  await expect(question).toBeHidden();
});

test("pages without steps: the next entry, or the button that was pressed, or its fault", async ({ page }) => {
  await signIn(page);
  await page.goto("/settings");
  const stop = page.getByLabel(/^Stop/);
  await stop.fill("xx");
  await page.getByRole("button", { name: "Save the keys" }).press("Enter");
  await expect(stop).toBeFocused();
  await expect(page.getByText("One letter, figure or sign.")).toBeVisible();
  await stop.fill("s");
  await page.getByRole("button", { name: "Save the keys" }).press("Enter");
  await expect(said(page)).toHaveText("Saved.");
  await expect(page.getByRole("button", { name: "Save the keys" })).toBeFocused();
});

test("a move to another page is said, and the focus begins there", async ({ page }) => {
  await openBench(page);
  await page.getByRole("link", { name: "Kit", exact: true }).press("Enter");
  await expect(said(page)).toHaveText("Kit");
  await expect(page.getByRole("heading", { name: "Kit", level: 1 })).toBeVisible();
  expect(await focused(page)).not.toBe("nothing");
  await page.getByRole("link", { name: "Add an instrument" }).press("Enter");
  await expect(said(page)).not.toHaveText("Kit");
  await expect(page.locator("#main")).toBeFocused();
});

test("what somebody else writes in the job on the screen is said, and takes the focus from nobody", async ({
  page,
}) => {
  await signIn(page);
  await begin(page, await freshMachine("K4"), "Pressure check", {});
  const reading = page.getByLabel("The gauge shows");
  await reading.fill("9.");
  const jobId = /jobs\/([0-9a-f-]+)/.exec(page.url())![1]!;
  const mate = await personOf(TECHNICIAN);
  await addNote(
    { by: mate, jobId, commandId: randomUUID() },
    { station: "look-over", area: "", text: "Dent in the tray.", supersedes: undefined, reason: "" },
  );
  await expect(said(page)).toHaveText("Brought up to date: somebody else has written in it.");
  await expect(reading).toBeFocused();
  await expect(reading).toHaveValue("9.");
});

test("every page can be skipped into, the owner’s too", async ({ page }) => {
  const [lead] = await database().select().from(account).where(eq(account.email, LEAD));
  const { token } = await paramsOf(lead!);
  await signIn(page);
  for (const path of ["/", "/register", "/settings", "/sign-in", `/owner/${token}`, `/card/${token}`, "/nowhere"]) {
    await page.goto(path);
    await page.keyboard.press("Tab");
    const skip = page.getByRole("link", { name: "Skip to the page" });
    await expect(skip).toBeFocused();
    await expect(skip).toBeVisible();
    await expect(page.locator("main#main")).toHaveCount(1);
  }
});
