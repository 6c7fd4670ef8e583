import { z } from "zod";
import { INSTRUMENT_QUANTITIES, type InstrumentQuantity } from "~core/loop";
import type { ErrorStatement } from "~core/metrology";
import { text, said } from "~server/fields";
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
const day = z
  .string()
  .optional()
  .transform((typed, ctx) => {
    if (!typed) return null;
    if (/^\d{4}-\d{2}-\d{2}$/.test(typed) && !Number.isNaN(Date.parse(typed))) return typed;
    ctx.addIssue({ code: "custom", message: "A date, like 2027-03-31." });
    return z.NEVER;
  });

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
    k: text(10).default("2"),
    repeatability: text(20).default("0"),
    corrections: text(4000).default(""),
    calibratedOn: day,
    dueOn: day,
    note: text(500).default(""),
  })
  .transform((m, ctx) => {
    let ok = true;
    const fail = (path: string, message: string) => {
      ctx.addIssue({ code: "custom", path: [path], message });
      ok = false;
    };
    if (m.highest <= m.lowest) fail("highest", "The scale ends above where it begins.");
    if (m.resolution <= 0) fail("resolution", "A step is a figure above 0.");
    else if (m.highest > m.lowest && m.resolution > (m.highest - m.lowest) / 2)
      fail("resolution", "The step is wider than half the scale.");
    if (m.error < 0) fail("error", "An uncertainty is 0 or more.");
    else if (m.error === 0 && m.form !== "certificate")
      fail("error", "No instrument is without error. Its papers say how much.");
    else if (m.form === "class" && m.error > 10)
      fail("error", "A class over 10 % of span is no gauge. Check the figure.");
    const k = Number(m.k.replace(",", "."));
    if (!(k >= 1 && k <= 4)) fail("k", "A coverage factor lies between 1 and 4, mostly 2.");
    const repeatability = Number(m.repeatability.replace(",", ".") || "0");
    if (!(repeatability >= 0)) fail("repeatability", "A spread is 0 or more.");
    if (m.calibratedOn && m.dueOn && m.dueOn <= m.calibratedOn) fail("dueOn", "It is due after it was calibrated.");
    const corrections = tableOf(m.corrections);
    if (typeof corrections === "string") fail("corrections", corrections);
    if (!ok || typeof corrections === "string") return z.NEVER;
    const error: ErrorStatement =
      m.form === "class"
        ? { form: "class", percentOfSpan: m.error }
        : m.form === "limit"
          ? { form: "limit", limit: m.error }
          : { form: "certificate", U: m.error, k };
    const { name, quantity, place, lowest, highest, resolution, calibratedOn, dueOn, note } = m;
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
        corrections,
        calibratedOn,
        dueOn,
        note,
      } satisfies InstrumentInput,
    };
  });

/** A line each: what it shows, and what is added. Null for none; a sentence when it can't be read. */
function tableOf(typed: string): [number, number][] | null | string {
  const lines = typed
    .split(/[\n;]+/)
    .map((l) => l.trim())
    .filter(Boolean);
  if (lines.length === 0) return null;
  const points: [number, number][] = [];
  for (const line of lines) {
    const said = /^([-+−]?\d+(?:[.,]\d+)?)\s*[:\s]\s*([-+−]?\d+(?:[.,]\d+)?)$/.exec(line);
    if (!said) return `“${line.slice(0, 24)}” is not two figures: what it shows, and what is added, like “9.0 +0.1”.`;
    const [at, add] = [said[1]!, said[2]!].map((x) => Number(x.replace("−", "-").replace(",", "."))) as [
      number,
      number,
    ];
    if (points.length && at <= points.at(-1)![0]) return "The figures it shows rise from line to line.";
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
    repeatability: figure(row?.repeatability ?? 0),
    corrections: (row?.corrections ?? []).map(([at, add]) => `${at} ${add < 0 ? add : `+${add}`}`).join("\n"),
    calibratedOn: row?.calibratedOn ?? "",
    dueOn: row?.dueOn ?? "",
    note: row?.note ?? "",
  };
}
