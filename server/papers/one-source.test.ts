import { and, desc, eq, isNotNull } from "drizzle-orm";
import { getDocument } from "pdfjs-dist/legacy/build/pdf.mjs";
import {
  type SignedDocument,
  cardFigures,
  cardIn,
  printedOf,
  readDocument,
  rowsOfReport,
  swingTagOf,
} from "../../core/job";
import { formatQuantity, formatUncertainty, unitsOf } from "../../core/quantity";
import { openTable } from "../../db/open/tables";
import { poolOf } from "../../db/client";
import { job, signature } from "../../db/schema";
import { inWorkshop } from "../../db/wall";
import { database } from "../database";
import { pageOf } from "../api/pages";
import { personOf } from "../jobs/person-of";
import { reportPdf } from "./report";

/** Ten signed visits, each on page, card, tag, PDF, table and at the address for programs: the same numbers, to the digit. */

const db = database();
afterAll(() => poolOf(db).end());

const bare = (text: string) => text.replace(/\s+/g, "");
const numbersIn = (text: string) => text.match(/\d+(?:\.\d+)?/g) ?? [];

async function pdfText(pdf: Uint8Array): Promise<string> {
  const doc = await getDocument({ data: new Uint8Array(pdf), verbosity: 0 }).promise;
  const pages: string[] = [];
  for (let n = 1; n <= doc.numPages; n++) {
    const { items } = await (await doc.getPage(n)).getTextContent();
    pages.push(items.map((i) => ("str" in i ? i.str : "")).join(""));
  }
  return bare(pages.join(""));
}

const VISITS = 10;
let workshopId: string;
let varied: { id: string; doc: SignedDocument }[];

beforeAll(async () => {
  const lead = await personOf("ilka@lowtide.example");
  workshopId = lead.workshop.id;
  const signed = await db
    .select({ id: job.id, kind: job.particulars, document: signature.document })
    .from(job)
    .innerJoin(signature, and(eq(signature.workshopId, job.workshopId), eq(signature.jobId, job.id)))
    .where(and(eq(job.workshopId, workshopId), isNotNull(job.signedAt)))
    .orderBy(desc(job.signedAt))
    .limit(200);
  // Varied: the visits that read most, of every kind of machine first.
  varied = signed
    .map((row) => ({ ...row, doc: readDocument(row.document) }))
    .sort((a, b) => b.doc.results.length - a.doc.results.length)
    .slice(0, 10);
  expect(varied).toHaveLength(VISITS);
  expect(varied.reduce((sum, { doc }) => sum + doc.results.length, 0)).toBeGreaterThan(2 * VISITS);
});

test.each(Array.from({ length: VISITS }, (_, i) => i))(
  "visit %d: card, tag, PDF, table and program tell the figures of the page",
  async (i) => {
    const { id, doc } = varied[i]!;
    const report = printedOf(doc, "UTC");
    const table = rowsOfReport(report, true);
    const page = table.map((row) => row.text).join("\n");
    const whole = await pdfText(
      await reportPdf({
        report,
        ...{ town: "", contact: "", paper: "A4", logo: null, photos: [], added: [], acknowledged: [] },
        ...{ hash: "ab".repeat(32), signature: { id: null, holds: true } },
      }),
    );
    // A sentence may run on to the next page: its foot is no part of it.
    const foot = bare(`${report.machine.name}, serial ${report.machine.serial}`);
    const paper = whole
      .split(foot)
      .map((part) => part.replace(/^Page\d+of\d+/, ""))
      .join("");
    for (const row of table) expect(paper).toContain(bare(row.text));
    const card = cardFigures(report, cardIn(doc));
    for (const { text } of [...card.settings, ...card.buttons]) {
      expect(page).toContain(text.replace(" in the cup", ""));
    }
    const said = cardIn(doc).recipe?.said ?? "";
    for (const number of card.recipe ? numbersIn(`${card.recipe.cup} ${card.recipe.seconds}`) : [])
      expect(numbersIn(said)).toContain(number);
    for (const line of swingTagOf(doc, "UTC").left)
      expect(report.results.some(({ title, left }) => line.startsWith(`${title}: as left ${left},`))).toBe(true);
    const answer = await inWorkshop(workshopId, () =>
      pageOf(workshopId, openTable("results")!, { limit: 100, visitId: id }),
    );
    const { rows } = JSON.parse(answer!.text) as { rows: Record<string, unknown>[] };
    for (const result of doc.results) {
      if (!result.asLeft) continue;
      const { value, U, resolution } = result.asLeft;
      const unit = unitsOf(result.judged)[0]!;
      const row = rows.find(
        (r) =>
          r.phase === "as-left" && r.knob === result.knob && r.group_no === result.group && r.button === result.button,
      );
      expect([id, result.title, row?.value, row?.expanded]).toEqual([id, result.title, value, U]);
      const left = `${formatQuantity(value, resolution, unit)} ± ${formatUncertainty(U, resolution, unit)}`;
      const printed = report.results.find((r) => r.title === result.title);
      if (printed) expect(printed.left.replace(/^\+/, "")).toBe(left);
    }
    // No figure is printed with the noise of floating point.
    expect(page).not.toMatch(/\d\.\d{7,}/);
  },
);
