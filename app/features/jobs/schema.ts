import { z } from "zod";
import { BREW_PRESSURE_RANGE } from "~core/pressure";
import { type Dimension, formatQuantity, parseQuantity, unitById } from "~core/quantity";
import type { SchoolsOf } from "~core/school";
import { schoolFields } from "~server/schools";
import { commandId, id } from "~server/web";
import { said, text } from "~server/fields";

/** The forms of a sheet, one schema each; the action picks by `intent`. */

/** A typed quantity, understood in the unit chosen for it. */
function quantity(dimension: Dimension, missing: string) {
  return z.string(missing).transform((typed) => ({
    typed: typed.slice(0, 60),
    parse: (unit: string) => parseQuantity(typed, dimension, unitById(unit)),
  }));
}

export const noteSchema = z.object({
  commandId,
  station: z.enum(["look-over"]),
  area: text(60).default(""),
  text: said(4000, 1, "Write down what you see, even “no damage seen”."),
});

export const tickSchema = z.object({ commandId, key: z.string().max(80) });

const yes = z
  .string()
  .optional()
  .transform((x) => x === "yes");
const task = z.string().max(80);

/** What is typed is understood by the task it belongs to, on the server. */
export const entrySchema = z.object({
  commandId,
  task,
  typed: text(4000).default(""),
  unit: z.string().max(20).default(""),
  sure: yes,
  capacity: text(20).default(""),
  perDay: text(20).default(""),
  months: text(20).default(""),
});

export const timerSchema = z.object({ commandId, task });
export const timerEndSchema = z.object({ commandId, task, outcome: z.enum(["done", "alarm"]), sure: yes });
export const skipSchema = z.object({
  commandId,
  station: z.string().max(40),
  reason: said(500, 3, "Say why it is left out: the report shows it."),
});
export const takeUpSchema = z.object({ commandId, station: z.string().max(40) });
export const commandSchema = z.object({ commandId });

export const schoolsSchema = z
  .object({ commandId, ...schoolFields })
  .transform(({ commandId, ...schools }) => ({ commandId, schools: schools as SchoolsOf }));

const correction = {
  supersedes: id.nullish().transform((x) => x ?? null),
  reason: text(300)
    .nullish()
    .transform((x) => x ?? ""),
};

export const readingSchema = z
  .object({
    commandId,
    instrumentId: z.uuid("Choose the gauge you read."),
    place: z.enum(["group", "pump"], "Say where the gauge sits."),
    unit: z.enum(["bar", "psi", "kPa", "MPa"]),
    reading: quantity("pressure", "Type what the gauge shows."),
    sure: z.string().optional(),
    ...correction,
  })
  .transform(({ reading, unit, sure, ...rest }, ctx) => {
    const parsed = reading.parse(unit);
    const fail = (message: string) => {
      ctx.addIssue({ code: "custom", path: ["reading"], message });
      return z.NEVER;
    };
    if (!parsed.ok) return fail(parsed.problem === "empty" ? "Type what the gauge shows." : parsed.message);
    const [least, most] = BREW_PRESSURE_RANGE.hard;
    const shown = formatQuantity(parsed.value, 0.1, unitById("bar"));
    if (parsed.value < least)
      return fail("A gauge can’t show less than nothing here. Type what it shows while the pump runs.");
    if (parsed.value > most)
      return fail(`${shown} can’t be: no brew circuit holds more than ${most} bar. Check figure and unit.`);
    const [low, high] = BREW_PRESSURE_RANGE.usual;
    if ((parsed.value < low || parsed.value > high) && sure !== "yes") {
      ctx.addIssue({
        code: "custom",
        path: ["sure"],
        message: `${shown} is unusual. If the gauge really shows it, tick the box and save again.`,
      });
      return z.NEVER;
    }
    return { ...rest, typed: reading.typed, unit: parsed.unit.id, indicated: parsed.value };
  });

const MOST_TURNS = 4;

export const moveSchema = z
  .object({
    commandId,
    turns: quantity("angle", "Type how far you turned."),
    way: z.enum(["clockwise", "anticlockwise"], "Say which way you turned."),
    ...correction,
  })
  .transform(({ turns, way, ...rest }, ctx) => {
    const parsed = turns.parse("turn");
    const fail = (message: string) => {
      ctx.addIssue({ code: "custom", path: ["turns"], message });
      return z.NEVER;
    };
    if (!parsed.ok) return fail(parsed.problem === "empty" ? "Type how far you turned." : parsed.message);
    if (parsed.value <= 0) return fail("Type how far as a figure above 0, and choose the way beside it.");
    if (parsed.value > MOST_TURNS)
      return fail(`More than ${MOST_TURNS} turns in one go is not logged as one move. Read in between.`);
    return { ...rest, typed: `${turns.typed} ${way}`, turns: way === "clockwise" ? parsed.value : -parsed.value };
  });

export const faultSchema = z.object({ commandId, text: text(1000).default("") });

export const signSchema = z.object({
  commandId,
  name: said(100, 2, "Type your name as it should stand on the report."),
  remark: text(2000).default(""),
});

export const linkSchema = z.object({
  commandId,
  change: z.enum(["new", "revoke"]),
  linkId: id.nullish().transform((x) => x ?? null),
});
