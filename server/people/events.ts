import { desc, eq, sql } from "drizzle-orm";
import { alias } from "drizzle-orm/pg-core";
import type { Transaction } from "../../db/client";
import { type ACCOUNT_EVENTS, account, accountEvent } from "../../db/schema";
import { database } from "../database";
import { sendMail } from "./mail";

/** What happens to what opens accounts: kept for the workshop’s lead, and told to whose account it is. No secret stands in it. */

export type AccountEvent = (typeof ACCOUNT_EVENTS)[number];

interface Happened {
  readonly workshopId: string;
  readonly what: AccountEvent;
  /** Whose account. */
  readonly of: string;
  /** Who did it, where that is somebody else. */
  readonly by?: string;
  /** On which device, or what it is called. */
  readonly about?: string;
}

export async function keepEvent(
  tx: Pick<Transaction, "insert">,
  { workshopId, what, of, by = of, about = "" }: Happened,
): Promise<void> {
  await tx.insert(accountEvent).values({ workshopId, what, accountId: of, by, about: about.slice(0, 120) });
}

export const EVENT_WORDS: Readonly<Record<AccountEvent, string>> = {
  "signed-in": "signed in",
  "wrong-password": "was given a wrong password",
  "wrong-code": "was given a wrong code after the password",
  "took-over": "took over on a tablet by PIN",
  "wrong-pin": "was given a wrong PIN",
  password: "has a new password",
  reset: "has a new password, by a lead’s link",
  "reset-link": "was made a link for a new password",
  role: "has another role",
  "let-go": "was let go",
  "taken-in": "was taken in again",
  "factor-on": "has a second factor",
  "factor-off": "has no second factor any more",
  "factor-required": "asks everybody for a second factor",
  "factor-free": "leaves the second factor to everybody",
  pin: "has a new PIN",
  "no-pin": "has no PIN any more",
  passkey: "has a new passkey",
  "no-passkey": "has one passkey less",
  "wrong-passkey": "was shown a passkey that did not answer rightly",
  tablet: "made a device a tablet of the workshop",
  "no-tablet": "took a tablet away",
  token: "made a program’s token",
  "no-token": "has one program’s token less",
  ended: "had something that opens the account ended",
  refused: "asked for what is not theirs",
};

/** The newest of a workshop, in words. @param limit how many */
export async function eventsOf(workshopId: string, limit: number) {
  const doer = alias(account, "doer");
  const rows = await database()
    .select({
      id: accountEvent.id,
      at: accountEvent.at,
      what: accountEvent.what,
      about: accountEvent.about,
      name: account.name,
      by: sql<string>`case when ${accountEvent.by} = ${accountEvent.accountId} then '' else ${doer.name} end`,
    })
    .from(accountEvent)
    .innerJoin(account, eq(account.id, accountEvent.accountId))
    .innerJoin(doer, eq(doer.id, accountEvent.by))
    .where(eq(accountEvent.workshopId, workshopId))
    .orderBy(desc(accountEvent.at), accountEvent.id)
    .limit(limit);
  return rows.map(({ at, what, ...row }) => ({ ...row, at: at.toISOString(), said: EVENT_WORDS[what] }));
}

interface Teller {
  readonly id: string;
  readonly workshop: { readonly name: string };
}

/** A letter to whose account it is: who did not do it themselves learns of it. Nothing waits for it. */
export async function tellThem(by: Teller, what: AccountEvent, of = by.id): Promise<void> {
  const [row] = await database().select({ email: account.email }).from(account).where(eq(account.id, of));
  if (!row) return;
  const said = `Your account at ${by.workshop.name} ${EVENT_WORDS[what]}.`;
  void sendMail(
    row.email,
    said,
    `${said}\nIf that was not you, tell a lead of the workshop at once, and take a new password.`,
  );
}
