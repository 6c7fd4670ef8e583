import { execFileSync } from "node:child_process";
import { readFileSync } from "node:fs";
import { join } from "node:path";
import { parse } from "csv-parse/sync";
import { expect, freshMachine, signIn, test } from "./workshop";

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
