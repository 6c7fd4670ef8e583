import { workshopBehind } from "../../db/queries/doors";
import { inWorkshop } from "../../db/wall";
import { database } from "../database";
import { log } from "../log";
import { hashOf } from "../sessions";
import { takeGuess } from "../sign-in-limits";

const TOKEN = /^[\w-]{32}$/;

/** Whoever tries links that are none is slowed, and told so. */
export class TooManyTries extends Error {
  constructor(readonly wait: number) {
    super(`Too many links that are none. Wait ${wait} s.`);
  }
}

/**
 * What somebody with an owner’s link asks for, asked behind the wall of the workshop that made it; null where no link goes by that name.
 *
 * @param address where the request came from: tries that find nothing are counted by it
 * @throws TooManyTries once there were too many; a link that is good is never held up
 */
export async function behindOwnerLink<T>(
  token: string,
  address: string,
  work: () => Promise<T | null>,
): Promise<T | null> {
  const workshopId = TOKEN.test(token) ? await workshopBehind(database(), "owner", hashOf(token)) : null;
  // One that was withdrawn was once given to whoever asks: that is no guess.
  if (workshopId) return inWorkshop(workshopId, work);
  // A count of their own: nobody’s signing in is held up by it.
  const wait = await takeGuess("owner’s links", address);
  if (wait === 0) return null;
  log.warn({ wait }, "somebody tries owner’s links that are none");
  throw new TooManyTries(wait);
}
