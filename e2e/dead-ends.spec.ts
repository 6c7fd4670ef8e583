import { randomUUID } from "node:crypto";
import {
  atStation,
  begin,
  expect,
  freshMachine,
  LEAD,
  openMachine,
  read,
  signIn,
  startService,
  TECHNICIAN,
  test,
  tickOff,
  toAsFound,
} from "./workshop";

/** Work as it really goes: back, anew, otherwise. Nothing closes for good before the signature. */

test("a step is opened again after it closed: taken back, corrected, done anew", async ({ page }) => {
  await signIn(page);
  await startService(page, await freshMachine("K7"));
  await page.getByLabel("Condition as it stands").fill("Scratched at the left.");
  await page.getByRole("button", { name: "Save the condition" }).click();
  await page.getByRole("button", { name: "All set out" }).click();
  await atStation(page, "Brew pressure: as found");

  await page.getByRole("link", { name: "Tools", exact: true }).click();
  await atStation(page, "Tools");
  await page.getByRole("button", { name: "Undo: All set out" }).click();
  await expect(page.getByRole("button", { name: "All set out" })).toBeVisible();
  // It stays, struck through, with who and when.
  const struck = page.getByRole("list", { name: "All set out, recorded" }).getByRole("listitem");
  await expect(struck.locator(".line-through")).toHaveText("All set out");
  await expect(struck).toContainText(/undone, Ilka.* \d\d:\d\d/);
  await tickOff(page, "All set out");
  await atStation(page, "Brew pressure: as found");

  await page.getByRole("link", { name: "Look over", exact: true }).click();
  await atStation(page, "Look over");
  await page.getByRole("button", { name: /^Edit: Scratched/ }).click();
  await page
    .getByRole("textbox", { name: /^Condition/ })
    .first()
    .fill("Scratched at the right.");
  await page.getByRole("button", { name: "Save the change" }).click();
  await expect(page.locator("#sheet").getByText("Scratched at the right.").first()).toBeVisible();
  await page.reload();
  await atStation(page, "Look over");
});

test("what is being typed stays, whatever others write or clocks bring", async ({ page, context }) => {
  await signIn(page);
  await startService(page, await freshMachine("K7"));
  const other = await context.newPage();
  await other.goto(page.url());
  await page.getByLabel("Condition as it stands").fill("Half a sen");
  await other.getByLabel("Condition as it stands").fill("Sound.");
  await other.getByRole("button", { name: "Save the condition" }).click();
  await expect(other.getByRole("button", { name: "All set out" })).toBeVisible();
  // The news has come: the line of the other page stands here, and so does what is typed.
  await expect(page.locator("#sheet").getByText("Sound.").first()).toBeVisible();
  await expect(page.getByLabel("Condition as it stands")).toHaveValue("Half a sen");
  await atStation(page, "Look over");
  await other.close();
});

test("a job started by mistake is withdrawn with its reason, and reopened with all that was recorded", async ({
  page,
}) => {
  await signIn(page);
  const serial = await freshMachine("K7");
  await startService(page, serial);
  await page.getByLabel("Condition as it stands").fill("Sound.");
  await page.getByRole("button", { name: "Save the condition" }).click();
  await expect(page.getByRole("button", { name: "All set out" })).toBeVisible();
  const sheet = page.url().split("?")[0]!;
  await page.getByRole("button", { name: "Withdraw job" }).click();
  await page.getByRole("dialog").getByRole("button", { name: "Withdraw the job" }).click();
  await expect(page.getByText("Say why the job is withdrawn: it stays on record.")).toBeVisible();
  await page.getByRole("dialog").getByLabel("Reason").fill("Wrong machine on the label.");
  await page.getByRole("dialog").getByRole("button", { name: "Withdraw the job" }).click();
  await expect(page.getByText("Wrong machine on the label.")).toBeVisible();
  await openMachine(page, serial);
  await expect(page.getByRole("heading", { name: "Start a job" })).toBeVisible();
  await page.goto(sheet);
  await page.getByRole("button", { name: "Reopen the job" }).click();
  await expect(page.getByRole("button", { name: "Withdraw job" })).toBeVisible();
  await expect(page.getByText("Sound.").first()).toBeVisible();
});

test("isolation tap: the screw is locked until it is closed, and as left waits until it is open again", async ({
  page,
}) => {
  await signIn(page);
  await toAsFound(page, await freshMachine("K8"));
  await read(page, "11.0");
  await read(page, "11.0");
  const covers = page.getByRole("button", { name: "Off, unplugged: the cover is off" });
  const next = page.getByRole("link", { name: /^Next: / });
  await expect(covers.or(next).first()).toBeVisible();
  if (!(await covers.isVisible())) await next.click();
  await covers.click();
  await atStation(page, "Brew pressure: adjust");
  await expect(page.locator("[data-key=turn]")).toHaveCount(0);
  await tickOff(page, "Isolation tap before the group: closed");
  await page.locator("[data-key=turn]").click();
  // Against the closed tap only a gauge on the pump’s side sees the pump.
  await expect(page.getByLabel("The gauge shows")).toBeVisible();
  const move = page.locator("#gauge").getByRole("region", { name: "Next move" });
  const place = page.locator("#gauge [name=place]");
  await expect(place).toHaveValue("pump");
  await read(page, "9.0");
  // The group’s gauge is in hand again once it sees the pump again; what the closed tap showed is not as left.
  await atStation(page, "Brew pressure: as left");
  await expect(move).toContainText("Open the tap, then read at the group.");
  await tickOff(page, "Isolation tap before the group: open again");
  await expect(move).toContainText("Read at the group.");
  await expect(place).toHaveValue("group");
});

test("values wanted on one visit stand over the spec, with their reason", async ({ page }) => {
  await signIn(page);
  await begin(page, await freshMachine("K7"), "Pressure check");
  await page.getByRole("button", { name: "Wanted values" }).click();
  const window = page.getByRole("dialog");
  const brew = window.locator("form").filter({ has: page.getByLabel(/^Brew pressure at the group/) });
  await brew.getByLabel(/^Brew pressure at the group/).fill("8");
  await brew.getByRole("button", { name: "Save" }).click();
  await expect(window.getByText("Type a range, like “18 to 20”.")).toBeVisible();
  await brew.getByLabel(/^Brew pressure at the group/).fill("8.0 to 8.6");
  await brew.getByLabel("Reason").fill("The owner likes it soft.");
  await brew.getByRole("button", { name: "Save" }).click();
  // Saved, the window closes by itself.
  await expect(window).toBeHidden();
  await page.getByRole("button", { name: "Wanted values: own" }).click();
  await expect(window.getByText(/Now 8\.0 to 8\.6, this visit’s own/)).toBeVisible();
});

test("a kind brings its usual card and asks before it replaces a typed figure; a technician’s model is marked for a lead", async ({
  page,
}) => {
  await signIn(page, TECHNICIAN);
  await page.goto("/library/models/new");
  await expect(page.getByText("marked to be looked over by a lead")).toBeVisible();
  const volts = page.getByLabel("Volts");
  const descaling = page.getByLabel("Descaling", { exact: true });
  await page.getByLabel("Kind").selectOption("K8");
  await expect(descaling).toHaveValue("dismantle-only");
  await page.getByLabel("Kind").selectOption("K11");
  await expect(descaling).not.toHaveValue("dismantle-only");
  await volts.fill("117");
  await page.getByLabel("Kind").selectOption("K8");
  const asks = page.getByRole("alertdialog", { name: "Replace the figures" });
  await asks.getByRole("button", { name: "Keep what I typed" }).click();
  await expect(volts).toHaveValue("117");
  await page.getByLabel("Kind").selectOption("K11");
  await asks.getByRole("button", { name: "Replace with usual values" }).click();
  await expect(volts).not.toHaveValue("117");
  const name = `Found ${randomUUID().slice(0, 8)}`;
  await page.getByLabel("Maker").fill("Tryout");
  await page.getByLabel("Name", { exact: true }).fill(name);
  await page.getByRole("button", { name: /^(Save|Add)/ }).click();
  await expect(page).not.toHaveURL(/new$/);
  await page.goto("/library");
  await expect(
    page
      .getByRole("listitem")
      .filter({ hasText: name })
      .or(page.getByRole("row").filter({ hasText: name }))
      .first(),
  ).toContainText(/look/);
  await signIn(page, LEAD);
});
