/** Days as people write them in a spreadsheet: three orders, and no guessing between them. */

export const DAY_ORDERS = ["dmy", "mdy", "ymd"] as const;
export type DayOrder = (typeof DAY_ORDERS)[number];

export const DAY_ORDER_WORDS: Readonly<Record<DayOrder, string>> = {
  dmy: "day, month, year",
  mdy: "month, day, year",
  ymd: "year, month, day",
};

const MONTHS = ["jan", "feb", "mar", "apr", "may", "jun", "jul", "aug", "sep", "oct", "nov", "dec"];
/** Earliest year a visit can have been in. Our choice: older than any machine in service. */
const EARLIEST = 1950;
/** Two digits stand for 20xx up to this, for 19xx above: nobody serviced these machines in 2070. */
const CENTURY = 69;

const NUMBERS = /^(\d{1,4})[./\-\s]+(\d{1,2})[./\-\s]+(\d{1,4})\.?$/;
const NAMED =
  /^(?:[a-z]+,?\s+)?(?:(\d{1,2})(?:st|nd|rd|th)?[\s.-]+([a-z]{3,9})\.?|([a-z]{3,9})\.?\s+(\d{1,2})(?:st|nd|rd|th)?),?[\s.-]+(\d{4}|\d{2})$/;
/** A time of the day behind it says nothing of the day. */
const TIME = /[t\s,]{1,4}\d{1,2}:\d{2}(?::\d{2}(?:\.\d+)?)?\s*(?:[ap]m|z|[+-]\d{2}:?\d{2})?$/;

export type DayProblem = "empty" | "not-a-day" | "serial" | "no-such-day" | "too-early" | "future";

export type ReadDay =
  { readonly ok: true; readonly iso: string } | { readonly ok: false; readonly problem: DayProblem };

const no = (problem: DayProblem): ReadDay => ({ ok: false, problem });

/**
 * A day in the order given.
 *
 * @param order of one written in numbers; with a month’s name or four digits in front the order is plain
 * @param today ISO day: a visit of a later one is none
 * @example readDay("3.6.2021", "dmy", "2026-01-01") // 2021-06-03
 */
export function readDay(typed: string, order: DayOrder, today: string): ReadDay {
  const text = typed.trim().toLowerCase().replace(TIME, "");
  if (text === "") return no("empty");
  const named = NAMED.exec(text);
  if (named) {
    const month = MONTHS.indexOf((named[2] ?? named[3])!.slice(0, 3)) + 1;
    return month === 0 ? no("not-a-day") : dayOf(named[5]!, month, Number(named[1] ?? named[4]), today);
  }
  // What a spreadsheet keeps a day as, when its column was not told that it is one.
  if (/^[2-6]\d{4}([.,]\d+)?$/.test(text)) return no("serial");
  const parts = NUMBERS.exec(text);
  if (!parts) return no("not-a-day");
  const [, a, b, c] = parts as unknown as [string, string, string, string];
  if (a.length === 4) return c.length > 2 ? no("not-a-day") : dayOf(a, Number(b), Number(c), today);
  if (a.length === 3 || c.length === 3 || c.length === 1) return no("not-a-day");
  if (order === "ymd") return c.length === 4 ? no("not-a-day") : dayOf(a, Number(b), Number(c), today);
  return order === "dmy" ? dayOf(c, Number(b), Number(a), today) : dayOf(c, Number(a), Number(b), today);
}

function dayOf(year: string, month: number, day: number, today: string): ReadDay {
  const full = year.length <= 2 ? Number(year) + (Number(year) > CENTURY ? 1900 : 2000) : Number(year);
  const iso = `${full}-${String(month).padStart(2, "0")}-${String(day).padStart(2, "0")}`;
  const real = new Date(Date.UTC(full, month - 1, day));
  if (full > 9999 || real.getUTCMonth() !== month - 1 || real.getUTCDate() !== day) return no("no-such-day");
  if (full < EARLIEST) return no("too-early");
  return iso > today ? no("future") : { ok: true, iso };
}

/**
 * The orders in which all of these can be read; where none can, those that most of them fit. More than one: somebody has to say which it is.
 *
 * @param typed as they stand in the file; empty ones say nothing
 */
export function possibleOrders(typed: readonly string[], today: string): DayOrder[] {
  const days = typed.filter((t) => t.trim() !== "");
  const fits = DAY_ORDERS.map((order) => ({ order, n: days.filter((d) => readDay(d, order, today).ok).length }));
  const most = Math.max(...fits.map((f) => f.n));
  if (most === 0) return [];
  const best = fits.filter((f) => f.n === most).map((f) => f.order);
  // Where they all come to the same days there is nothing to ask.
  const same = days.every((d) => new Set(best.map((o) => said(readDay(d, o, today)))).size === 1);
  return same ? best.slice(0, 1) : best;
}

const said = (day: ReadDay) => (day.ok ? day.iso : day.problem);

/** One of these days that the orders read differently: to ask with. */
export function tellingDay(typed: readonly string[], orders: readonly DayOrder[], today: string): string | null {
  return typed.find((d) => new Set(orders.map((o) => said(readDay(d, o, today)))).size > 1) ?? null;
}
