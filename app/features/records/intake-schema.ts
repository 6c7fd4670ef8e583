import { z } from "zod";
import { DAY_ORDERS, DECIMALS, ENCODINGS, SEPARATORS } from "~core/intake";

/** What the page of an import sends: how the file is to be understood. */

const byNumber = z.record(z.string(), z.string().max(100)).default({});

/** `c3` or `s3` is the fourth. */
const numbered = <T>(of: Readonly<Record<string, T>>): Record<number, T> =>
  Object.fromEntries(Object.entries(of).map(([name, value]) => [Number(name.slice(1)), value]));

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

export const chooseSchema = z.object({
  choice: z.record(z.string(), z.enum(["ours", "theirs"])).default({}),
  same: z.record(z.string(), z.literal("yes")).default({}),
});

export const choicesFrom = ({ choice, same }: z.output<typeof chooseSchema>) => ({
  choice: numbered(choice),
  same: Object.keys(numbered(same)).map(Number),
});

export const storeSchema = z.object({ leaveBad: z.literal("yes").optional() });
export const plainSchema = z.object({});

export const answersFrom = ({ headed, dayOrder, target, unit, serial, ...rest }: z.output<typeof answersSchema>) => ({
  ...rest,
  headed: headed === "yes",
  dayOrder: dayOrder ?? null,
  targets: numbered(target),
  units: numbered(unit),
  serials: numbered(serial),
});
