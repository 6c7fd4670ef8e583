import type { SignedIn } from "../auth";
import { Refused } from "../refused";
import { forgiven, takeTurn } from "../sign-in-limits";

/**
 * A secret asked for again of somebody who is signed in: a session left open, or taken, is no place to guess it. Wrong tries are slowed as at the
 * door.
 *
 * @param holds looks at it, once it is this try’s turn
 * @throws Refused beside the field, when it is wrong or not this try’s turn
 */
export async function unlessGuessed(
  by: SignedIn,
  { field, wrong }: { field: string; wrong: string },
  holds: () => Promise<boolean>,
): Promise<void> {
  const tried = { email: `again ${by.id}`, address: `account ${by.id}`, device: null };
  const wait = await takeTurn(tried);
  if (wait > 0) throw new Refused(`Too many wrong tries. Wait ${wait} s, then try again.`, field);
  if (!(await holds())) throw new Refused(wrong, field);
  await forgiven(tried);
}
