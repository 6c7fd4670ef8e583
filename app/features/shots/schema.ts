import { z } from "zod";
import { AMOUNT_KINDS, BASKET_IDS, parseAmount } from "~core/grinder";
import { type Dimension, baseUnit, parseQuantity, unitsOf } from "~core/quantity";
import { COUNTS_FROM, FLOWS, PULLED_BY, type Pull, ROASTS, STRENGTHS, TAPS, TASTES, GRAMS_PER_ML } from "~core/shot";
import type { ShotInput } from "~server/jobs/commands/shots";
import { commandId, id } from "~server/web";
import { optionalDay, text, yes } from "~server/fields";

/** The forms of the shots’ room. Figures are understood with their unit, and refused beside the field they were typed in. */

const optional = text(60).default("");
const oneOf = <T extends string>(values: readonly [T, ...T[]]) =>
  z
    .enum(values)
    .or(z.literal(""))
    .optional()
    .transform((x) => (x ? (x as T) : undefined));
/** One of a list, or none of it. */
export const perhaps = id
  .or(z.literal(""))
  .nullish()
  .transform((x) => x || null);

const typedShot = z.object({
  commandId,
  group: z.enum(["1", "2", "3", "4"]).default("1"),
  by: z.enum(PULLED_BY, "Say how it was ended.").default("manual"),
  coffeeName: text(80).default(""),
  roast: oneOf(ROASTS),
  roastedOn: optionalDay,
  grinderName: text(80).default(""),
  finer: z.enum(["1", "-1"]).default("-1"),
  step: text(20).default("1"),
  lowest: optional,
  highest: optional,
  setting: text(20).default(""),
  amount: optional,
  amountKind: z.enum(AMOUNT_KINDS).optional(),
  dose: optional,
  basket: z.enum(BASKET_IDS).default("double"),
  preInfusion: optional,
  pause: optional,
  setPoint: optional,
  peak: optional,
  plateau: optional,
  seconds: optional,
  from: z.enum(COUNTS_FROM).default("pump"),
  firstDrop: optional,
  yield: optional,
  atStop: optional,
  volume: optional,
  waterIn: optional,
  crema: z.enum(["with-crema", "without"]).default("with-crema"),
  trayMl: optional,
  preGround: yes,
  choked: yes,
  flow: oneOf(FLOWS),
  taste: oneOf(TASTES),
  strength: oneOf(STRENGTHS),
  tds: optional,
  note: text(500).default(""),
  scaleId: perhaps,
  clockId: perhaps,
  supersedes: perhaps,
  reason: text(300).default(""),
  sure: yes,
  unit: z.string().max(20).default("bar"),
});

type Typed = z.output<typeof typedShot>;
type Name = keyof Typed & string;
type Take = (name: Name, dimension: Dimension, missing?: string) => number | undefined;

export const shotSchema = typedShot.transform((typed, ctx): { commandId: string; input: ShotInput } => {
  const refuse = (path: string, message: string) => void ctx.addIssue({ code: "custom", path: [path], message });
  const take: Take = (name, dimension, missing) => {
    const raw = String(typed[name] ?? "").trim();
    if (!raw) {
      if (missing) refuse(name, missing);
      return undefined;
    }
    const parsed = parseQuantity(
      name === "tds" ? raw.replace(/%$/, "") : raw,
      dimension,
      dimension === "pressure" ? unitOf(typed.unit) : baseUnit(dimension),
    );
    if (parsed.ok) return parsed.value;
    refuse(name, parsed.message);
    return undefined;
  };
  return {
    commandId: typed.commandId,
    input: {
      pull: pullOf(typed, take, refuse),
      typed: asTyped(typed),
      scaleId: typed.scaleId,
      clockId: typed.clockId,
      supersedes: typed.supersedes,
      reason: typed.reason,
      sure: typed.sure,
    },
  };
});

function pullOf(typed: Typed, take: Take, refuse: (path: string, message: string) => void): Pull {
  // “44 ml” in the cup’s field is a volume, and is taken as one.
  const inMl = !typed.volume && /^[\d.,\s]+(ml|cl|cc)$/i.test(String(typed.yield ?? "").trim());
  const volume = inMl ? take("yield", "volume") : take("volume", "volume");
  const weighed = inMl ? undefined : take("yield", "mass");
  // Read as a volume: 44 ml with crema and 36 g are the same target; without crema a ml is a gram.
  const read = weighed === undefined && volume !== undefined;
  const cup = read ? volume * (typed.crema === "with-crema" ? GRAMS_PER_ML : 1) : weighed;
  const step = take("step", "mark") ?? 1;
  if (!(step > 0)) refuse("step", "A step is above 0.");
  return {
    group: Number(typed.group),
    by: typed.by,
    coffee: { name: typed.coffeeName, roast: typed.roast, roastedOn: typed.roastedOn ?? undefined },
    grinder: {
      name: typed.grinderName,
      finer: typed.finer === "1" ? 1 : -1,
      step,
      lowest: take("lowest", "mark"),
      highest: take("highest", "mark"),
    },
    setting: take("setting", "mark", typed.preGround ? undefined : "Type the grind setting, or tick pre-ground.") ?? 0,
    amount: amountOf(typed, refuse),
    dose: take("dose", "mass", "Weigh the dose.") ?? Number.NaN,
    basket: typed.basket,
    preInfusion: take("preInfusion", "time"),
    pause: take("pause", "time"),
    setPoint: take("setPoint", "temperature"),
    peak: take("peak", "pressure"),
    plateau: take("plateau", "pressure"),
    seconds: take("seconds", "time", "Tap the timer, or type the seconds.") ?? Number.NaN,
    from: typed.from,
    firstDrop: take("firstDrop", "time"),
    yield: cup ?? null,
    atStop: take("atStop", "mass"),
    volume,
    ...(read ? { byVolume: typed.crema } : {}),
    trayMl: take("trayMl", "volume"),
    ...(typed.preGround ? { preGround: true } : {}),
    waterIn: take("waterIn", "volume"),
    choked: typed.choked,
    flow: typed.flow,
    taste: typed.taste,
    strength: typed.strength,
    tds: take("tds", "mark"),
    note: typed.note || undefined,
  };
}

/** The person’s own unit of pressure. */
const unitOf = (id: string) => unitsOf("pressure").find((u) => u.id === id) ?? baseUnit("pressure");

function amountOf({ amount, amountKind }: Typed, refuse: (path: string, message: string) => void) {
  if (!amount || !amountKind) return undefined;
  const at = parseAmount(amount, amountKind);
  if (typeof at === "number") return at;
  refuse("amount", at);
  return undefined;
}

const FIGURES = [
  "setting",
  "amount",
  "dose",
  "seconds",
  "firstDrop",
  "yield",
  "atStop",
  "setPoint",
  "peak",
  "plateau",
  "tds",
  "volume",
  "waterIn",
  "trayMl",
] as const;

function asTyped(typed: Typed): Record<string, string> {
  return Object.fromEntries(FIGURES.flatMap((name) => (typed[name] ? [[name, typed[name]]] : [])));
}

export const takeSchema = z.object({ commandId, shotId: id, reason: text(500).default("") });

/** As far as a date can be kept, ms. */
const MOMENT = 8.64e15;

export const tapSchema = z.object({
  commandId,
  clockId: id,
  what: z.enum([...TAPS, "cleared"]),
  moment: z.coerce.number().int().min(0).max(MOMENT),
});
