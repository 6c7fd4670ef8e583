import { execFileSync } from "node:child_process";
import { readFileSync } from "node:fs";
import { join } from "node:path";
import type { Page, TestInfo } from "@playwright/test";
import { parse } from "csv-parse/sync";
import { and, desc, eq, isNull, lt, sql } from "drizzle-orm";
import { getDocument } from "pdfjs-dist/legacy/build/pdf.mjs";
import { client, tokenOf } from "./programs";
import { VERDICT_WORDS } from "../core/metrology";
import { OPEN_TABLES } from "../db/open/tables";
import { account, job, ownerLink, result } from "../db/schema";
import { linkTokenOf } from "../server/open-links";
import { database } from "../server/database";
import { LEAD, expect, signIn, test } from "./workshop";

/** One signed job, as everybody gets it: screen, owner’s page, PDF, card, tables, JSON and programs say the same of it. */

const db = database();
const bare = (text: string) => text.replace(/\s+/g, "");
type Row = Record<string, unknown>;

/** The signed visit of the demo’s past with the most readings that an owner has a link to: other tests sign today. */
async function aSignedJob() {
  const [found] = await db
    .select({ jobId: job.id, machineId: job.machineId, link: ownerLink })
    .from(job)
    .innerJoin(account, and(eq(account.workshopId, job.workshopId), eq(account.email, LEAD)))
    .innerJoin(ownerLink, and(eq(ownerLink.jobId, job.id), isNull(ownerLink.revokedAt)))
    .innerJoin(result, and(eq(result.jobId, job.id), eq(result.phase, "as-left")))
    .where(and(eq(job.state, "signed"), lt(job.signedAt, sql`now() - interval '1 day'`)))
    .groupBy(job.id, job.machineId, ownerLink.workshopId, ownerLink.jobId, ownerLink.id)
    .orderBy(desc(sql`count(distinct ${result.no})`), job.id)
    .limit(1);
  const { link, ...ids } = found!;
  return { ...ids, token: linkTokenOf("owner", link)! };
}

/** What a machine’s page exports, opened by unzip. */
async function exported(page: Page, info: TestInfo, machineId: string, kind: "Tables (CSV)" | "JSON, with photos") {
  await page.goto(`/machines/${machineId}`);
  await page.getByText("Export this machine’s records").click();
  const coming = page.waitForEvent("download");
  await page.getByRole("button", { name: kind }).click();
  const folder = join(info.outputDir, kind.slice(0, 4));
  const zip = `${folder}.zip`;
  await (await coming).saveAs(zip);
  execFileSync("unzip", ["-q", zip, "-d", folder]);
  return (name: string) => readFileSync(join(folder, name), "utf8");
}

async function wordsOnPaper(bytes: Uint8Array) {
  const doc = await getDocument({ data: bytes, verbosity: 0 }).promise;
  let text = "";
  for (let n = 1; n <= doc.numPages; n++)
    for (const item of (await (await doc.getPage(n)).getTextContent()).items) text += "str" in item ? item.str : "";
  return bare(text);
}

test("one job is the same on the screen, on paper, on the card, in tables, in JSON and for programs", async ({
  page,
}, info) => {
  test.slow();
  const { jobId, machineId, token } = await aSignedJob();
  await signIn(page);
  const secret = await tokenOf(page.request, ["read"]);
  const base = process.env.BASE_URL!;
  const api = client(base, secret);
  const csv = await exported(page, info, machineId, "Tables (CSV)");
  const records = JSON.parse((await exported(page, info, machineId, "JSON, with photos"))("records.json")) as Record<
    string,
    Row[]
  >;

  // Programs and tables: every row of the machine, every column, to the last digit.
  const rows: Record<string, Row[]> = {};
  for (const table of OPEN_TABLES.filter((t) => t.machine)) {
    const answer = await fetch(`${base}/api/v1/${table.plural}?machine_id=${machineId}&limit=1000`, {
      headers: { Authorization: `Bearer ${secret}` },
    });
    const { rows: found } = (await answer.json()) as { rows: Row[] };
    const written = parse(csv(`${table.plural}.csv`), { bom: true, columns: true, record_delimiter: "\r\n" }) as Record<
      string,
      string
    >[];
    expect([table.plural, found.length]).toEqual([table.plural, written.length]);
    for (const [i, row] of found.entries())
      for (const { name, type } of table.columns) {
        const [value, cell] = [row[name], written[i]![name]!];
        const same =
          value === null || value === ""
            ? cell === ""
            : typeof value === "number"
              ? Number(cell) === value
              : cell.replace(/^'(?=[=+\-@\t\r])/, "") === String(value);
        expect([table.plural, i, name, type, same, cell, value]).toEqual([
          table.plural,
          i,
          name,
          type,
          true,
          cell,
          value,
        ]);
      }
    rows[table.plural] = found.filter((r) => r.visit_id === jobId);
  }
  // JSON has them as they are stored.
  expect(rows.readings!.length).toBeGreaterThan(3);
  for (const r of rows.readings!)
    expect(records.readings!.find((x) => x.id === r.id)).toMatchObject({
      ...{ typed: r.typed, unit: r.typed_unit, value: r.value, u: r.u, u_common: r.u_common, indicated: r.indicated },
    });
  const stored = records.results!.filter((x) => x.job_id === jobId);
  expect(stored.length).toBe(rows.results!.length);
  for (const r of rows.results!)
    expect(stored.find((x) => x.no === r.no)).toMatchObject({
      value: r.value,
      u: r.u,
      k: r.k,
      verdict: r.verdict,
      phase: r.phase,
    });

  // Words: what the report says of each knob is that figure, and is said everywhere.
  const file = async (path: string) => new Uint8Array(await (await page.request.get(path)).body());
  const report = parse(Buffer.from(await file(`/owner/${token}/csv`)), { bom: true, columns: true }) as {
    name: string;
    text: string;
    verdict: string;
  }[];
  const paper = await wordsOnPaper(await file(`/owner/${token}/pdf/file`));
  await page.goto(`/jobs/${jobId}`);
  const screen = bare(await page.locator("main").innerText());
  await page.goto(`/owner/${token}`);
  const owners = bare(await page.locator("main").innerText());
  await page.goto(`/card/${token}`);
  const card = bare(await page.locator("main").innerText());
  for (const [phase, name] of [
    ["as-found", "As found"],
    ["as-left", "As left"],
  ] as const) {
    const said = report.filter((r) => r.name === name);
    const figures = rows.results!.filter(
      (r) =>
        r.phase === phase &&
        rows.results!.some(
          (o) => o.knob === r.knob && o.group_no === r.group_no && o.button === r.button && o.phase !== phase,
        ),
    );
    expect(said.length).toBe(figures.length);
    expect(said.length).toBeGreaterThan(0);
    for (const [i, { text, verdict }] of said.entries()) {
      const figure = figures[i]! as {
        value: number;
        expanded: number;
        unit: string;
        verdict: keyof typeof VERDICT_WORDS;
        knob: string;
      };
      const [, shown, digits, unit, U] = /^'?([+-]?\d+(?:\.(\d+))?) (\S+) ± (\d+(?:\.\d+)?)/.exec(text)!;
      expect(unit).toBe(figure.unit);
      const step = 10 ** -(digits?.length ?? 0);
      expect(Math.abs(Number(shown) - figure.value)).toBeLessThanOrEqual(0.5 * step + 1e-9);
      // An uncertainty is written with two digits at most, rounded up at need (GUM 7.2.6).
      expect(Math.abs(Number(U) - figure.expanded)).toBeLessThanOrEqual(Math.max(step, 0.1 * figure.expanded));
      expect(verdict).toBe(VERDICT_WORDS[figure.verdict]);
      const words = bare(text.replace(/^'/, ""));
      for (const [where, all] of Object.entries({ owners, paper })) expect(all, `${where}: ${text}`).toContain(words);
      // The sheet has the figure with its verdict; of an offset the temperature it was read as, of many buttons the first.
      if (!["offset", "button"].includes(figure.knob))
        expect(screen, text).toContain(bare(`${text.replace(/^'| ±.*/g, "")} ${VERDICT_WORDS[figure.verdict]}`));
      if (phase === "as-left" && !["button", "basket"].includes(figure.knob)) expect(card, text).toContain(words);
    }
  }
  // The machine and the visit themselves.
  const visit = (await api.GET("/visits/{id}", { params: { path: { id: jobId } } })).data!;
  const machine = (await api.GET("/machines/{id}", { params: { path: { id: machineId } } })).data!;
  for (const all of [screen, owners, paper]) expect(all).toContain(bare(machine.serial));
  for (const all of [screen, owners, paper, card]) expect(all).toContain(bare(`${machine.maker} ${machine.model}`));
  expect(paper).toContain(visit.document_sha256!);
  expect(records.visits!.find((v) => v.id === jobId)).toMatchObject({ state: visit.state, complaint: visit.complaint });
  for (const line of rows["work-lines"]!) expect(paper).toContain(bare(String(line.what)));
  for (const shot of rows.shots!.filter((s) => !s.corrected_by && !s.after_signing))
    expect(paper).toContain(bare(`${(shot.dose_g as number).toFixed(1)} g`));
});
