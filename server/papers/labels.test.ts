import { getDocument } from "pdfjs-dist/legacy/build/pdf.mjs";
import { LABEL_SHEETS, LABEL_SHEET_IDS, type LabelSheet, PAPER_SIZES, labelAt, labelsOn } from "../../core/labels";
import { type LabelsOf, labelsPdf } from "./labels";

/** Labels on paper, read back by a program that knows nothing of how they were made (pdf.js). */

const MM = 72 / 25.4;

const machines = (count: number): LabelsOf["labels"] =>
  Array.from({ length: count }, (_, i) => ({
    address: `https://gauge.example/machines/8a2f1d4e-51c9-4a55-8f5c-2f9f3a1b6c${String(i).padStart(2, "0")}`,
    serial: `SER${i}X`,
    name: "Brandvik Skerry with a long name that goes on",
    site: `A site of ${"many words ".repeat(12)}`,
  }));

/** Where each serial stands: page, mm from the left and the top; and whether anything stands outside its label. */
async function readBack(of: LabelsOf) {
  const sheet: LabelSheet = LABEL_SHEETS[of.sheet];
  const doc = await getDocument({ data: new Uint8Array(await labelsPdf(of)), verbosity: 0 }).promise;
  const found: { text: string; page: number; x: number; y: number; right: number }[] = [];
  const sizes = [];
  for (let n = 1; n <= doc.numPages; n++) {
    const page = await doc.getPage(n);
    const [, , width, height] = page.view as [number, number, number, number];
    sizes.push([width / MM, height / MM]);
    for (const item of (await page.getTextContent()).items)
      if ("str" in item && item.str.trim())
        found.push({
          ...{ text: item.str, page: n - 1, x: item.transform[4] / MM, y: (height - item.transform[5]) / MM },
          right: (item.transform[4] + item.width) / MM,
        });
  }
  return { found, sizes, sheet };
}

test.each(LABEL_SHEET_IDS)(
  "%s: a full sheet and one more; every word inside its own label",
  async (id) => {
    const each = labelsOn(LABEL_SHEETS[id]);
    const labels = machines(each + 1);
    const { found, sizes, sheet } = await readBack({ sheet: id, skip: 0, labels });
    expect(sizes).toHaveLength(2);
    for (const [i, of] of PAPER_SIZES[sheet.paper].entries()) expect(Math.abs(sizes[0]![i]! - of)).toBeLessThan(0.5);
    const serials = found.filter((f) => /^SER\d+X$/.test(f.text));
    expect(serials.map((s) => s.text)).toEqual(labels.map((l) => l.serial));
    for (const [i, s] of serials.entries()) {
      const { page, x, y } = labelAt(sheet, i);
      expect([s.page, s.x > x, s.x < x + sheet.width, s.y > y, s.y < y + sheet.height]).toEqual([
        page,
        true,
        true,
        true,
        true,
      ]);
    }
    // Whatever is long is cut inside its label, not over the next one.
    const inside = ({ page, x, y, right }: (typeof found)[number]) =>
      labels.some((_, i) => {
        const at = labelAt(sheet, i);
        return at.page === page && x >= at.x && right <= at.x + sheet.width && y >= at.y && y <= at.y + sheet.height;
      });
    expect(found.filter((f) => !inside(f))).toEqual([]);
  },
  60_000,
);

test("labels that are used already stay empty", async () => {
  const { found, sizes, sheet } = await readBack({ sheet: "a4-24", skip: 23, labels: machines(2) });
  const [first, second] = found.filter((f) => f.text.startsWith("SER"));
  expect(sizes).toHaveLength(2);
  expect([first!.page, second!.page]).toEqual([0, 1]);
  expect(first!.y).toBeGreaterThan(labelAt(sheet, 23).y);
});
