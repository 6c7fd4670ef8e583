import { and, desc, eq, gt, isNull } from "drizzle-orm";
import { type Transaction } from "../../db/client";
import { workshopBehind } from "../../db/queries/doors";
import { type LINK_KINDS, account, oneTimeLink, workshop } from "../../db/schema";
import { inWorkshop } from "../../db/wall";
import { admit, hashPassword, type SignedIn } from "../auth";
import { database } from "../database";
import { Refused } from "../refused";
import { hashOf, newToken } from "../sessions";
import { inTransaction } from "../transaction";
import { keepEvent } from "./events";
import { endAllOf } from "./opens";
import { passwordProblem } from "./passwords";

/** Links that open one thing once: somebody new comes in by one, and a lost password is set anew. */

/** Hours each is good for. */
const GOOD_FOR = { invite: 48, reset: 24 } as const;

export type LinkKind = (typeof LINK_KINDS)[number];

interface LinkFor {
  what: LinkKind;
  email: string;
  name: string;
  role: SignedIn["role"];
  accountId?: string | undefined;
}

/** Made and shown once: only its hash is kept. @returns the token */
export async function makeLink(tx: Transaction, by: SignedIn, id: string, of: LinkFor): Promise<string> {
  const token = newToken();
  const at = new Date();
  const expiresAt = new Date(at.getTime() + GOOD_FOR[of.what] * 3_600_000);
  await tx
    .insert(oneTimeLink)
    .values({ ...of, id, tokenHash: hashOf(token), workshopId: by.workshop.id, madeBy: by.id, at, expiresAt });
  return token;
}

/** Links of a workshop that are good still, newest first. */
export function openLinks(workshopId: string) {
  return database()
    .select({
      id: oneTimeLink.id,
      what: oneTimeLink.what,
      email: oneTimeLink.email,
      name: oneTimeLink.name,
      role: oneTimeLink.role,
      expiresAt: oneTimeLink.expiresAt,
    })
    .from(oneTimeLink)
    .where(
      and(eq(oneTimeLink.workshopId, workshopId), isNull(oneTimeLink.usedAt), gt(oneTimeLink.expiresAt, new Date())),
    )
    .orderBy(desc(oneTimeLink.at));
}

/** What a link is for; undefined when it is used, too old, withdrawn or none. */
export async function linkOf(token: string) {
  const workshopId = await behind(token);
  if (!workshopId) return undefined;
  const [found] = await inWorkshop(workshopId, () => openLink(token));
  return found;
}

const behind = async (token: string) =>
  /^[\w-]{43}$/.test(token) ? workshopBehind(database(), "link", hashOf(token)) : null;

function openLink(token: string) {
  return database()
    .select({
      what: oneTimeLink.what,
      email: oneTimeLink.email,
      name: oneTimeLink.name,
      workshop: { name: workshop.name, town: workshop.town },
    })
    .from(oneTimeLink)
    .innerJoin(workshop, eq(workshop.id, oneTimeLink.workshopId))
    .where(
      and(eq(oneTimeLink.tokenHash, hashOf(token)), isNull(oneTimeLink.usedAt), gt(oneTimeLink.expiresAt, new Date())),
    );
}

const GONE = "This link was used already, or is too old. Ask a lead of the workshop for a new one.";

/**
 * Takes a link: makes the account or sets its password, ends every session it had, and opens one here.
 *
 * @returns the cookies
 * @throws Refused beside the field it concerns
 */
export async function takeLink(
  request: Request,
  token: string,
  given: { name: string; password: string },
): Promise<string[]> {
  const workshopId = await behind(token);
  if (!workshopId) throw new Refused(GONE);
  return inWorkshop(workshopId, () => take(request, token, given));
}

async function take(request: Request, token: string, given: { name: string; password: string }): Promise<string[]> {
  const [found] = await openLink(token);
  if (!found) throw new Refused(GONE);
  const name = found.what === "invite" ? given.name : found.name;
  const problem = passwordProblem(given.password, [found.email, name, found.workshop.name]);
  if (problem) throw new Refused(problem, "password");
  const passwordHash = await hashPassword(given.password);
  const accountId = await inTransaction(async (tx) => {
    const [link] = await tx
      .update(oneTimeLink)
      .set({ usedAt: new Date() })
      .where(and(eq(oneTimeLink.tokenHash, hashOf(token)), isNull(oneTimeLink.usedAt)))
      .returning();
    if (!link) throw new Refused(GONE);
    if (link.accountId) {
      // Whoever lost the password may have lost the phone too: the second factor goes, and is set up again.
      const reset = { passwordHash, totpSecret: null, recovery: [], pinHash: null };
      await tx.update(account).set(reset).where(eq(account.id, link.accountId));
      await endAllOf(tx, link.accountId);
      await keepEvent(tx, { workshopId: link.workshopId, what: "reset", of: link.accountId });
      return link.accountId;
    }
    const { id, workshopId, email, role } = link;
    const preferences = await startingPreferences(tx, workshopId);
    const made = await tx
      .insert(account)
      .values({ id, workshopId, email, role, name, passwordHash, preferences })
      .onConflictDoNothing()
      .returning({ id: account.id });
    if (made.length === 0) throw new Refused("This address has an account already. Sign in with it.");
    return id;
  });
  return admit(request, accountId);
}

async function startingPreferences(tx: Transaction, workshopId: string) {
  const [shop] = await tx.select({ unit: workshop.pressureUnit }).from(workshop).where(eq(workshop.id, workshopId));
  return { pressureUnit: shop!.unit, theme: "system" } as const;
}
