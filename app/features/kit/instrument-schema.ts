import { z } from "zod";
import { type ErrorStatement, INSTRUMENT_QUANTITIES, type InstrumentQuantity } from "~core/metrology";
import { optionalDay, said, text } from "~server/fields";
import type { InstrumentInput } from "~server/kit/instruments";
import { commandId } from "~server/web";

/** An instrument as its papers state it. */

const number = (message: string) =>
  z.string(message).transform((typed, ctx) => {
    const value = Number(typed.trim().replace(",", "."));
    if (typed.trim() !== "" && Number.isFinite(value)) return value;
    ctx.addIssue({ code: "custom", message });
    return z.NEVER;
  });

/** Null where the field is left empty: nothing is stated. */
const notStated = (message: string) =>
  z.preprocess((typed) => (typed === "" ? undefined : typed), number(message).nullable().default(null));

/** What a scale of each quantity can span, in its stored unit: wider than any instrument of the trade. */
const SPANS: Record<InstrumentQuantity, readonly [number, number]> = {
  pressure: [-1, 100],
  temperature: [-50, 400],
  mass: [0, 50_000],
  time: [0, 36_000],
  hardness: [0, 3000],
};
const FINEST_STEP = 0.0001;

export const instrumentSchema = z
  .object({
    commandId,
    name: said(80, 2, "Give it a name the case can be labelled with."),
    quantity: z.enum(INSTRUMENT_QUANTITIES, "Choose what it measures."),
    place: z.enum(["group", "pump", "boiler", "line"]).default("group"),
    lowest: number("Where its scale begins."),
    highest: number("Where its scale ends."),
    resolution: number("The smallest step it can be read to."),
    form: z.enum(["class", "limit", "certificate"], "Choose how its error is stated."),
    error: number("Its class, limit of error or expanded uncertainty."),
    k: number("A coverage factor lies between 1 and 4, mostly 2.").default(2),
    repeatability: number("Its spread from reading to reading; empty where it is not known.").default(0),
    driftPerYear: notStated("How far it may drift in a year; empty where its papers don’t say."),
    hysteresis: notStated("The gap between rising and falling; empty where its papers don’t say."),
    corrections: text(4000).default(""),
    calibratedOn: optionalDay,
    dueOn: optionalDay,
    note: text(500).default(""),
  })
  .transform((m, ctx) => {
    let ok = true;
    const fail = (path: string, message: string) => {
      ctx.addIssue({ code: "custom", path: [path], message });
      ok = false;
    };
    const [least, most] = SPANS[m.quantity];
    const { unit } = QUANTITY_WORDS[m.quantity];
    const span = m.highest - m.lowest;
    if (m.lowest < least) fail("lowest", `No such scale begins below ${least} ${unit}. Check the number.`);
    if (m.highest > most) fail("highest", `No such scale goes beyond ${most} ${unit}. Check the number.`);
    if (span <= 0) fail("highest", "The scale ends above where it begins.");
    if (m.resolution < FINEST_STEP) fail("resolution", `A step is a number above 0, ${FINEST_STEP} at the finest.`);
    else if (span > 0 && m.resolution > span / 2) fail("resolution", "The step is wider than half the scale.");
    if (m.error < 0) fail("error", "An uncertainty is 0 or more.");
    else if (m.error === 0 && m.form !== "certificate")
      fail("error", "No instrument is without error. Its papers say how much.");
    else if (m.form === "class" && m.error > 10) fail("error", "A class over 10 % of span can’t be. Check the number.");
    else if (m.form !== "class" && span > 0 && m.error > span / 2)
      fail("error", "An error wider than half the span can’t be. Check the number.");
    if (m.k < 1 || m.k > 4) fail("k", "A coverage factor lies between 1 and 4, mostly 2.");
    if (m.repeatability < 0) fail("repeatability", "A spread is 0 or more.");
    else if (span > 0 && m.repeatability > span / 2)
      fail("repeatability", "A spread wider than half the span can’t be. Check the number.");
    for (const path of ["driftPerYear", "hysteresis"] as const) {
      const stated = m[path] ?? 0;
      if (stated < 0) fail(path, "This is 0 or more.");
      else if (span > 0 && stated > span / 2) fail(path, "Wider than half the span can’t be. Check the number.");
    }
    if (m.driftPerYear && !m.calibratedOn) fail("calibratedOn", "A drift counts from the day it was calibrated.");
    if (m.calibratedOn && m.dueOn && m.dueOn <= m.calibratedOn) fail("dueOn", "It is due after it was calibrated.");
    const corrections = tableOf(m.corrections, m);
    if (typeof corrections === "string") fail("corrections", corrections);
    if (!ok || typeof corrections === "string") return z.NEVER;
    const error: ErrorStatement =
      m.form === "class"
        ? { form: "class", percentOfSpan: m.error }
        : m.form === "limit"
          ? { form: "limit", limit: m.error }
          : { form: "certificate", U: m.error, k: m.k };
    const { name, repeatability, driftPerYear, hysteresis, quantity, place, lowest, highest, resolution } = m;
    const { calibratedOn, dueOn, note } = m;
    return {
      commandId: m.commandId,
      input: {
        name,
        quantity,
        place,
        lowest,
        highest,
        resolution,
        error,
        repeatability,
        driftPerYear,
        hysteresis,
        corrections,
        calibratedOn,
        dueOn,
        note,
      } satisfies InstrumentInput,
    };
  });

/** A line each: what it shows, and what is added. Null for none; a sentence when it can't be read. */
function tableOf(
  typed: string,
  { lowest, highest }: { lowest: number; highest: number },
): [number, number][] | null | string {
  const lines = typed
    .split(/[\n;]+/)
    .map((l) => l.trim().replace(/\s+/g, " "))
    .filter(Boolean);
  if (lines.length === 0) return null;
  const points: [number, number][] = [];
  for (const line of lines) {
    const said = /^([-+−]?\d+(?:[.,]\d+)?) ?[: ] ?([-+−]?\d+(?:[.,]\d+)?)$/.exec(line);
    if (!said) return `“${line.slice(0, 24)}” is not two numbers: what it shows, and what is added, like “9.0 +0.1”.`;
    const [at, add] = [said[1]!, said[2]!].map((x) => Number(x.replace("−", "-").replace(",", "."))) as [
      number,
      number,
    ];
    if (lowest < highest && (at < lowest || at > highest))
      return `The scale goes from ${lowest} to ${highest}: it can’t show ${at}.`;
    if (lowest < highest && Math.abs(add) > (highest - lowest) / 2)
      return `A correction of ${add} is wider than half the scale. Check the number.`;
    if (points.length && at <= points.at(-1)![0]) return "The numbers it shows must rise from line to line.";
    points.push([at, add]);
  }
  return points.length < 2 ? "A table has two lines at least; between them is interpolated." : points;
}

export const QUANTITY_WORDS: Record<InstrumentQuantity, { name: string; unit: string }> = {
  pressure: { name: "Pressure", unit: "bar" },
  temperature: { name: "Temperature", unit: "°C" },
  mass: { name: "Mass", unit: "g" },
  time: { name: "Time", unit: "s" },
  hardness: { name: "Hardness", unit: "mg/L CaCO₃" },
};

export const PLACE_WORDS = {
  group: "at the group (portafilter)",
  pump: "on the pump side",
  boiler: "on the boiler",
  line: "on the water line",
  flow: "behind a flow-control valve",
} as const;

type Row = Omit<InstrumentInput, "corrections"> & { corrections: [number, number][] | null };

export function valuesOf(row?: Row): Record<string, string> {
  const figure = (x: number | undefined) => (x === undefined ? "" : String(x));
  const e = row?.error;
  return {
    name: row?.name ?? "",
    quantity: row?.quantity ?? "pressure",
    place: row?.place ?? "group",
    lowest: figure(row?.lowest ?? 0),
    highest: figure(row?.highest),
    resolution: figure(row?.resolution),
    form: e?.form ?? "class",
    error: figure(
      e === undefined ? undefined : e.form === "class" ? e.percentOfSpan : e.form === "limit" ? e.limit : e.U,
    ),
    k: figure(e?.form === "certificate" ? e.k : 2),
    repeatability: figure(row?.repeatability || undefined),
    driftPerYear: figure(row?.driftPerYear ?? undefined),
    hysteresis: figure(row?.hysteresis ?? undefined),
    corrections: (row?.corrections ?? []).map(([at, add]) => `${at} ${add < 0 ? add : `+${add}`}`).join("\n"),
    calibratedOn: row?.calibratedOn ?? "",
    dueOn: row?.dueOn ?? "",
    note: row?.note ?? "",
  };
}
