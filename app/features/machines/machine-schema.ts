import { z } from "zod";
import { mixesAlphabets, plainSerial } from "~core/intake";
import { GAUGE_SEATS } from "~core/job";
import { KIND_IDS } from "~core/kind";
import { WANTED_IDS, type Wanted, type WantedId } from "~core/spec";
import { commandId } from "~server/web";
import { optionalDay, said, text } from "~server/fields";
import { wantedRange } from "~server/wanted";

/** The form of a register entry, as the server takes it. */

const number = (name: string, least: number, most: number) =>
  z
    .string()
    .trim()
    .default("")
    .transform((typed, ctx) => {
      const value = Number(typed.replace(",", ".") || 0);
      if (Number.isFinite(value) && value >= least && value <= most) return value;
      ctx.addIssue({ code: "custom", message: `${name}: a number from ${least} to ${most}.` });
      return z.NEVER;
    });

const optionalNumber = (name: string, least: number, most: number) =>
  z
    .string()
    .trim()
    .default("")
    .transform((typed, ctx) => {
      if (!typed) return null;
      const value = Number(typed.replace(",", "."));
      if (Number.isFinite(value) && value >= least && value <= most) return value;
      ctx.addIssue({ code: "custom", message: `${name}: a number from ${least} to ${most}, or empty.` });
      return z.NEVER;
    });

/** As it can be dialled; letters belong to the address. */
export const phoneField = z
  .string()
  .trim()
  .regex(/^(\+?[0-9][0-9 ()/.-]{3,38})?$/, "Digits, like +44 1632 960100. Whatever else there is goes to the address.")
  .default("");
export const emailField = z.union([z.literal(""), z.email("An address like vera@example.org.").max(254)]).default("");

/** A model described on the spot, where the library has none of it yet. */
export const NEW_MODEL = "new";

export const machineSchema = z
  .object({
    commandId,
    modelId: z.union([z.uuid(), z.literal(NEW_MODEL)], "Choose a model from the library, or describe a new one."),
    newMaker: text(80).default(""),
    newName: text(80).default(""),
    newKind: z.union([z.enum(KIND_IDS), z.literal("")]).default(""),
    serial: said(60, 1, "Type the serial as it stands on the plate.")
      .transform(plainSerial)
      .refine((serial) => !mixesAlphabets(serial), "It mixes letters of two alphabets that look alike. Type it again.")
      .refine((serial) => serial !== "", "Type the serial as it stands on the plate."),
    owner: said(120, 1, "Whose machine is it?"),
    contact: text(200).default(""),
    phone: phoneField,
    email: emailField,
    site: said(120, 1, "Where does it stand?"),
    town: said(80, 1, "In which town?"),
    altitude: number("Altitude in metres", -400, 5000),
    water: text(300).default(""),
    installedOn: optionalDay,
    gaugePlace: z.enum(GAUGE_SEATS, "Say where its gauge sits."),
    gaugeWords: text(120).default(""),
    gaugeToGroup: number("Gauge-to-group correction", -3, 1),
    gaugeToGroupU: optionalNumber("Its uncertainty", 0, 2),
    gaugeHighest: optionalNumber("Highest on the gauge", 1, 60),
    gaugeStep: optionalNumber("One mark on the gauge", 0.01, 5),
    gaugeClass: optionalNumber("Accuracy class", 0.1, 10),
    flowControl: z
      .string()
      .optional()
      .transform((x) => x === "yes"),
    pumpLabel: optionalNumber("Pressure on the pump’s label", 1, 30),
    wantedBrew: text(60).default(""),
    wantedSteam: text(60).default(""),
    wantedDose: text(60).default(""),
    wantedOffset: text(60).default(""),
    wantedReason: text(300).default(""),
    serves: text(60).default(""),
    modifications: text(1000).default(""),
    coffee: text(120).default(""),
    shotsPerDay: optionalNumber("Shots a day", 1, 5000).transform((n) => (n === null ? null : Math.round(n))),
    grinder: text(120).default(""),
  })
  .transform(({ newMaker, newName, newKind, wantedReason, modelId, ...m }, ctx) => {
    const fail = (path: string, message: string) => ctx.addIssue({ code: "custom", path: [path], message });
    const fresh = modelId === NEW_MODEL;
    if (fresh && !newMaker) fail("newMaker", "Who makes it?");
    if (fresh && !newName) fail("newName", "What is it called?");
    if (fresh && !newKind) fail("newKind", "Choose its kind.");
    const { wantedBrew, wantedSteam, wantedDose, wantedOffset, ...rest } = m;
    const typed: Record<WantedId, [string, string]> = {
      brew: ["wantedBrew", wantedBrew],
      steam: ["wantedSteam", wantedSteam],
      dose: ["wantedDose", wantedDose],
      offset: ["wantedOffset", wantedOffset],
    };
    const wanted = wantedOf(typed, wantedReason, fail);
    return {
      ...rest,
      wanted,
      model: fresh ? { maker: newMaker, name: newName, kind: newKind || ("K7" as const) } : modelId,
    };
  });

/** Ranges wanted of a machine, each as typed in its field; they come with a reason. */
function wantedOf(
  typed: Readonly<Record<WantedId, readonly [field: string, range: string]>>,
  reason: string,
  fail: (path: string, message: string) => void,
): Wanted {
  const asked = WANTED_IDS.flatMap((id) => {
    const [field, range] = typed[id];
    if (!range) return [];
    const read = wantedRange(id, range, "");
    if (typeof read !== "string") return [[id, { ...read, reason }] as const];
    fail(field, read);
    return [];
  });
  if (asked.length > 0 && reason.length < 3) fail("wantedReason", "Say why: the report shows it.");
  return Object.fromEntries(asked);
}

/** A change of the machine, with the day and who did it. */
export const changeSchema = z.object({
  commandId,
  doneOn: optionalDay,
  text: said(500, 3, "Say what was changed."),
  doneBy: text(120).default(""),
});

/** Out of service, or back in it. */
export const retireSchema = z.object({
  commandId,
  state: z.enum(["retired", "in-service"]),
  reason: said(300, 3, "Say why: its history keeps it."),
});
