import type { Page, Route } from "@playwright/test";
import {
  TECHNICIAN,
  alive,
  expect,
  freshMachine,
  openMachine,
  read,
  signIn,
  startService,
  test,
  tickOff,
  toAsFound,
} from "./workshop";

/** A device that is slow: what happens before scripts are there, before a page listens, and between an answer and its drawing. */

/** Scripts that arrive when they are told to. */
async function heldScripts(page: Page) {
  let scripts = () => {};
  const go = new Promise<void>((r) => (scripts = r));
  await page.unroute("**/assets/*.js");
  await page.route("**/assets/*.js", (route) => go.then(() => route.continue()));
  return () => scripts();
}

test("a form sent before the scripts are there carries its draft’s id: sent again, it is the same record", async ({
  page,
}) => {
  await signIn(page);
  await openMachine(page, await freshMachine("K4"));
  await page.getByRole("radio", { name: "Pressure check" }).check();
  await page.getByRole("button", { name: /^Start the / }).click();
  await page.waitForURL(/\/jobs\//);
  const words = page.getByLabel("Condition as it stands");
  await words.fill("Typed before the reload.");
  const kept = await page.evaluate(() => {
    const key = Object.keys(localStorage).find((k) => k.startsWith("draft:") && k.endsWith(":note"))!;
    return (JSON.parse(localStorage.getItem(key)!) as { commandId: string }).commandId;
  });
  // A slow machine: the page is there, its scripts are not yet.
  await page.route("**/assets/*.js", () => {});
  await page.goto(page.url(), { waitUntil: "commit" });
  await words.fill("Typed before the reload.");
  const [sent] = await Promise.all([
    page.waitForRequest((r) => r.method() === "POST"),
    page.getByRole("button", { name: "Save the condition" }).click(),
  ]);
  expect(new URLSearchParams(sent.postData()!).get("commandId")).toBe(kept);
});

test("while the browser itself sends a form, a page that comes to life takes nothing that would be gone with it", async ({
  page,
}) => {
  await signIn(page);
  await startService(page, await freshMachine("K4"));
  // Asked by the page itself: nothing is answered from outside while another page is on its way.
  const said: string[] = [];
  page.on("console", (message) => said.push(message.text()));
  await page.addInitScript(() =>
    document.addEventListener("DOMContentLoaded", () =>
      new MutationObserver(() => console.error(`Alive, out of use: ${document.body.inert}`)).observe(
        document.documentElement,
        { attributes: true, attributeFilter: ["data-live"] },
      ),
    ),
  );
  const scripts = await heldScripts(page);
  let answer = () => {};
  const arrive = new Promise<void>((r) => (answer = r));
  await page.route(/\/jobs\//, async (route) => {
    if (route.request().method() === "POST") await arrive;
    await route.continue();
  });
  await page.goto(page.url(), { waitUntil: "commit" });
  await page.getByLabel("Condition as it stands").fill("Pressed at once.");
  await page.getByRole("button", { name: "Save the condition" }).click({ noWaitAfter: true });
  scripts();
  await expect.poll(() => said).toEqual(["Alive, out of use: true"]);
  answer();
  await expect(page.getByText("Pressed at once.")).toBeVisible();
  await tickOff(page, "All set out");
  await expect(page.getByLabel("The gauge shows")).toBeVisible();
  await expect.poll(() => said.at(-1)).toBe("Alive, out of use: false");
});

test("what was chosen before the scripts were there is chosen, and asks for what belongs to it", async ({ page }) => {
  await signIn(page);
  await openMachine(page, await freshMachine("K4"));
  let scripts = await heldScripts(page);
  await page.goto(page.url(), { waitUntil: "commit" });
  const check = page.getByRole("radio", { name: "Pressure check" });
  await check.check();
  scripts();
  await alive(page);
  await expect(page.getByText("Spec, water, warm-up")).toBeHidden();
  await page.getByLabel("Complaint").fill("Loud.");
  await expect(check).toBeChecked();
  await expect(page.getByRole("button", { name: "Start the pressure check" })).toBeVisible();

  scripts = await heldScripts(page);
  await page.goto("/machines/new", { waitUntil: "commit" });
  await page.getByLabel("Model").selectOption("new");
  scripts();
  await expect(page.getByLabel("Maker")).toBeVisible();
});

test("a stream of news that was refused once comes back by itself", async ({ page, browser, baseURL }) => {
  let refused = 0;
  await page.route(/\/news\?/, (route) =>
    refused++ === 0 ? route.fulfill({ status: 503, body: "" }) : route.continue(),
  );
  await signIn(page);
  await startService(page, await freshMachine("K4"));
  await expect.poll(() => refused).toBeGreaterThan(1);
  const other = await browser.newPage({ baseURL: baseURL! });
  await signIn(other, TECHNICIAN);
  await other.goto(page.url());
  await other.getByLabel("Condition as it stands").fill("Seen from the other side.");
  await other.getByRole("button", { name: "Save the condition" }).click();
  await expect(page.getByText("Seen from the other side.")).toBeVisible();
  await other.close();
});

test("what is written before a page listens for news, or while its line is lost, is on it once it does", async ({
  page,
  context,
  browser,
  baseURL,
}) => {
  await signIn(page);
  await startService(page, await freshMachine("K4"));
  const sheet = page.url();
  const other = await browser.newPage({ baseURL: baseURL! });
  await signIn(other, TECHNICIAN);
  const writes = async (words: string) => {
    await other.goto(`${sheet}?at=look-over`);
    await other.getByLabel("Condition as it stands").fill(words);
    await other.getByRole("button", { name: "Save the condition" }).click();
    await expect(other.getByText(words)).toBeVisible();
  };
  // Slow scripts: the page is made, and its stream not asked for yet.
  const streams: Route[] = [];
  await page.route(/\/news\?/, (route) => (streams.push(route) === 1 ? undefined : route.continue()));
  await page.goto(`${sheet}?at=look-over`);
  await expect.poll(() => streams.length).toBe(1);
  await writes("Written while it came to life.");
  await expect(page.getByText("Written while it came to life.")).toBeHidden();
  await streams[0]!.continue();
  await expect(page.getByText("Written while it came to life.")).toBeVisible();

  // The browser takes a lost line up again by itself, and says from when on it heard nothing.
  await context.setOffline(true);
  await writes("Written out of reach.");
  await context.setOffline(false);
  await expect(page.getByText("Written out of reach.")).toBeVisible();
  await other.close();
});

test("where the answer to a save and the page after it are drawn in one go, nothing saved stands in the next form", async ({
  page,
}) => {
  await signIn(page);
  await toAsFound(page, await freshMachine("K4"));
  await read(page, "7.1");
  const turned = page.locator("[data-key=turn]");
  await turned.click();
  await expect(turned).toBeHidden();
  // As on a slow device: from a save until the page after it is there, nothing is drawn.
  await page.evaluate(() => {
    const ask = window.fetch;
    const post = MessagePort.prototype.postMessage;
    let held: (() => void)[] | null = null;
    MessagePort.prototype.postMessage = function (this: MessagePort, message: unknown) {
      const go = () => post.call(this, message);
      if (held) held.push(go);
      else go();
    };
    window.fetch = async (input, init) => {
      const { url, method } = new Request(input, init);
      const saving = method === "POST" && url.includes(".data");
      if (saving) held = [];
      const answer = await ask(input, init);
      if (!saving && url.includes(".data"))
        setTimeout(() => {
          const all = held ?? [];
          held = null;
          for (const go of all) go();
        }, 200);
      return answer;
    };
  });
  // What is saved asks for a turn next: the form it was typed in is gone with the same drawing.
  await read(page, "8.0");
  await turned.click();
  await expect(turned).toBeHidden();
  await expect(page.getByLabel("The gauge shows")).toHaveValue("");
  await read(page, "8.0");
});
