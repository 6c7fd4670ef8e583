import { eq, sql } from "drizzle-orm";
import { type Preferences, account } from "../../db/schema";
import type { Person } from "../auth";
import { inTransaction } from "../transaction";

/**
 * Keeps what somebody has set and leaves the rest as it is by then: the keys are set on the laptop while the phone answers about sounds. What
 * the same request still says of them is what is kept now.
 */
export async function keepPreferences(person: Person, set: Partial<Preferences>): Promise<void> {
  const [kept] = await inTransaction((tx) =>
    tx
      .update(account)
      .set({ preferences: sql`${account.preferences} || ${JSON.stringify(set)}::jsonb` })
      .where(eq(account.id, person.id))
      .returning({ preferences: account.preferences }),
  );
  if (kept) person.preferences = kept.preferences;
}
