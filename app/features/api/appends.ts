import type { z } from "zod";
import { startInput, startSchema } from "../machines/start-schema";
import { entrySchema, moveSchema, noteSchema, readingSchema, tickSchema, workSchema } from "../jobs/schema";
import { shotSchema } from "../shots/schema";
import type { Outcome } from "~server/command";
import { Unread, jsonOf } from "~server/body";
import type { Program } from "~server/api/tokens";
import { problem } from "~server/api/problem";
import { addNote } from "~server/jobs/commands/notes";
import { addMove, addReading } from "~server/jobs/commands/readings";
import { recordShot } from "~server/jobs/commands/shots";
import { startJob } from "~server/jobs/commands/start";
import { addEntry, addTick } from "~server/jobs/commands/tasks";
import { addWork } from "~server/jobs/commands/work";
import { answer, fieldOf, id } from "~server/web";
import { formFrom } from "./body";
import { snake } from "./names";

/** What programs may append: the forms of the pages, as JSON. What a person would be refused, a program is refused in the same words. */

interface Append {
  readonly about: string;
  readonly schema: z.ZodType;
  /** @param at the visit it belongs to; none where it begins one */
  readonly send: (by: Program, at: string, form: FormData) => ReturnType<typeof answer>;
}

interface Typed {
  commandId: string;
}

/** Begins a visit, or adds to one. @param write what the page does with it */
function append<T extends Typed>(
  about: string,
  schema: z.ZodType<T>,
  write: (target: Target, input: Omit<T, "commandId">) => Promise<Outcome>,
): Append {
  return {
    about,
    schema,
    send: (by, jobId, form) =>
      answer(form, schema, async ({ commandId, ...input }) => {
        const done = await write({ by, jobId, commandId }, input);
        return done === "clash" ? done : { more: { done } };
      }),
  };
}

interface Target extends Typed {
  by: Program;
  jobId: string;
}

/** By the plural of their open table, or of their section in the records. */
export const LINES: Readonly<Record<string, Append>> = {
  notes: append("Writes down how the machine was found.", noteSchema, addNote),
  ticks: append("Ticks a task of a step.", tickSchema, addTick),
  entries: append("Answers a task of a step: a value, or words.", entrySchema, addEntry),
  readings: append("Writes a reading down.", readingSchema, addReading),
  moves: append("Writes down that a knob was moved.", moveSchema, addMove),
  shots: append("Writes a calibration shot down.", shotSchema, (target, { input }) => recordShot(target, input)),
  "work-lines": append("Writes a line of work down.", workSchema, addWork),
};

const beginSchema = startSchema.extend({ machineId: id });

export const BEGIN: Append = append("Begins a visit.", beginSchema, ({ by, commandId }, { machineId, ...typed }) =>
  startJob(by, commandId, startInput(machineId, typed)),
);

/** Answers one append. */
export async function answerAppend(request: Request, what: Append, by: Program, at = ""): Promise<Response> {
  const json = await jsonOf(request);
  if (json instanceof Unread) return problem({ status: json.status, detail: json.message });
  const body = formFrom(json, what.schema);
  if ("errors" in body) return problem({ status: 422, detail: "Nothing was saved.", errors: body.errors });
  return asJson(await what.send(by, at, body.form), fieldOf(body.form, "commandId"));
}

type Reply = Awaited<ReturnType<Append["send"]>>;

/** What a form would have been told, for a program. */
function asJson(reply: Reply, commandId: string): Response {
  if (reply instanceof Response) return reply;
  const { outcome, result, ...more } = reply.data;
  const { done } = more as { done?: Outcome };
  if (outcome === "saved")
    return Response.json({ id: commandId, outcome: done }, { status: done === "repeated" ? 200 : 201 });
  if (outcome === "clash")
    return problem({
      status: 409,
      detail: "This command_id was saved with other content already, and this was not. Send it under a new one.",
    });
  const errors = Object.entries(result.error ?? {}).flatMap(([field, words]) =>
    (words ?? []).map((message) => ({ field: snake(field), message })),
  );
  const alone = errors.find((e) => e.field === "");
  return problem({
    status: reply.init?.status ?? 422,
    detail: alone?.message ?? "Nothing was saved.",
    errors: errors.filter((e) => e.field !== ""),
  });
}
