import { Refused } from "../refused";
import { type Tried, forgiven, takeTurn } from "../sign-in-limits";

/**
 * A secret that is asked for anywhere but at the door, a PIN, a setup code, the password of somebody signed in: wrong tries are slowed as there.
 *
 * @param tried whose guesses count together
 * @param words beside which field it is said, that it is wrong, and what else can be done while it is not this try’s turn
 * @param holds looks at it, once it is this try’s turn
 * @throws Refused beside the field, when it is wrong or not this try’s turn
 */
export async function unlessGuessed(
  tried: Pick<Tried, "email" | "address">,
  { field, wrong, meanwhile = "" }: { field: string; wrong: string; meanwhile?: string },
  holds: () => Promise<boolean> | boolean,
): Promise<void> {
  const counted = { ...tried, device: null };
  const wait = await takeTurn(counted);
  if (wait > 0) throw new Refused(`Too many wrong tries. Wait ${wait} s${meanwhile}.`, field);
  if (!(await holds())) throw new Refused(wrong, field);
  await forgiven(counted);
}

/** Of somebody who is signed in: a session left open, or taken, is no place to guess. */
export const againOf = ({ id }: { id: string }) => ({ email: `again ${id}`, address: `account ${id}` });
