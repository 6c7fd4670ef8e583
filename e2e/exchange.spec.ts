import { execFileSync } from "node:child_process";
import { randomUUID } from "node:crypto";
import { readFileSync } from "node:fs";
import { join } from "node:path";
import { parse } from "csv-parse/sync";
import { getDocument } from "pdfjs-dist/legacy/build/pdf.mjs";
import { expect, expectAccessible, freshMachine, openBench, signIn, startJob, test, surely } from "./workshop";

/** Records leave and come back, by the screen. */

test("an owner’s machine is exported from its page, and the file opens elsewhere", async ({ page }, info) => {
  const serial = await freshMachine("K7");
  await signIn(page);
  await page.goto(`/machines/serial/${serial}`);
  await page.getByText("Export this machine’s records").click();
  const coming = page.waitForEvent("download");
  await page.getByRole("button", { name: "Tables (CSV)" }).click();
  const file = await coming;
  expect(file.suggestedFilename()).toMatch(/^try-[0-9a-f]+-tables-\d{4}-\d{2}-\d{2}\.zip$/);
  const zip = join(info.outputDir, "tables.zip");
  await file.saveAs(zip);
  await expect(page.getByText("Complete", { exact: true })).toBeVisible();
  execFileSync("unzip", ["-q", zip, "-d", info.outputDir]);
  const rows = parse(readFileSync(join(info.outputDir, "machines.csv")), { bom: true, columns: true }) as {
    serial: string;
  }[];
  expect(rows.map((r) => r.serial)).toEqual([serial]);
});

/** Five years of one workshop’s spreadsheet, as such are: a German head here and there, commas, slips, one row twice. */
function fiveYears(serials: readonly string[]): { rows: string[]; visits: number } {
  const rows = ["Datum;Serial no.;Druck vorher;Pressure after (bar);Boiler (bar);Technician;Arbeit;Invoice"];
  for (let year = 2021; year <= 2025; year++)
    for (const [i, serial] of serials.entries())
      rows.push(
        `${14 + i}.${1 + ((year + 3 * i) % 12)}.${year};${serial};${(9.4 + (year % 3) / 5).toFixed(1)};9,${i};1,0${i};Orrin;"gasket; screen";${rows.length}`.replace(
          /;(\d)\.(\d);/,
          ";$1,$2;",
        ),
      );
  return { rows, visits: rows.length - 1 };
}
const csv = (rows: readonly string[]) => ({
  name: "visits.csv",
  mimeType: "text/csv",
  buffer: Buffer.from(rows.join("\r\n"), "latin1"),
});

test("five years of a spreadsheet come in: what is wrong is seen and mended, and the machine’s page shows the years", async ({
  page,
}) => {
  const serials = [await freshMachine("K7"), await freshMachine("K7")];
  const { rows, visits } = fiveYears(serials);
  const messy = [...rows, rows[3]!];
  messy[2] = messy[2]!.replace(/;9,\d;1/, ";9,,0;1");
  messy[4] = messy[4]!.replace(/^\d+\.\d+\./, "31.2.");
  messy[6] = messy[6]!.replace(serials[1]!, `${serials[1]}X`);
  await openBench(page);
  await page.getByRole("link", { name: /Settings|Ilka/ }).click();
  await page.getByRole("link", { name: "Export and import" }).click();
  await page.getByLabel("File").setInputFiles(csv(messy));
  await page.getByRole("button", { name: "Send the file" }).click();
  await expect(page.getByRole("heading", { name: "Import of visits.csv" })).toBeVisible();
  await expect(page.getByLabel("“Druck vorher” is")).toHaveValue("opv.as-found");
  await expect(page.getByRole("region", { name: "Table of the first rows" })).toContainText(serials[0]!);
  await expectAccessible(page);
  await page.getByRole("button", { name: "Check all rows" }).click();
  await expect(page.getByRole("heading", { name: "3 rows can’t be imported as they are" })).toBeVisible();
  const wrong = page.getByRole("region", { name: "What is wrong, line by line" });
  for (const [line, said] of [
    ["3", "“9,,0” is not a number"],
    ["5", "There is no such day"],
    ["7", "No machine here has this serial"],
  ] as const)
    await expect(
      wrong.getByRole("row").filter({ has: page.getByRole("cell", { name: line, exact: true }) }),
    ).toContainText(said);
  await expectAccessible(page);
  // One is mended on the spot, by keyboard; a machine that is none is said so.
  const meant = page.getByLabel(`“${serials[1]}X”, 1 row, is`);
  await meant.fill("NO SUCH");
  await meant.press("Tab");
  await page.getByRole("button", { name: "Check again" }).press("Enter");
  await expect(page.getByText("No machine here has this serial either.")).toBeVisible();
  await meant.fill(serials[1]!);
  await page.getByRole("button", { name: "Check again" }).press("Enter");
  await expect(page.getByRole("heading", { name: "2 rows can’t be imported as they are" })).toBeVisible();
  await page.getByRole("button", { name: `Import the ${visits - 2} rows in order, leave out 2` }).click();
  await expect(page.getByText(`Imported: ${visits - 2} visits.`)).toBeVisible();

  // The mended file: only what was left out comes in.
  await page.getByRole("link", { name: "Another file" }).click();
  await page.getByLabel("File").setInputFiles(csv(rows));
  await page.getByRole("button", { name: "Send the file" }).click();
  await page.getByRole("button", { name: "Check all rows" }).click();
  await expect(page.getByRole("heading", { name: "2 rows to import" })).toBeVisible();
  await page.getByRole("button", { name: "Import 2 rows" }).click();
  await expect(page.getByText("Imported: 2 visits.")).toBeVisible();

  await page.goto(`/machines/serial/${serials[1]}`);
  for (const year of ["2021", "2022", "2023", "2024", "2025"])
    await expect(
      page.getByRole("listitem").filter({ hasText: "from visits.csv" }).filter({ hasText: year }),
    ).toHaveCount(1);
  await expect(page.getByRole("img", { name: /Brew pressure at the group.* 10 readings from before/ })).toBeVisible();
});

test("a machine goes out as JSON, and the same file in again: all of it is here; changed since, it is asked whose is right", async ({
  page,
}, info) => {
  const serial = await freshMachine("K7");
  await signIn(page);
  await page.goto(`/machines/serial/${serial}`);
  await page.getByText("Export this machine’s records").click();
  const coming = page.waitForEvent("download");
  await page.getByRole("button", { name: "JSON, with photos" }).click();
  const zip = join(info.outputDir, "records.zip");
  await (await coming).saveAs(zip);
  const machinePage = page.url();
  const send = async () => {
    await page.goto("/records");
    await page.getByLabel("File").setInputFiles(zip);
    await page.getByRole("button", { name: "Send the file" }).click();
  };
  await send();
  await expect(page.getByRole("heading", { name: "0 new records" })).toBeVisible();
  await expectAccessible(page);
  await page.getByRole("button", { name: "Close: all of it is here" }).click();
  await expect(page.getByText("Imported: 0 records.")).toBeVisible();

  await page.goto(`${machinePage}/edit`);
  await page.getByLabel("Coffee", { exact: true }).fill("Lighthouse blend");
  await page.getByRole("button", { name: "Save" }).click();
  await expect(page.getByRole("heading", { name: "History" })).toBeVisible();
  await send();
  await expect(page.getByText("coffee: here Lighthouse blend, in the file nothing")).toBeVisible();
  await expectAccessible(page);
  await page.getByLabel("As in the file").check();
  await page.getByRole("button", { name: "Keep these choices" }).click();
  await page.getByRole("button", { name: "Import 1 record" }).click();
  await expect(page.getByText("Imported: 1 record.")).toBeVisible();
  await page.goto(machinePage);
  await expect(page.getByText("Lighthouse blend")).toHaveCount(0);
});

test("an address for a calendar is made, read without signing in, and withdrawn", async ({
  page,
  playwright,
  baseURL,
}) => {
  await signIn(page);
  await page.goto("/records");
  await page.getByRole("button", { name: "Make an address" }).click();
  const made = page.locator("input[readonly]").first();
  await expect(made).toHaveValue(/\/calendar\/[\w-]{32}\.ics$/);
  await expectAccessible(page);
  const path = new URL(await made.inputValue()).pathname;
  const stranger = await playwright.request.newContext({ baseURL: baseURL! });
  const answer = await stranger.get(path);
  expect([answer.status(), answer.headers()["content-type"]]).toEqual([200, "text/calendar; charset=utf-8"]);
  expect(await answer.text()).toMatch(/^BEGIN:VCALENDAR\r\n/);
  await surely(page.getByRole("listitem").filter({ hasText: "Made" }).first(), "Withdraw", "Withdraw this address");
  await expect.poll(async () => (await stranger.get(path)).status()).toBe(404);
  await stranger.dispose();
});

/** A logger’s file of one shot, as such are: thousandths of a second, psi, decimal commas, a column of its own. */
function logged(lines = 280): string[] {
  const comma = (value: number, digits: number) => value.toFixed(digits).replace(".", ",");
  return [
    "Elapsed (ms);Druck (psi);Weight (g);Goal;Note",
    ...Array.from({ length: lines }, (_, i) => {
      const t = i / 10;
      const psi = t < 4 ? 32 * t : t < 26 ? 130.5 : 0;
      return `${i * 100};${comma(psi, 1)};${comma(Math.max(0, Math.min(t, 26) - 6) * 1.8, 1)};9;`;
    }),
  ];
}

test("a logger’s trace of a shot comes into the shots: columns seen and changed, what is wrong said, then drawn", async ({
  page,
}) => {
  await signIn(page);
  await startJob(page, await freshMachine("K7"), "Service");
  const jobId = new URL(page.url()).pathname.split("/").at(-1)!;
  await page.goto(`/jobs/${jobId}/shots`);
  await page.getByRole("link", { name: "Add a trace from a logger" }).click();
  const file = page.getByLabel("CSV file of one shot");
  const send = async (name: string, text: string) => {
    await file.setInputFiles({ name, mimeType: "text/csv", buffer: Buffer.from(text, "utf16le") });
    await page.getByRole("button", { name: "Read the file" }).click();
  };
  await send("empty.csv", "\uFEFF");
  await expect(page.getByText("Choose the logger’s file.")).toBeVisible();
  await send("back.csv", `\uFEFF${[...logged(), "100;9;9;9;"].join("\r\n")}`);
  await expect(page.getByText("Line 282: the time goes back. Leave one shot in the file.")).toBeVisible();
  await send("shot.csv", `\uFEFF${logged().join("\r\n")}`);
  await expect(page.getByText("the time goes back")).toHaveCount(0);
  await expect(page.getByLabel("Elapsed (ms)")).toHaveValue("time.ms");
  await expect(page.getByLabel("Druck (psi)")).toHaveValue("pressure.psi");
  await expect(page.getByLabel("Goal")).toHaveValue("");
  // 130.5 psi is 8.998 bar: 1 psi = 6.894 757 kPa (NIST SP 811, B.8).
  await expect(page.getByRole("img", { name: "Pressure: from 0.0 to 9.0 bar over 28 s." })).toBeVisible();
  await page.getByLabel("Druck (psi)").selectOption("Pressure, bar");
  await expect(page.getByText("can’t be a pressure of a shot. Check its unit.")).toBeVisible();
  await page.getByRole("button", { name: "Save trace" }).click();
  await expect(page.getByRole("alert").or(page.locator("#trace-column-error"))).toContainText("Check its unit.");
  await page.getByLabel("Druck (psi)").selectOption("Pressure, psi");
  await expect(page.getByRole("img", { name: /^Weight/ })).toBeVisible();
  await expectAccessible(page);
  await page.getByLabel("Which shot it is of").press("Tab");
  await page.keyboard.press("Enter");
  await expect(page).toHaveURL(new RegExp(`/jobs/${jobId}/shots\\?trace=`));
  await expect(page.getByRole("img", { name: "Pressure: from 0.0 to 9.0 bar over 28 s." })).toBeVisible();
  await expect(page.getByText("shot.csv, of no shot here")).toBeVisible();
  await expect(page.getByText("6.3 s")).toBeVisible();
  // Another beside it: the newest is shown, and the first can be picked.
  await page.getByRole("link", { name: "Add a trace from a logger" }).click();
  await send("second.csv", `\uFEFF${logged(200).join("\r\n")}`);
  await page.getByRole("button", { name: "Save trace" }).click();
  await expect(page.getByRole("img", { name: /over 20 s/ }).first()).toBeVisible();
  await page.getByRole("link", { name: "shot.csv, of no shot here" }).click();
  await expect(page.getByRole("img", { name: /over 28 s/ }).first()).toBeVisible();
});

test("labels of machines as PDF, for a sheet of which some are used", async ({ page }, info) => {
  await signIn(page);
  await page.goto("/labels");
  for (const n of [0, 1, 2]) await page.getByRole("checkbox").nth(n).check();
  await page.getByRole("button", { name: "Make the sheet" }).click();
  await page.getByLabel("Sheet of labels").selectOption("Letter, 30 labels of 2⅝ × 1 in");
  await page.getByLabel("Labels used already").fill("29");
  const coming = page.waitForEvent("download");
  await page.keyboard.press("Enter");
  const file = await coming;
  expect(file.suggestedFilename()).toBe("labels.pdf");
  const path = join(info.outputDir, "labels.pdf");
  await file.saveAs(path);
  const pdf = await getDocument({ data: new Uint8Array(readFileSync(path)), verbosity: 0 }).promise;
  // One on the label that is left, two on another sheet.
  expect(pdf.numPages).toBe(2);
});

test("a register comes in from a spreadsheet: columns and models seen, faults by line, mended, and nothing twice", async ({
  page,
}) => {
  const mark = randomUUID().slice(0, 8);
  const rows = [
    "S/N;Maker;Model;Customer;Location;Town;Installed;Phone",
    `R-${mark}-1;Brandvik;Skerry;Sheet ${mark};Front bar;Saltby;3.5.2024;+44 1632 960100`,
    `R-${mark}-2;Ferrow;Gannet ${mark};Sheet ${mark};Back bar;Saltby;14.5.2024;see office`,
  ];
  const send = async (lines: readonly string[]) => {
    await page
      .getByLabel("CSV file")
      .setInputFiles({ name: "machines.csv", mimeType: "text/csv", buffer: Buffer.from(lines.join("\n"), "latin1") });
    await page.getByRole("button", { name: "Read the file" }).click();
  };
  await signIn(page);
  await page.goto("/register");
  await page.getByRole("link", { name: "From a spreadsheet" }).click();
  await send(rows);
  await expect(page.getByLabel("S/N")).toHaveValue("serial");
  await expect(page.getByLabel("Customer")).toHaveValue("owner");
  const faults = page.getByRole("region", { name: "Faults by line" });
  await expect(faults.getByRole("row")).toHaveCount(2);
  await expect(faults).toContainText("see office");
  await expectAccessible(page);
  await page.getByRole("button", { name: /^Add 1 to the register/ }).click();
  await expect(page.getByText("Rows are wrong still. Nothing was stored.")).toBeVisible();
  await send(rows.map((r) => r.replace("see office", "")));
  await expect(faults).toHaveCount(0);
  await page.getByRole("button", { name: /^Add 1 to the register/ }).click();
  await expect(page.getByText("Say of each model what it is.")).toBeVisible();
  await page.getByLabel(`Ferrow Gannet ${mark}`).selectOption({ value: "K7" });
  await page.getByRole("button", { name: "Add 2 to the register" }).focus();
  await page.keyboard.press("Enter");
  await expect(page).toHaveURL(/\/register$/);
  await page.getByLabel("Search").fill(mark);
  await page.getByLabel("Search").press("Enter");
  await expect(page.getByRole("main").getByRole("listitem")).toHaveCount(2);
  // The same file again finds them here.
  await page.getByRole("link", { name: "From a spreadsheet" }).click();
  await send(rows.map((r) => r.replace("see office", "")));
  await expect(page.getByText("0 to add. 2 in the register already: left as they are.")).toBeVisible();
});
