import { workshopInForce } from "../../db/wall";
import { Refused } from "../refused";
import { turns } from "./turns";

/**
 * Pictures are unpacked and packed anew in threads that everything else shares: so many at once, so many of one workshop, or the link of one owner
 * would keep all others waiting for theirs.
 */

const AT_ONCE = 2;
/** Waiting of one workshop. Our choice: the photos of a long visit, sent once the line is back. */
const WAITING = 24;

const all = turns({ atOnce: AT_ONCE, waiting: WAITING });

/**
 * Does something with a picture, when it is its workshop’s turn.
 *
 * @param field beside which it is said that too many wait
 * @throws Refused where too many of the workshop’s wait
 */
export async function inTurnOfPictures<T>(field: string, work: () => Promise<T>): Promise<T> {
  const made = await all.take(workshopInForce() ?? "nobody", work);
  if (made === "too many") throw new Refused("Many pictures are being read already. Send it again in a moment.", field);
  return made;
}
