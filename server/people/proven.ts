import { verify } from "@node-rs/argon2";
import { eq, sql } from "drizzle-orm";
import type { Transaction } from "../../db/client";
import { account, session } from "../../db/schema";
import type { SignedIn } from "../auth";
import { database } from "../database";
import { need } from "../permissions";
import { Refused } from "../refused";
import { inTransaction } from "../transaction";
import { againOf, unlessGuessed } from "./guesses";

/** A session alone changes nothing of what opens an account: whoever took one would stay for good. The password, or a passkey, is asked for again, now and then. */

export const ASK_AGAIN = "Type your password once more, at the top of this page: it was asked for too long ago.";

/** @throws Refused where the password was shown too long ago in this session */
export function needProven(by: SignedIn): void {
  need(by, "own");
  if (!by.proven) throw new Refused(ASK_AGAIN, undefined, 403);
}

/** The password once more. @throws Refused beside the field when it is another */
export async function proveAgain(by: SignedIn, password: string): Promise<void> {
  need(by, "own");
  const [own] = await database().select({ hash: account.passwordHash }).from(account).where(eq(account.id, by.id));
  const wrong = { field: "again", wrong: "That is not your password.", meanwhile: ", then try again" };
  await unlessGuessed(againOf(by), wrong, async () => own !== undefined && verify(own.hash, password));
  await inTransaction((tx) => markProven(tx, by.sessionId));
}

/** Whoever uses this session has shown just now who they are. */
export async function markProven(tx: Transaction, sessionId: string): Promise<void> {
  await tx
    .update(session)
    .set({ provenAt: sql`now()` })
    .where(eq(session.id, sessionId));
}
