import { getDocument } from "pdfjs-dist/legacy/build/pdf.mjs";
import sharp from "sharp";
import { documentOf, printedOf, rowsOfReport, standingOf } from "../../core/job";
import { aGauge, aJob, aMove, aReading } from "../../core/job/job.fixture";
import { type PaperOf, reportPdf } from "./report";

/** The report on paper, read back by a program that knows nothing of how it was made (pdf.js). */

async function readBack(pdf: Uint8Array) {
  const doc = await getDocument({ data: new Uint8Array(pdf), verbosity: 0 }).promise;
  const pages: string[] = [];
  for (let n = 1; n <= doc.numPages; n++) {
    const { items } = await (await doc.getPage(n)).getTextContent();
    pages.push(items.map((i) => ("str" in i ? i.str : "")).join(""));
  }
  const { info } = await doc.getMetadata();
  return { pages, title: (info as { Title?: string }).Title };
}

/** Where a line was broken is no difference. */
const bare = (text: string) => text.replace(/\s+/g, "");

const signing = { workshop: "Low Tide", name: "Ilka Brandt", remark: "", at: new Date("2026-05-04T12:00:00Z") };

function paperOf(more: Partial<PaperOf> = {}, complaint = "Runs sour"): PaperOf {
  const readings = [aReading(1, 11), aReading(2, 10.9), aReading(4, 9.1), aReading(5, 9.1)];
  const job = { ...aJob("K7", "check", { readings, moves: [aMove(3, -0.875)] }), complaint };
  return {
    report: printedOf(documentOf(standingOf(job), signing), "UTC"),
    ...{ town: "Skerry", contact: "+44 1632 960100", paper: "A4", logo: null, photos: [], added: [] },
    ...{ acknowledged: [], hash: "ab".repeat(32), signature: { id: "cd".repeat(32), holds: true } },
    ...more,
  };
}

test("every line of the report stands on the paper, as it was written: fractions, arrows, plus and minus too", async () => {
  const of = paperOf();
  const { pages, title } = await readBack(await reportPdf(of));
  const text = bare(pages.join(""));
  expect(title).toBe(`${of.report.machine.name} · service report`);
  for (const row of rowsOfReport(of.report, true)) expect(text).toContain(bare(row.text));
  expect(of.report.results[0]!.moved).toMatch(/^\d+\.\d → \d+\.\d bar$/);
  expect(text).toContain("⅞");
  expect(text).toContain(of.hash);
  expect(pages[0]).toMatch(/Page 1 of \d/);
});

test("a long report goes on over pages, each with its number; Letter paper is another size", async () => {
  const long = paperOf({}, "It drips. ".repeat(1200));
  const { pages } = await readBack(await reportPdf(long));
  expect(pages.length).toBeGreaterThan(2);
  for (const [i, page] of pages.entries()) expect(page).toContain(`Page ${i + 1} of ${pages.length}`);
  const size = async (paper: PaperOf["paper"]) => {
    const doc = await getDocument({ data: new Uint8Array(await reportPdf(paperOf({ paper }))), verbosity: 0 }).promise;
    return (await doc.getPage(1)).view.slice(2).map(Math.round);
  };
  expect(await size("A4")).toEqual([595, 842]);
  expect(await size("Letter")).toEqual([612, 792]);
});

test("photos with what they show, what was added since, and who received it; a record that does not hold says so", async () => {
  const picture = (format: "jpeg" | "png") =>
    sharp({ create: { width: 60, height: 40, channels: 3, background: "#888" } })
      .toFormat(format)
      .toBuffer();
  const of = paperOf({
    photos: Array.from({ length: 7 }, () => ({ said: "front, 4 May 2026", data: new Uint8Array() })),
    added: [{ on: "6 May 2026", about: "A reading", said: "Read again: 9.0 bar.", by: "Tobin", holds: false }],
    signature: { id: "cd".repeat(32), holds: false },
  });
  const data = await picture("jpeg");
  const drawing = await picture("png");
  const whole = {
    ...of,
    photos: of.photos.map((p) => ({ ...p, data })),
    acknowledged: [{ name: "Vera Osk", on: "5 May 2026", drawing, holds: true }],
  };
  const text = bare((await readBack(await reportPdf(whole))).pages.join(""));
  expect(text.split("front,4May2026")).toHaveLength(8);
  expect(text).toContain(
    bare("6 May 2026, a reading: Read again: 9.0 bar. (Tobin) This was changed after it was added."),
  );
  expect(text).toContain(bare("Received: Vera Osk, 5 May 2026"));
  expect(text).toContain(bare("This is not what was signed"));
});

test("an instrument out of date, and words in other scripts, are on it", async () => {
  const late = { instrument: aGauge("Gauge B"), instrumentOutOfDate: true };
  const job = {
    ...aJob("K7", "check", { readings: [aReading(1, 9, {}, late), aReading(2, 9, {}, late)] }),
    complaint: "Δεν ζεσταίνει, не греет",
  };
  const report = printedOf(documentOf(standingOf(job), signing), "UTC");
  const text = bare((await readBack(await reportPdf({ ...paperOf(), report }))).pages.join(""));
  expect(text).toContain(bare("Gauge B"));
  expect(text).toContain(bare("calibration out of date"));
  expect(text).toContain(bare("Δεν ζεσταίνει, не греет"));
});
