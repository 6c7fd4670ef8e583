import { standingShots, sayPull } from "~core/job";
import { jobFrom } from "~db/queries/job-from";
import { sheetRow } from "~db/queries/jobs";
import { tracesOf } from "~db/queries/traces";
import type { SignedIn } from "~server/auth";
import type { Posted } from "~server/body";
import { database } from "~server/database";
import { addTrace } from "~server/jobs/commands/traces";
import { traceView, understand } from "~server/jobs/views/traces";
import { Refused } from "~server/refused";
import { tableOfText, textOfFile } from "~server/table-text";
import { answerFor, fieldOf } from "~server/web";
import { readSchema, traceSchema } from "./trace-schema";

/** What the page of a new trace knows of its job; null when it isn't this workshop's. */
export async function loadTrace(person: SignedIn, jobId: string) {
  const db = database();
  const [row, traces] = await Promise.all([
    sheetRow(db, person.workshop.id, jobId),
    tracesOf(db, person.workshop.id, jobId),
  ]);
  if (!row) return null;
  const job = jobFrom(row);
  const logged = new Set(traces.map((t) => t.shotId));
  const shots = standingShots(job).filter((s) => !s.amends);
  return {
    jobId,
    signed: job.state === "signed",
    site: job.machine.site,
    shots: shots
      .map((s) => ({ id: s.id, words: `Shot ${s.sequence}: ${sayPull(s.pull)}`, free: !logged.has(s.id) }))
      .reverse(),
    traces: traces.map((t) => ({ id: t.id, file: t.file })),
  };
}

/** Of a logger’s file. Our choice: ten minutes at 100 a second. */
const MOST_LINES = 60_000;

/** A logger’s file as it is understood: shown, and asked about. */
async function shown(
  person: SignedIn,
  given: { file?: File | undefined; name: string; text?: string | undefined; column: Plan },
) {
  const { file, column } = given;
  const text = file ? await textOfFile(file) : given.text;
  if (!text?.trim()) throw new Refused("Choose the logger’s file.", "file");
  const { heads, lines, plan, read } = understand(await tableOfText(text, MOST_LINES, "file"), file ? null : column);
  if (heads.length < 2)
    throw new Refused("There are no columns in this file. Save it as CSV: with commas, semicolons or tabs.", "file");
  const name = (file ? file.name : given.name).slice(0, 200) || "trace.csv";
  return {
    found: {
      ...{ text, name, heads, lines, plan },
      problem: read.ok ? "" : read.message,
      view: read.ok ? traceView(read.trace, person.preferences.pressureUnit) : null,
    },
  };
}

type Plan = Parameters<typeof understand>[1];
export type Found = Awaited<ReturnType<typeof shown>>["found"];

export function writeTrace(person: () => SignedIn, jobId: string, form: Posted) {
  const mine = { person, right: "work" } as const;
  if (fieldOf(form, "intent") === "read")
    return answerFor(mine, form, readSchema, async (given, by) => ({ more: await shown(by, given) }));
  return answerFor(mine, form, traceSchema, async ({ commandId, name, text, column, ...input }, by) => {
    const { read } = understand(await tableOfText(text, MOST_LINES, "text"), column);
    if (!read.ok) throw new Refused(read.message, "column");
    return addTrace({ by, jobId, commandId }, { ...input, file: name || "trace.csv", trace: read.trace });
  });
}
