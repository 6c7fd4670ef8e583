import { createHash } from "node:crypto";
import type { NextFunction, Request, Response } from "express";
import { LRUCache } from "lru-cache";
import { turns } from "./aside/turns";

/**
 * Requests are begun in turns: so many of one person, of one workshop and of all at once, and those who wait are taken one of each in the round. Forty
 * requests of one wait behind each other, not before another’s one. A turn ends with the head of the answer: streams of news and files that travel
 * hold nobody up.
 */

/** In all, one for each connection to the database; of one workshop, so that another finds one free. */
const AT_ONCE = 10;
const OF_A_WORKSHOP = 6;
/** Of one person: a browser asks for six things of a page at once. Waiting: beyond, nobody looks at the answers any more. Our choice. */
const OF_A_PERSON = 6;
const WAITING = 100;
/** Longest that one holds a turn, ms: what takes longer waits itself, for a body on a poor line or a lock, and others do not wait for that. */
const LONGEST = 2000;

const persons = turns({ atOnce: Infinity, each: OF_A_PERSON, waiting: WAITING });
const workshops = turns({ atOnce: AT_ONCE, each: OF_A_WORKSHOP, waiting: 4 * WAITING });

/** Which workshop a caller turned out to be of: theirs is its turn, until then it is their own. */
const known = new LRUCache<string, string>({ max: 20_000 });

/** Notes whose workshop a caller is of. @param caller of {@link callerOf} */
export const isOf = (caller: string, workshopId: string): void => void known.set(caller, workshopId);

/** Who asks, as far as the request says by itself: by what it opens doors with, else by where it comes from. A hash: nothing here opens anything. */
export function callerOf(request: Request): string {
  const cookie = /(?:^|; ?)(?:__Host-)?ng_session=([\w-]{20,100})/.exec(request.headers.cookie ?? "")?.[1];
  const link = /^\/(?:owner|card|calendar)\/([\w-]{8,100})/.exec(request.path)?.[1];
  const said = link ?? request.headers.authorization ?? cookie ?? request.ip ?? "unknown";
  return createHash("sha256").update(said).digest("base64url");
}

export function inTurn(request: Request, response: Response, next: NextFunction): void {
  const caller = callerOf(request);
  response.locals.caller = caller;
  const gone = new AbortController();
  response.once("close", () => gone.abort());
  const answered = () =>
    new Promise<void>((resolve) => {
      const late = setTimeout(resolve, LONGEST).unref();
      const over = () => {
        clearTimeout(late);
        resolve();
      };
      whenHeaded(response, over);
      response.once("close", over);
      if (response.destroyed) over();
      else next();
    });
  persons
    .take(caller, () => workshops.take(known.get(caller) ?? caller, answered, gone.signal), gone.signal)
    .then((came) => {
      if (came === "too many" && !response.headersSent)
        response
          .status(429)
          .setHeader("Retry-After", "5")
          .type("text")
          .send("Too many requests of yours wait already. Try again in a moment.");
    })
    .catch((error: unknown) => {
      if (!gone.signal.aborted) next(error);
    });
}

/** Calls once, when the head of the answer is written. */
function whenHeaded(response: Response, call: () => void): void {
  const writeHead = response.writeHead.bind(response) as (...args: unknown[]) => Response;
  response.writeHead = (...args: unknown[]) => {
    call();
    return writeHead(...args);
  };
}
