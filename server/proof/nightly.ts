import { database } from "../database";
import { KEY_FOLDER } from "../keys";
import { log, traceOf } from "../log";
import { verify } from "./verify";

const DAY = 86_400_000;
/** Hour of the day, UTC, from which it looks: few work then. */
const AT = 2;

/** Every night the signed records are looked through; what was changed behind the application is in the log, for whoever keeps watch. */
export function verifyNightly(): void {
  const look = () =>
    void verify(database(), { memory: KEY_FOLDER() })
      .then(({ seals, found, unsealed }) => {
        if (found.length === 0) return log.info({ seals, unsealed }, "signed records hold");
        for (const { workshop, serial, job, what } of found.slice(0, 100))
          log.error({ workshop, serial, job, what }, "a signed record was changed");
        return log.error({ seals, found: found.length }, "signed records do not hold");
      })
      .catch((error: unknown) => log.warn(traceOf(error), "signed records could not be looked through"));
  const now = new Date();
  // Processes look one after the other, not all at once.
  const first = new Date(now).setUTCHours(AT, 60 * Math.random(), 0, 0);
  setTimeout(
    () => {
      look();
      setInterval(look, DAY).unref();
    },
    first > now.getTime() ? first - now.getTime() : first + DAY - now.getTime(),
  ).unref();
}
