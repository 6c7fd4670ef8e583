import type { Page } from "@playwright/test";
import { prepared, workOff } from "./prepared";
import {
  answerWith,
  asBuilt,
  atStation,
  criticalLine,
  expect,
  expectAccessible,
  freshMachine,
  openMachine,
  signIn,
  startJob,
  test,
  tickOff,
  workLine,
  ownersPage,
} from "./workshop";

/** The last third of a visit: work and parts under their rules, the shelf, faults left in, and what the next visit asks. */

const station = (page: Page) => page.locator("[data-station-in-hand]");
const recorded = (page: Page) => page.getByRole("list", { name: "Work and parts, recorded" }).getByRole("listitem");

/** To a step by its line on the sheet. */
const to = (page: Page, title: string) =>
  page.locator("#sheet").getByRole("link", { name: title, exact: true }).first().click();

test("a K9 brought back: six parts, a “cleaned” safety valve refused, a licensed one taken; the owner reads all of it", async ({
  page,
}) => {
  await signIn(page);
  const jobId = await prepared(await freshMachine("K9"), ["work"], { workByHand: true });
  await page.goto(`/jobs/${jobId}`);
  await atStation(page, "Work and parts");
  await workLine(page, { what: "Safety valve", how: "cleaned", why: "lapped and refitted" });
  await expect(station(page).getByText(/^Is this about the safety valve\? Then choose it above/)).toBeVisible();
  await expect(station(page).getByLabel("Why")).toHaveValue("lapped and refitted");
  await criticalLine(page, { part: "Safety valve", why: "cracked at the seat" });
  // A licence is asked for where it is typed.
  await expect(station(page).getByText(/licensed work where local rules say so/)).toBeVisible();
  await station(page).getByLabel("Done by, where a licence is asked for").fill("Orrin Feld");
  await station(page).getByLabel("Licence", { exact: true }).fill("PV 2217");
  await expectAccessible(page);
  await station(page)
    .getByRole("group", { name: "What came of it" })
    .getByRole("button", { name: "Save", exact: true })
    .click();
  await expect(recorded(page)).toHaveCount(1);
  await expect(recorded(page).first()).toContainText("safety-critical. By Orrin Feld, licence PV 2217.");
  for (const [i, [what, why]] of (
    [
      ["Heating element", "2 MΩ at 500 V"],
      ["Pressurestat", "welded contact"],
      ["Steam spindle seals", "weeps"],
      ["Wiring, mains cord or earth", "brittle"],
      ["Hose", "perished"],
    ] as const
  ).entries()) {
    if (i === 0 || i === 3) await criticalLine(page, { part: what, why });
    else await workLine(page, { what, why });
    await expect(recorded(page)).toHaveCount(i + 2);
  }
  // Usual lines fill in the form.
  await station(page).getByText("Usual on this kind").click();
  await station(page).getByRole("button", { name: "Group gasket: renewed" }).click();
  await station(page).getByLabel("Why").fill("owner saves it for later");
  await station(page).getByRole("button", { name: "Declined", exact: true }).click();
  await expect(recorded(page)).toHaveCount(7);
  await tickOff(page, /Safety valve OK or replaced/, /Element and wiring measured/);
  await workOff(jobId);
  await page.reload();
  await atStation(page, "Sign");
  await ownersPage(page);
  const lines = page.getByRole("region", { name: "Work and parts" }).getByRole("listitem");
  await expect(lines).toHaveCount(7);
  await expect(lines.first()).toContainText("Safety valve: replaced by type, cracked at the seat.");
  await expect(lines.last()).toHaveText(
    "Group gasket: to be renewed, owner saves it for later. Declined by the owner.",
  );
  await expectAccessible(page);
});

test("a fault left in stands on the owner’s page, and the next visit asks for it before anything is touched", async ({
  page,
}) => {
  await page.setViewportSize({ width: 390, height: 844 });
  await signIn(page);
  const serial = await freshMachine("K3");
  await page.goto(`/jobs/${await prepared(serial, ["work"], { workByHand: true })}`);
  await atStation(page, "Work and parts");
  await station(page).getByRole("button", { name: "Nothing renewed, nothing repaired" }).click();
  await asBuilt(page);
  await to(page, "Work and parts");
  await station(page).getByText("Faults left in").click();
  await station(page).getByLabel("What stays in").fill("Pump hums when it is cold");
  await station(page).getByLabel("Since when").fill("spring");
  await station(page).getByLabel("Comes and goes").check();
  await station(page).getByLabel("What the owner may try").fill("warm it up for ten minutes first");
  await station(page).getByRole("button", { name: "Save the fault" }).click();
  const said =
    "Pump hums when it is cold, since spring, comes and goes. Left in: the owner wishes it so. You may try: warm it up for ten minutes first.";
  await expect(station(page).getByText(said)).toBeVisible();
  await atStation(page, "Leak check");
  await answerWith(page, "No leak on the water side");
  await atStation(page, "Sign");
  await ownersPage(page);
  await expect(page.getByText(said)).toBeVisible();

  await openMachine(page, serial);
  await expect(page.getByRole("region", { name: "Left in, or put off" })).toContainText(said);
  await startJob(page, serial, "Handover");
  await expect(page.getByText("Still there? Pump hums when it is cold")).toBeVisible();
  await station(page).getByRole("button", { name: "Mended on this visit" }).click();
  await expect(page.getByText("Still there? Pump hums when it is cold: Mended on this visit")).toBeVisible();
});

test("what the visit found is a line with one tap; from the shelf, and never below nothing without a word", async ({
  page,
}) => {
  await signIn(page);
  const name = `Tank seat seal ${Date.now()}`;
  await page.goto("/parts");
  const add = page.getByRole("region", { name: "Put a part on the list" });
  await add.getByLabel("Name").fill(name);
  await add.getByLabel("On the shelf").fill("-1");
  await add.getByRole("button", { name: "Put it on the list" }).click();
  await expect(add.getByText("On the shelf: from 0 to 1,000,000.")).toBeVisible();
  await add.getByLabel("On the shelf").fill("1");
  await add.getByLabel("Order at").fill("1");
  await add.getByRole("button", { name: "Put it on the list" }).click();
  await expect(page.getByRole("region", { name: "To order" })).toContainText(`${name} : 1 left`);
  await expectAccessible(page);

  await page.goto(`/jobs/${await prepared(await freshMachine("K3"), ["work"], { workByHand: true })}`);
  await atStation(page, "Work and parts");
  await workLine(page, { what: "Tank seat", why: "dripped", outcome: "Decide later" });
  await expect(station(page).getByText("To be decided: Tank seat.")).toBeVisible();
  await to(page, "Leak check");
  await station(page).getByText("Leaks found").click();
  await station(page).getByLabel("Where").selectOption("hose");
  // Nothing is answered for the hand: what was not chosen is asked for.
  await station(page).getByRole("button", { name: "Save row" }).click();
  await expect(station(page).getByText("Side: choose one.")).toBeVisible();
  await station(page).getByLabel("Side").selectOption("water");
  await station(page).getByLabel("Tried").selectOption("nothing");
  await station(page).getByLabel("After").selectOption("leaks");
  await station(page).getByRole("button", { name: "Save row" }).click();
  await expect(page.getByRole("table", { name: "Leaks found, rows" })).toContainText("still leaks");
  await to(page, "Work and parts");
  const found = page.getByRole("region", { name: "Found on this visit" });
  await found.getByRole("button", { name: /^Done.*Hose or fitting/ }).click();
  await expect(
    recorded(page).filter({ hasText: "Hose or fitting: renewed, leaks. Seen: Leak check. Done." }),
  ).toHaveCount(1);
  await expect(found).toBeHidden();

  await recorded(page).filter({ hasText: "Tank seat" }).getByRole("button", { name: /^Edit/ }).click();
  await expect(station(page).getByLabel("Part or task")).toHaveValue("Tank seat");
  await station(page).getByText("More: seen, shelf").click();
  await station(page)
    .getByLabel("From the shelf")
    .selectOption({ label: `${name}  (1)` });
  await station(page).getByLabel("How many").fill("2");
  await station(page).getByRole("button", { name: "Done", exact: true }).click();
  await station(page)
    .getByText(/1 is on the shelf by the list/)
    .click();
  await station(page).getByRole("button", { name: "Done", exact: true }).click();
  // Nothing is left to be decided: the sheet goes on.
  await asBuilt(page);
  await atStation(page, "Leak check");
  await to(page, "Work and parts");
  await expect(recorded(page).filter({ hasText: `(2 × ${name})` })).toHaveCount(1);
  await page.goto("/parts");
  await expect(page.getByRole("region", { name: "To order" })).toContainText(`${name} : 0 left`);
});

test("the parts list goes out as a table and comes in again; what is wrong is told by line, and nothing is taken", async ({
  page,
}) => {
  await signIn(page);
  await page.goto("/parts");
  const name = `Valve ${Date.now()}`;
  const section = page.getByRole("region", { name: "As a table" });
  await section.getByText("Read a table in").click();
  const table = section.getByLabel("Or pasted here");
  await table.fill(`name;number;stock;price\n${name};V-1;two;4,50`);
  await section.getByRole("button", { name: "Read it in" }).click();
  await expect(section.getByText("Line 2, stock: “two” is not a whole number from 0 to 1,000,000.")).toBeVisible();
  await expect(table).toHaveValue(new RegExp(name));
  await expectAccessible(page);
  // The corrected file stands in the field, to be looked at before it is sent.
  const file = {
    name: "parts.csv",
    mimeType: "text/csv",
    buffer: Buffer.from(`name;number;stock;price\n${name};V-1;2;4,50`),
  };
  await section.getByLabel("A file").setInputFiles(file);
  await expect(table).toHaveValue(new RegExp(`${name};V-1;2;4,50`));
  await section.getByRole("button", { name: "Read it in" }).click();
  await expect(page.getByRole("listitem").filter({ hasText: `${name} V-1` })).toContainText("GBP 4.50");
  const text = await (await page.request.get("/parts/file")).text();
  expect(text).toContain(`${name},V-1,,2,,4.5`);
});
