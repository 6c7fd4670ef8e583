import { log, traceOf } from "./log";

/**
 * What one row of a list comes to; null when its record makes no sense. The log says where, and no other row goes down with it.
 *
 * @param what the row is, for the log
 */
export function unlessBroken<T>(what: string, work: () => T): T | null {
  try {
    return work();
  } catch (error) {
    log.error(traceOf(error), `${what} could not be worked out`);
    return null;
  }
}
