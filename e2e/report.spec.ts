import { getDocument } from "pdfjs-dist/legacy/build/pdf.mjs";
import Papa from "papaparse";
import sharp from "sharp";
import type { Page } from "@playwright/test";
import { prepared, workOff } from "./prepared";
import { atStation, expect, expectAccessible, freshMachine, signIn, test, workLine } from "./workshop";

/** What is signed, on three ways out: page, PDF and table say the same; and what is added later stands beside it. */

const bare = (text: string) => text.replace(/\s+/g, "");

async function pdfText(bytes: Uint8Array) {
  const doc = await getDocument({ data: bytes.slice(), verbosity: 0 }).promise;
  const pages: string[] = [];
  for (let n = 1; n <= doc.numPages; n++) {
    const { items } = await (await doc.getPage(n)).getTextContent();
    pages.push(items.map((i) => ("str" in i ? i.str : "")).join(""));
  }
  return { text: bare(pages.join("")), pages: doc.numPages };
}

async function fileAt(page: Page, path: string) {
  const answer = await page.request.get(path);
  expect(answer.status()).toBe(200);
  return { type: answer.headers()["content-type"]!, body: new Uint8Array(await answer.body()) };
}

const picture = (shade: number) =>
  sharp({ create: { width: 120, height: 90, channels: 3, background: { r: shade, g: 90, b: 60 } } })
    .png()
    .toBuffer();

async function addPhoto(page: Page, shade: number, count: number) {
  const photos = page.locator("[data-station-in-hand]");
  await photos
    .locator("input[type=file]")
    .setInputFiles({ name: "seal.png", mimeType: "image/png", buffer: await picture(shade) });
  await photos.getByRole("button", { name: "Add photo" }).click();
  await expect(photos.getByRole("link", { name: new RegExp(`^Photo ${count}\\b`) })).toBeVisible();
}

async function signAndFollow(page: Page) {
  await atStation(page, "Sign");
  await page.getByRole("button", { name: "Sign the job" }).click();
  await expect(page.getByRole("heading", { name: "Owner’s page" })).toBeVisible();
  return (await page.getByRole("link", { name: /\/owner\// }).getAttribute("href"))!;
}

test("a service signed: page, PDF and table say the same, a photo shows the part, and words added later stand beside it", async ({
  page,
}) => {
  await signIn(page);
  const jobId = await prepared(await freshMachine("K7"), ["work", "clean"], { workByHand: true });
  await page.goto(`/jobs/${jobId}`);
  await atStation(page, "Work and parts");
  const station = page.locator("[data-station-in-hand]");
  await station.locator("summary", { hasText: /^Photos/ }).click();
  await addPhoto(page, 40, 1);
  await station.getByText(/^More: seen/).click();
  await station.getByRole("checkbox", { name: /Photo 1/ }).check();
  await workLine(page, { what: "Group gasket", how: "renewed", why: "=1+1 hard as wood; leaks ⅜ turn early" });
  await expect(page.getByText("Seen: 1 photo.")).toBeVisible();
  await workOff(jobId);
  await page.goto(`/jobs/${jobId}`);
  const owner = await signAndFollow(page);

  await page.goto(owner);
  await expectAccessible(page);
  const shown = bare(await page.locator("main").innerText());
  const table = await fileAt(page, `${owner}/csv`);
  expect(table.type).toContain("text/csv");
  const { data, errors } = Papa.parse<Record<string, string>>(new TextDecoder().decode(table.body), { header: true });
  expect(errors).toEqual([]);
  const paper = await fileAt(page, `${owner}/pdf/file`);
  expect(paper.type).toBe("application/pdf");
  const { text, pages } = await pdfText(paper.body);
  expect(pages).toBeGreaterThan(0);
  expect(data.length).toBeGreaterThan(10);
  for (const row of data) {
    // A spreadsheet takes nothing of it for a formula; a page and a paper have the words alone.
    const words = bare(row.text!.replace(/^'/, ""));
    expect(text, `on paper: ${row.text}`).toContain(words);
    expect(shown, `on the page: ${row.text}`).toContain(words);
  }
  expect(data.some((row) => /^[=+@-]/.test(row.text!))).toBe(false);
  expect(text).toContain(bare("Group gasket, "));

  // Kept: the same paper, byte for byte.
  expect(Buffer.from((await fileAt(page, `${owner}/pdf/file`)).body).equals(Buffer.from(paper.body))).toBe(true);

  await page.goto(`/jobs/${jobId}`);
  await page.getByText("Add something: what was signed stays as it is").click();
  await page.getByRole("button", { name: "Add to the signed job" }).click();
  await expect(page.getByText("Type what is to be added.")).toBeVisible();
  await page.getByLabel("About").selectOption("work");
  await page.getByLabel("What is to be added").fill("The old gasket was 8 mm, the new one is 8.5 mm.");
  await page.getByRole("button", { name: "Add to the signed job" }).click();
  await expect(page.getByRole("region", { name: "Added after signing" })).toContainText(
    "work or a part: The old gasket",
  );
  await page.goto(owner);
  await expect(page.getByRole("region", { name: "Added after signing" })).toContainText("8.5 mm. (Ilka Sandbourne)");
  const later = await pdfText((await fileAt(page, `/jobs/${jobId}/report/file`)).body);
  expect(later.text).toContain(bare("The old gasket was 8 mm"));
  expect(later.text.length).toBeGreaterThan(text.length);

  await page.goto(`/labels?job=${jobId}`);
  await expect(page.getByText(/^Tested /)).toBeVisible();
  await expect(page.getByText("Nothing was measured on this visit.")).toBeVisible();
  await expectAccessible(page);
});

test("forty photos stand on the paper; one that was stopped says so, and is made on asking", async ({ page }) => {
  await signIn(page);
  const jobId = await prepared(await freshMachine("K14"), ["work"], { workByHand: true });
  for (let i = 0; i < 40; i++) {
    const answer = await page.request.post(`/jobs/${jobId}`, {
      multipart: {
        ...{ intent: "photo", commandId: crypto.randomUUID(), area: "front" },
        photo: { name: `${i}.png`, mimeType: "image/png", buffer: await picture(5 * i) },
      },
      headers: { Origin: process.env.BASE_URL! },
    });
    expect(answer.status()).toBe(200);
  }
  await workOff(jobId);
  await page.goto(`/jobs/${jobId}`);
  const owner = await signAndFollow(page);
  await page.goto(`${owner}/pdf?stopped`);
  await expect(page.getByText("Stopped. Nothing was made.")).toBeVisible();
  await expectAccessible(page);
  const { body } = await fileAt(page, `${owner}/pdf/file`);
  const { text, pages } = await pdfText(body);
  expect(text.split("front,")).toHaveLength(41);
  expect(pages).toBeGreaterThan(5);
});
