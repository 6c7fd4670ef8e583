import { and, eq, isNull } from "drizzle-orm";
import { account } from "../../db/schema";
import type { SignedIn } from "../auth";
import { seal } from "../keys";
import { Refused } from "../refused";
import { inTransaction } from "../transaction";
import { keepEvent, tellThem } from "./events";
import { needProven } from "./proven";
import { hashed, newRecovery, stepOf } from "./second-factor";

/** One’s own second factor, switched on and off. */

/** Switches it on, once a first code has shown that the phone has the secret. @returns the codes for a lost phone; null with a wrong code */
export async function switchOn(by: SignedIn, secret: string, code: string): Promise<string[] | null> {
  needProven(by);
  const step = stepOf(secret, code);
  if (step === null) return null;
  const codes = newRecovery();
  await inTransaction(async (tx) => {
    const done = await tx
      .update(account)
      .set({ totpSecret: seal(secret), totpStep: step, recovery: codes.map(hashed) })
      .where(and(eq(account.id, by.id), isNull(account.totpSecret)))
      .returning({ id: account.id });
    // Another one in its place would be a way round the one that is on.
    if (done.length === 0) throw new Refused("It is on already. Switch it off first, with a code of it.", "code");
    await keepEvent(tx, { workshopId: by.workshop.id, what: "factor-on", of: by.id });
  });
  await tellThem(by, "factor-on");
  return codes;
}

export async function switchOff(by: SignedIn): Promise<void> {
  needProven(by);
  await inTransaction(async (tx) => {
    await tx.update(account).set({ totpSecret: null, recovery: [] }).where(eq(account.id, by.id));
    await keepEvent(tx, { workshopId: by.workshop.id, what: "factor-off", of: by.id });
  });
  await tellThem(by, "factor-off");
}
