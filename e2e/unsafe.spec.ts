import { prepared, workOff } from "./prepared";
import { answerWith, asBuilt, atStation, criticalLine, expect, freshMachine, signIn, test, workLine } from "./workshop";

/** What nobody may be handed is said on every paper; the page’s head stays in sight; without a connection no sheet is lost. */

test("a boiler that leaks and a faulty safety valve: the signature is held, and marked out of use every paper says so first", async ({
  page,
}) => {
  await signIn(page);
  const jobId = await prepared(await freshMachine("K7"), ["work"], { workByHand: true });
  await page.goto(`/jobs/${jobId}`);
  const station = page.locator("[data-station-in-hand]");
  await atStation(page, "Work and parts");
  await criticalLine(page, {
    part: "Safety valve",
    act: "found faulty, machine taken out of use",
    why: "cracked at the seat",
  });
  await expect(station.getByRole("listitem").filter({ hasText: "machine taken out of use" })).toHaveCount(1);
  await asBuilt(page);
  await workOff(jobId, { stopAt: "leaks" });
  await page.goto(`/jobs/${jobId}?at=leaks`);
  await station.getByText("Leaks found").click();
  await station.getByLabel("Where").selectOption("boiler");
  await station.getByLabel("Side").selectOption("water");
  await station.getByLabel("Tried").selectOption("nothing");
  await station.getByLabel("After").selectOption("leaks");
  await station.getByRole("button", { name: "Save row" }).click();
  await expect(page.getByRole("table", { name: "Leaks found, rows" })).toContainText("still leaks");
  // Tight and leaking never stand beside each other.
  await station.getByRole("button", { name: "No leak on the water side" }).click();
  await expect(station.getByText(/A row above still leaks on this side/)).toBeVisible();
  await answerWith(page, "A leak is left on the water side");
  await workOff(jobId);
  await page.goto(`/jobs/${jobId}?at=sign`);
  await expect(station.getByText("This machine can’t be handed over as it is.")).toBeVisible();
  await page.getByRole("button", { name: "Sign the job" }).click();
  await expect(station.getByText(/Mend it, or mark the machine out of use/)).toBeVisible();
  await station.getByLabel(/^Mark it out of use/).check();
  await page.getByRole("button", { name: "Sign the job" }).click();
  const owner = (await page.getByRole("link", { name: /\/owner\// }).getAttribute("href"))!;
  const says = /Out of use\. Do not switch it on\. The boiler leaks under pressure.*Safety valve: found faulty/;
  await page.goto(owner);
  await expect(page.getByRole("alert")).toContainText(says);
  await page.goto(owner.replace("/owner/", "/card/"));
  await expect(page.getByRole("alert")).toContainText(says);
  const table = await (await page.request.get(`${owner}/csv`)).text();
  expect(table).toMatch(says);
});

test("nobody’s words pass for a part that is chosen: a technician is asked, and the report says what was answered", async ({
  page,
}) => {
  await signIn(page);
  const jobId = await prepared(await freshMachine("K9"), ["work"], { workByHand: true });
  await page.goto(`/jobs/${jobId}`);
  await atStation(page, "Work and parts");
  const station = page.locator("[data-station-in-hand]");
  for (const what of ["Safety-valve", "S/V ground in", "Sicherheitsventil gereinigt"]) {
    await workLine(page, { what, how: "cleaned", why: "leaked a little" });
    await expect(station.getByText(/^Is this about the safety valve\?/)).toBeVisible();
  }
  await station.getByLabel("Part or task").fill("Cover plate beside the safety valve");
  await station.getByLabel(/^It is about something else/).check();
  await station.getByRole("button", { name: "Done", exact: true }).click();
  await expect(station.getByRole("listitem").filter({ hasText: "(Said not to be about: safety valve.)" })).toHaveCount(
    1,
  );
});

test("the head of every page is in sight when it opens: by link, by reload, by back, on a phone too", async ({
  page,
}) => {
  await signIn(page);
  const top = () => page.evaluate(() => Math.round(window.scrollY));
  for (const size of [
    { width: 1280, height: 800 },
    { width: 390, height: 844 },
  ]) {
    await page.setViewportSize(size);
    await page.goto("/");
    await expect(page.locator("#main")).toBeVisible();
    for (const name of ["Register", "Kit", "Library"]) {
      await page.getByRole("navigation", { name: "Main" }).getByRole("link", { name }).click();
      await expect(page).toHaveURL(new RegExp(name, "i"));
      await expect(page.locator("#main")).toBeVisible();
      expect([name, await top()]).toEqual([name, 0]);
      await page.reload();
      expect([name, "reload", await top()]).toEqual([name, "reload", 0]);
    }
    await page.goBack();
    await expect(page).toHaveURL(/kit/);
    expect(["back", await top()]).toEqual(["back", 0]);
    await page.goto("/");
    expect(["bench", await top()]).toEqual(["bench", 0]);
  }
});

test("without a connection a line of work is kept, and the sheet stays", async ({ page, context }) => {
  await signIn(page);
  await page.goto(`/jobs/${await prepared(await freshMachine("K3"), ["work"], { workByHand: true })}`);
  await atStation(page, "Work and parts");
  await context.setOffline(true);
  await workLine(page, { what: "Group gasket", why: "hard, leaks" });
  await expect(page.getByText(/kept here and sent when the connection is back/).first()).toBeVisible();
  await expect(page.getByRole("heading", { name: "Work and parts" })).toBeVisible();
  await expect(page.getByRole("heading", { name: "No connection" })).toHaveCount(0);
  await context.setOffline(false);
  await expect(
    page
      .getByRole("list", { name: "Work and parts, recorded" })
      .getByRole("listitem")
      .filter({ hasText: "Group gasket" }),
  ).toHaveCount(1);
});
