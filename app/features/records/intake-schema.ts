import { z } from "zod";
import { DAY_ORDERS, DECIMALS, ENCODINGS, SEPARATORS } from "~core/intake";

/** What the page of an import sends: how the file is to be understood. */

const byNumber = z.record(z.string(), z.string().max(100)).default({});

export const answersSchema = z.object({
  encoding: z.enum(ENCODINGS),
  separator: z.enum(SEPARATORS),
  headed: z.enum(["yes", "no"]),
  decimals: z.enum(DECIMALS),
  dayOrder: z.enum(DAY_ORDERS).optional(),
  target: byNumber,
  unit: byNumber,
  serial: byNumber,
});

export const storeSchema = z.object({ leaveBad: z.literal("yes").optional() });
export const plainSchema = z.object({});

/** `c3` or `s3` is the fourth. */
const numbered = (of: Record<string, string>) =>
  Object.fromEntries(Object.entries(of).map(([name, value]) => [Number(name.slice(1)), value]));

export const answersFrom = ({ headed, dayOrder, target, unit, serial, ...rest }: z.output<typeof answersSchema>) => ({
  ...rest,
  headed: headed === "yes",
  dayOrder: dayOrder ?? null,
  targets: numbered(target),
  units: numbered(unit),
  serials: numbered(serial),
});
