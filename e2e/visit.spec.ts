import {
  atStation,
  begin,
  expect,
  freshMachine,
  openMachine,
  read,
  signIn,
  startJob,
  test,
  tickOff,
  toAsFound,
} from "./workshop";

/** A visit is what it is for, and it changes while it goes on. */

test("a stuck valve is renewed after its fault was taken: as found stays, nothing blocks, the owner reads both", async ({
  page,
}) => {
  await signIn(page);
  await toAsFound(page, await freshMachine("K4"));
  await read(page, "11.4", { returned: "none" });
  await page.getByRole("button", { name: "End adjusting with this fault" }).click();
  await expect(page.getByText("ended with a fault", { exact: true })).toBeVisible();
  await page.locator("#sheet").getByRole("link", { name: "Brew pressure: adjust" }).click();
  await atStation(page, "Brew pressure: adjust");
  const repair = page.getByLabel("What was renewed or freed");
  await page.getByRole("button", { name: "Save repair" }).click();
  await expect(page.getByText("Say what was renewed or freed: the report shows it.")).toBeVisible();
  await repair.fill("Valve renewed, seat cleaned");
  await page.getByRole("button", { name: "Save repair" }).click();
  const log = page.getByRole("list", { name: "Readings and adjustments", includeHidden: true });
  await expect(log).toContainText("Valve renewed, seat cleaned");
  await read(page, "9.0");
  await atStation(page, "Sign");
  const verdict = page.getByRole("button", { name: "in spec: what that means" });
  await verdict.click();
  await expect(page.getByRole("dialog", { name: "What “in spec” means" })).toContainText("Inside the limits");
  await page.keyboard.press("Escape");
  await expect(verdict).toBeFocused();
  await page.getByRole("button", { name: "Sign the job" }).click();
  await page.getByRole("link", { name: /\/owner\// }).click();
  await expect(page.getByText("Valve renewed, seat cleaned")).toBeVisible();
  await expect(page.getByText(/11\.5 → 9\.[12] bar/)).toBeVisible();
});

test("put together for one thing, it asks for nothing else; it grows, and shrinks with a reason", async ({ page }) => {
  await signIn(page);
  await openMachine(page, await freshMachine("K3"));
  await page.getByRole("radio", { name: "Put together" }).check();
  await page.getByRole("button", { name: "Start the visit" }).click();
  await expect(page.getByText("Say what the visit is for: one thing at least.")).toBeVisible();
  await page.getByRole("checkbox", { name: /^Clean/ }).check();
  await page.getByRole("button", { name: "Start the visit" }).click();
  await page.waitForURL(/\/jobs\//);
  const stations = page.locator("#sheet ol > li h3");
  await expect(stations).toHaveText(["Look over", "Tools", "Clean", "Sign"]);
  await page.getByLabel("Condition as it stands").fill("Sound.");
  await page.getByRole("button", { name: "Save the condition" }).click();
  await tickOff(page, "All set out");
  await page.getByRole("button", { name: "Water came back into the tray" }).click();
  await expect(page.getByText("Back-flushed, return watched: Water came back into the tray")).toBeVisible();

  const change = page.getByRole("button", { name: "Scope", exact: true });
  await change.click();
  const dialog = page.getByRole("dialog", { name: "What this visit is for" });
  await dialog.getByRole("checkbox", { name: /^Water/ }).check();
  await dialog.getByRole("button", { name: "Change the visit" }).click();
  await expect(dialog).toBeHidden();
  await expect(stations).toHaveText(["Look over", "Tools", "Water", "Clean", "Sign"]);
  await expect(page.getByText("Water, clean since")).toBeVisible();

  await change.click();
  await dialog.getByRole("checkbox", { name: /^Clean/ }).uncheck();
  await dialog.getByRole("button", { name: "Change the visit" }).click();
  await expect(dialog.getByText("Clean: begun already.")).toBeVisible();
  await dialog.getByLabel("Reason").fill("No cleaner left.");
  await dialog.getByRole("button", { name: "Change the visit" }).click();
  await expect(stations).toHaveText(["Look over", "Tools", "Water", "Sign"]);
});

test("a machine of three groups: each purged, each with its meter and its buttons", async ({ page }) => {
  await signIn(page);
  const serial = await freshMachine("K11", { card: { groups: 3 } });
  await begin(page, serial, "Handover", { skips: ["steam"] });
  await atStation(page, "Buttons and meters: as found");
  for (const group of [1, 2, 3])
    await expect(page.getByRole("region", { name: `Double button, group ${group}, as found` })).toBeVisible();
  await page.getByRole("link", { name: /^Measure.*Double button, group 3/ }).click();
  await expect(page.getByRole("heading", { name: "Double button, group 3", exact: true })).toBeVisible();
  await read(page, "36.2", { field: "In the cup" });
  await expect(page.getByRole("region", { name: "Double button, group 3, as found" })).toContainText("36.2 g");
  await expect(page.getByText("Meter factor, group 3")).toBeVisible();
});

test("a service that ends in a handover is one visit", async ({ page }) => {
  await signIn(page);
  await startJob(page, await freshMachine("K7"), "Service");
  await page.getByRole("button", { name: "Scope", exact: true }).click();
  const dialog = page.getByRole("dialog", { name: "What this visit is for" });
  for (const scope of ["Shots", "Hand over"])
    await dialog.getByRole("checkbox", { name: new RegExp(`^${scope}`) }).check();
  await dialog.getByRole("button", { name: "Change the visit" }).click();
  const stations = page.locator("#sheet ol > li h3");
  await expect(stations.filter({ hasText: "Hand over" })).toHaveCount(1);
  for (const once of ["Look over", "Machine warm", "Sign"])
    await expect(stations.filter({ hasText: once })).toHaveCount(1);
});
