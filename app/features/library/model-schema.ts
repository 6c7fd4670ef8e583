import { z } from "zod";
import { KINDS, KIND_IDS, type ModelCard } from "~core/kind";
import { parseClock } from "~core/pressure";
import { commandId } from "~server/web";
import { said, text } from "~server/fields";

const number = (least: number, most: number) =>
  z
    .string("Type a number.")
    .trim()
    .transform((typed, ctx) => {
      const value = Number(typed.replace(",", "."));
      if (typed !== "" && Number.isFinite(value) && value >= least && value <= most) return value;
      ctx.addIssue({ code: "custom", message: `A number from ${least} to ${most}.` });
      return z.NEVER;
    });
const optional = (least: number, most: number) =>
  number(least, most)
    .or(z.literal("").transform(() => null))
    .default(null);

type Spring = ModelCard["springs"][number];

/** “soft 8”, “12:30 9 bar”: what it is called, and its pressure. null when it is not that. */
function nameAndBar(part: string): { name: string; bar: number } | null {
  const words = part.trim().split(/\s+/);
  const last = words.pop()!;
  const figure = last === "bar" ? (words.pop() ?? "") : last.endsWith("bar") ? last.slice(0, -3) : last;
  return words.length > 0 && /^\d+(?:\.\d+)?$/.test(figure) ? { name: words.join(" "), bar: Number(figure) } : null;
}

/** "soft 8, medium 9.5, stiff 11": weakest first. A sentence when it is not that. */
function springsOf(typed: string): Spring[] | string {
  if (!typed.trim()) return [];
  const springs: Spring[] = [];
  for (const part of typed.split(/[,;\n]+/)) {
    const said = nameAndBar(part);
    if (!said) return `“${part.trim()}” is not a name and a pressure, like “soft 8”.`;
    const { name, bar } = said;
    if (springs.length && bar <= springs.at(-1)!.bar)
      return "Springs stand weakest first, each stronger than the one before.";
    if (bar < 1 || bar > 20) return `A spring for ${bar} bar can’t be.`;
    springs.push({ name, bar });
  }
  return springs.length === 1 ? "Name two springs at least, or none." : springs;
}

/** "8:00 0, 12:30 9, 3:00 14": clock places with their pressures, ascending. A sentence when it is not that. */
function dialOf(typed: string): [number, number][] | null | string {
  if (!typed.trim()) return null;
  const points: [number, number][] = [];
  for (const part of typed.split(/[,;\n]+/)) {
    const said = nameAndBar(part);
    const place = said && parseClock(said.name);
    if (!said || !place?.ok) return `“${part.trim()}” is not a clock place and a pressure, like “12:30 9”.`;
    const at: [number, number] = [place.low, said.bar];
    const before = points.at(-1);
    if (before && !(at[0] > before[0] && at[1] > before[1]))
      return "Each place comes after the one before it, with more pressure.";
    points.push(at);
  }
  return points.length < 2 ? "A scale needs two places at least." : points;
}

/** A model card's form. What is left empty is as usual for the kind. */
export const modelSchema = z
  .object({
    commandId,
    maker: said(80, 1, "Who makes it?"),
    name: said(80, 1, "What is it called?"),
    kind: z.enum(KIND_IDS, "Choose its kind."),
    volts: number(90, 420),
    watts: number(10, 20_000),
    hertz: z.enum(["50", "60"]),
    boilerLitres: number(0, 60),
    elementWatts: number(0, 20_000),
    descaling: z.enum(["owner-cycle", "workshop-only", "dismantle-only"]),
    buttons: z.enum(["volume", "time", "unknown", "none"]),
    opvResponse: number(0.1, 10),
    opvResponseSd: number(0.01, 5),
    opvRaises: z.enum(["clockwise", "anticlockwise"]),
    opvAccess: z.enum(["outside", "inside", "isolation-tap", "spring", "none"]),
    offsetStep: optional(0.1, 5),
    stopThreads: z.enum(["more", "less", "unknown"]).default("unknown"),
    offsetRaises: z.enum(["yes", "no"]).default("yes"),
    lineLowest: optional(0, 10),
    lineHighest: optional(0, 10),
    steamLower: optional(0, 3),
    steamUpper: optional(0, 3),
    programming: z.enum(["pulses", "teach"]).default("teach"),
    groups: z.enum(["0", "1", "2", "3", "4"]).default("1"),
    doseButtons: z.enum(["0", "1", "2", "3", "4", "5", "6"]).default("2"),
    grindFiner: z.enum(["larger", "smaller"]).default("smaller"),
    grindStep: number(0.01, 10).default(1),
    grindLowest: optional(-1000, 10_000),
    grindHighest: optional(-1000, 10_000),
    springs: text(300).default(""),
    dial: text(300).default(""),
    note: text(2000).default(""),
  })
  .superRefine((m, ctx) => {
    const springs = springsOf(m.springs);
    if (typeof springs === "string") ctx.addIssue({ code: "custom", path: ["springs"], message: springs });
    const dial = dialOf(m.dial);
    if (typeof dial === "string") ctx.addIssue({ code: "custom", path: ["dial"], message: dial });
    if (m.grindLowest !== null && m.grindHighest !== null && m.grindLowest >= m.grindHighest)
      ctx.addIssue({ code: "custom", path: ["grindHighest"], message: "The highest setting lies above the lowest." });
    const pairs = [
      ["lineLowest", "lineHighest"],
      ["steamLower", "steamUpper"],
    ] as const;
    for (const [low, high] of pairs) {
      const [a, b] = [m[low], m[high]];
      if ((a === null) !== (b === null))
        ctx.addIssue({ code: "custom", path: [b === null ? high : low], message: "Type both limits, or neither." });
      else if (a !== null && b !== null && a >= b)
        ctx.addIssue({ code: "custom", path: [high], message: "The upper limit must lie above the lower one." });
    }
  })
  .transform(({ commandId, maker, name, kind, opvResponse, opvResponseSd, opvRaises, ...m }) => ({
    commandId,
    input: {
      maker,
      name,
      kind,
      opvResponse,
      opvResponseSd,
      opvRaises,
      card: {
        ratingPlate: { volts: m.volts, watts: m.watts, hertz: m.hertz === "60" ? (60 as const) : (50 as const) },
        boilerLitres: m.boilerLitres,
        elementWatts: m.elementWatts,
        descaling: m.descaling,
        opvAccess: m.opvAccess,
        buttons: m.buttons,
        offset: m.offsetStep === null ? null : { step: m.offsetStep, raises: m.offsetRaises === "yes" },
        stopThreads: KINDS[kind].knobs.includes("dose-stop") ? m.stopThreads : null,
        linePressure:
          m.lineLowest === null || m.lineHighest === null ? null : { lowest: m.lineLowest, highest: m.lineHighest },
        steamPressure:
          m.steamLower === null || m.steamUpper === null ? null : { lower: m.steamLower, upper: m.steamUpper },
        programming: m.programming,
        // A grinder has none, whatever is chosen; a machine one at least.
        groups: KINDS[kind].groups === 0 ? 0 : Math.max(1, Number(m.groups)),
        doseButtons: Number(m.doseButtons),
        grindScale: {
          finer: m.grindFiner === "larger" ? 1 : -1,
          step: m.grindStep,
          ...(m.grindLowest === null ? {} : { lowest: m.grindLowest }),
          ...(m.grindHighest === null ? {} : { highest: m.grindHighest }),
        },
        // Checked above: here they are lists.
        springs: springsOf(m.springs) as Spring[],
        dial: dialOf(m.dial) as [number, number][] | null,
        note: m.note,
      } satisfies ModelCard,
    },
  }));
