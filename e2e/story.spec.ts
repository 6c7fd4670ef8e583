import type { Locator, Page } from "@playwright/test";
import {
  adjust,
  coversOff,
  expect,
  expectAccessible,
  freshMachine,
  read,
  openBench,
  signIn,
  startService,
  test,
  toAsFound,
  onBench,
  valve,
  surely,
} from "./workshop";

test("by mouse: from the bench to the owner's page", async ({ page, browser }) => {
  await openBench(page);
  await expectAccessible(page);
  await startService(page, await freshMachine("K9"), "It hisses, and tastes of nothing.");
  await expectAccessible(page);
  await expect(page.getByText("“It hisses, and tastes of nothing.”")).toBeVisible();

  await page.getByLabel("Condition as it stands").fill("Dent in the tray.\nHisses at the rear.");
  await page.getByRole("button", { name: "Save the condition" }).click();
  await expect(page.getByText("Flat screwdriver")).toBeVisible();
  await page.getByRole("button", { name: "All set out" }).click();

  const machine = valve({ setting: 8.1 });
  await read(page, machine.shows());
  await expect(page.getByText("as found, 1 more reading")).toBeVisible();
  await read(page, machine.shows());

  // The hard stop covers the sheet, and a stray Enter does not confirm it.
  const stop = page.getByRole("alertdialog", { name: "Covers off: live parts" });
  await expect(stop).toBeVisible();
  await expect(stop).toContainText("Local codes and licensed practice");
  await page.keyboard.press("Enter");
  await expect(stop).toBeVisible();
  await expectAccessible(page);
  await page.getByRole("button", { name: "Off, unplugged: the cover is off" }).click();
  await expect(stop).toBeHidden();

  await expect(page.getByText(/Turn OPV .* clockwise\. Read again\./)).toBeVisible();
  await expect(page.getByText(/Expect [89]\.\d to \d+\.\d bar \(target 8\.5 to 9\.5 bar\)\..*%/)).toBeVisible();
  await page.getByText("Why", { exact: true }).click();
  await expect(page.getByText(/Not adjusted on this visit yet/)).toBeVisible();
  await expectAccessible(page);

  expect(await adjust(page, machine)).toBeLessThanOrEqual(2);
  const refit = page.getByRole("alertdialog", { name: "Off and unplugged first" });
  await expect(refit).toBeVisible();
  await page.getByRole("button", { name: "Unplugged: the cover is on" }).click();
  await expect(page.getByRole("status").filter({ hasText: "bar" })).toContainText("in spec");
  await page.getByLabel("Remark for the owner").fill("Runs well now.");
  await page.getByRole("button", { name: "Sign the job" }).click();
  await expect(page.getByRole("heading", { name: "Owner’s page" })).toBeVisible();
  await expectAccessible(page);

  // The owner has no account: a browser of their own.
  const link = await page.getByRole("link", { name: /\/owner\// }).getAttribute("href");
  const elsewhere = await browser.newContext();
  const owner = await elsewhere.newPage();
  await owner.goto(new URL(link!, page.url()).href);
  await expect(owner.getByRole("heading", { name: "Tryout K9" })).toBeVisible();
  await expect(owner.getByText("Runs well now.")).toBeVisible();
  await expect(owner.getByText(/Dent in the tray\./)).toBeVisible();
  await expect(owner.getByText(/SHA-256 of the signed record: [0-9a-f]{64}/)).toBeVisible();
  await expect(
    owner.getByRole("img", {
      name: /tolerance 8\.5 bar to 9\.5 bar, as found 8\.\d bar .* as left (8\.[6-9]|9\.[0-4]) bar/,
    }),
  ).toBeVisible();
  await expectAccessible(owner);
  await owner.emulateMedia({ media: "print" });
  await expect(owner.getByRole("button", { name: "Print" })).toBeHidden();

  await surely(page, "Withdraw", "Withdraw the link");
  await expect(page.getByText("No link is valid now.")).toBeVisible();
  expect((await owner.reload())!.status()).toBe(404);
  await page.getByRole("button", { name: "Make a new link" }).click();
  await expect(page.getByRole("link", { name: /\/owner\// })).not.toHaveAttribute("href", link!);
  await elsewhere.close();
});

test("by keyboard alone", async ({ page }) => {
  const serial = await freshMachine("K3");
  await page.goto("/sign-in");
  await page.keyboard.type("tobin@lowtide.example");
  await page.keyboard.press("Tab");
  await page.keyboard.type("wet-hands-9bar");
  await page.keyboard.press("Enter");
  await expect(page.getByRole("heading", { name: "On the bench" })).toBeVisible();

  await page.keyboard.press("?");
  await expect(page.getByRole("dialog", { name: "Keys on this screen" })).toContainText("Search the register");
  await page.keyboard.press("Escape");
  await page.keyboard.press("/");
  await page.keyboard.type(serial.toLowerCase());
  await expect(page.getByText("1 machine found")).toBeAttached();
  await tabTo(page, "a[href^='/machines/']:not([href$=new])");
  await page.keyboard.press("Enter");
  await expect(page.getByRole("heading", { name: "Tryout K3" })).toBeVisible();
  await tabTo(page, "input[name=type]");
  for (let i = 0; i < 3; i++) await page.keyboard.press("ArrowDown");
  await expect(page.getByRole("radio", { name: "Pressure check" })).toBeChecked();
  await tabTo(page, "textarea[name=complaint]");
  await page.keyboard.type("Sour.");
  await tabTo(page, "select[name=school]");
  await page.keyboard.press("Tab");
  await page.keyboard.press("Enter");
  await page.waitForURL(/\/jobs\//);

  await expect(page.getByLabel("Condition as it stands")).toBeVisible();
  // Past the bench, however many machines stand on it.
  await page.keyboard.press("n");
  await tabTo(page, "textarea[name=text]");
  await page.keyboard.type("Clean.");
  await page.keyboard.press("Tab");
  await page.keyboard.press("Enter");
  await expect(page.getByRole("button", { name: "All set out" })).toBeVisible();
  await page.keyboard.press("n");
  await page.keyboard.press("Enter");
  await expect(page.getByLabel("The gauge shows")).toBeVisible();

  const machine = valve({ setting: 9.9, response: 1.7 });
  const lines = page
    .getByRole("list", { name: "Readings and adjustments", includeHidden: true })
    .getByRole("listitem", { includeHidden: true });
  const readByKey = async () => {
    const before = await lines.count();
    // The focus is there already: the field is what comes next.
    await expect(page.locator("[name=reading]").first()).toBeFocused();
    await page.keyboard.type(machine.shows());
    await page.keyboard.press("Enter");
    await expect(lines).toHaveCount(before + 1);
  };
  // From anywhere on the page a key leads to it; in a field a letter is a letter.
  const leave = () => page.evaluate(() => (document.activeElement as HTMLElement).blur());
  await leave();
  await page.keyboard.press("r");
  await readByKey();
  await readByKey();
  // Only now, with something to adjust behind it, does the cover come off.
  await expect(page.getByRole("alertdialog")).toBeVisible();
  await page.keyboard.press("Tab");
  await page.keyboard.press("Enter");
  await expect(page.getByRole("alertdialog")).toBeHidden();
  for (let i = 0; i < 10; i++) {
    const phase = await page.locator("[aria-current=step] h3").textContent();
    if (phase !== "Brew pressure: adjust" && phase !== "Brew pressure: as left") break;
    const turned = page.locator("button[data-key=turn]");
    if (await turned.isVisible()) {
      machine.turn(await turnOf(turned));
      await leave();
      await page.keyboard.press("t");
      await expect(turned).toBeFocused();
      await page.keyboard.press("Enter");
      await expect(turned).toBeHidden();
    }
    await readByKey();
  }
  await expect(page.getByRole("alertdialog", { name: "Off and unplugged first" })).toBeVisible();
  await page.keyboard.press("Tab");
  await page.keyboard.press("Enter");
  await expect(page.getByRole("button", { name: "Sign the job" })).toBeVisible();
  await page.keyboard.press("n");
  await tabTo(page, "button:has-text('Sign the job')");
  await page.keyboard.press("Enter");
  await expect(page.getByText(/Signed by Tobin Marsh/)).toBeVisible();
});

async function tabTo(page: Page, selector: string) {
  for (let i = 0; i < 200; i++) {
    if (
      await page.evaluate(
        (s) =>
          [...document.querySelectorAll("button, input, select, textarea, a")].some(
            (e) =>
              e === document.activeElement &&
              e.matches(s.replace(/:has-text.*/, "")) &&
              (!s.includes("has-text") || e.textContent === "Sign the job"),
          ),
        selector,
      )
    )
      return;
    await page.keyboard.press("Tab");
  }
  throw new Error(`The keyboard does not reach ${selector}.`);
}

async function turnOf(button: Locator): Promise<number> {
  const form = button.locator("xpath=ancestor::form");
  const turns = await form.locator("[name=amount]").inputValue();
  const way = await form.locator("[name=way]").inputValue();
  const eighths = { "⅛": 1, "¼": 2, "⅜": 3, "½": 4, "⅝": 5, "¾": 6, "⅞": 7 } as Record<string, number>;
  const size = Number(turns.replace(/\D/g, "") || 0) + (eighths[turns.at(-1)!] ?? 0) / 8;
  return way === "plus" ? size : -size;
}

test.describe("on a phone", () => {
  test.use({ viewport: { width: 390, height: 844 }, hasTouch: true });

  test("three swipes of one page, from start to signature", async ({ page }) => {
    await openBench(page);
    await expectAccessible(page);
    await toAsFound(page, await freshMachine("K1"));
    // Measuring: the gauge has come into view by itself.
    await expect(page.getByLabel("The gauge shows")).toBeInViewport();
    const machine = valve({ setting: 7.6 });
    await read(page, machine.shows());
    await read(page, machine.shows());
    await expectAccessible(page);
    await adjust(page, machine);
    await expect(page.getByRole("alertdialog")).toBeInViewport();
    await page.getByRole("button", { name: "Unplugged: the cover is on" }).tap();
    await page.getByRole("button", { name: "Sign the job" }).tap();
    await expect(page.getByRole("heading", { name: "Owner’s page" })).toBeVisible();
    await page.getByRole("navigation", { name: "Zones" }).getByRole("link", { name: "gauge" }).tap();
    await expect(page.getByText("Brew pressure at the group").first()).toBeInViewport();
    const sideways = await page.evaluate(
      () => document.documentElement.scrollWidth - document.documentElement.clientWidth,
    );
    expect(sideways, "the page itself does not scroll sideways").toBe(0);
  });
});

test("trapped pressure on a machine without a three-way valve", async ({ page }) => {
  await signIn(page);
  await (await onBench(page, /Josune’s flat.*Release trapped pressure/)).click();
  const stop = page.getByRole("alertdialog", { name: "Trapped pressure" });
  await expect(stop).toContainText("Do not turn the handle.");
  await expect(page.getByRole("button", { name: "Sign the job" })).toBeHidden();
  await page.getByRole("button", { name: "The gauge reads zero" }).click();
  await expect(page.getByRole("button", { name: "Sign the job" })).toBeVisible();
});

test("a stuck valve ends in a named fault, and the owner reads it", async ({ page }) => {
  await signIn(page);
  await toAsFound(page, await freshMachine("K5"));
  const machine = valve({ setting: 10.6, response: 0 });
  await read(page, machine.shows());
  await read(page, machine.shows());
  await coversOff(page);
  const fault = page.getByText("Stop: OPV does not respond.");
  for (let i = 0; i < 10 && !(await fault.isVisible()); i++) {
    const turned = page.locator("button[data-key=turn]");
    if (await turned.isVisible()) await turned.click();
    await expect(turned).toBeHidden();
    await read(page, machine.shows());
  }
  await expect(fault).toBeVisible();
  await expect(page.getByText(/OPV stuck or without effect, \d+ %/)).toBeVisible();
  await page.getByLabel("Found, for the report").fill("No water at the outlet.");
  await page.getByRole("button", { name: "End adjusting with this fault" }).click();
  await expect(page.getByText("ended with a fault", { exact: true })).toBeVisible();
  while (await page.getByLabel("The gauge shows").isVisible()) await read(page, machine.shows());
  await page.getByRole("button", { name: "Unplugged: the cover is on" }).click();
  await page.getByRole("button", { name: "Sign the job" }).click();
  await expect(page.getByText("Say what the owner should know about it.")).toBeVisible();
  await page.getByLabel("What the owner should know").fill("The valve needs replacing.");
  await page.getByRole("button", { name: "Sign the job" }).click();
  await page.getByRole("link", { name: /\/owner\// }).click();
  await expect(page.getByText("The OPV does not respond. No water at the outlet.")).toBeVisible();
});
