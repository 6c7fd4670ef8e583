import { RateLimiterPostgres, RateLimiterRes } from "rate-limiter-flexible";
import { poolOf } from "../../db/client";
import { outside } from "../../db/wall";
import { database } from "../database";

/** How often a program may ask. Counted in the database, so that every process counts alike. */

/** Requests of one token a minute. Our choice: a copy of everything at a thousand rows each is never held up. */
export const PER_MINUTE = 600;

let made: RateLimiterPostgres | undefined;

const counter = () =>
  (made ??= new RateLimiterPostgres({
    storeClient: poolOf(database()),
    tableName: "sign_in_attempt",
    tableCreated: true,
    keyPrefix: "program",
    points: PER_MINUTE,
    duration: 60,
    // Whoever is over it asks the database no more until it is over.
    inMemoryBlockOnConsumed: PER_MINUTE + 1,
  }));

/** Counts one request of a token. @returns seconds to wait, 0 when it may go on */
export async function takeAsk(tokenId: string): Promise<number> {
  try {
    await outside(() => counter().consume(tokenId));
    return 0;
  } catch (refused) {
    if (!(refused instanceof RateLimiterRes)) throw refused;
    return Math.max(1, Math.ceil(refused.msBeforeNext / 1000));
  }
}
