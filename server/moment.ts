import { AsyncLocalStorage } from "node:async_hooks";

/** The moment at which something is written: now, but for a past that is made up for the demo by the very commands the screens use. */

const past = new AsyncLocalStorage<() => Date>();

export const moment = (): Date => past.getStore()?.() ?? new Date();

/** Does this work as if it were another time. */
export function atMoment<T>(clock: () => Date, work: () => Promise<T>): Promise<T> {
  return past.run(clock, work);
}
