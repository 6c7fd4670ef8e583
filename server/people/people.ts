import { verify } from "@node-rs/argon2";
import { and, asc, eq, gt, isNull, sql } from "drizzle-orm";
import type { Transaction } from "../../db/client";
import { workshopBehind } from "../../db/queries/doors";
import { account, oneTimeLink, workshop } from "../../db/schema";
import { type SignedIn, hashPassword } from "../auth";
import { type Outcome, once } from "../command";
import { database } from "../database";
import { need } from "../permissions";
import { Refused } from "../refused";
import { lives } from "../sessions";
import { inTransaction } from "../transaction";
import { keepEvent, tellThem } from "./events";
import { againOf, unlessGuessed } from "./guesses";
import { makeLink } from "./links";
import { endAllOf, personIn } from "./opens";
import { passwordProblem } from "./passwords";
import { markProven, needProven } from "./proven";

/** Who belongs to a workshop: asked in, given a role, let go; and each one’s own password. Nobody is ever deleted: records name them. */

export function peopleOf(workshopId: string) {
  // Both tables have an id: the columns are named in full.
  const open = sql<number>`(select count(*)::int from session where session.account_id = account.id and ${lives()})`;
  return database()
    .select({
      id: account.id,
      name: account.name,
      email: account.email,
      role: account.role,
      active: account.active,
      secondFactor: sql<boolean>`${account.totpSecret} is not null`,
      sessions: open,
    })
    .from(account)
    .where(eq(account.workshopId, workshopId))
    .orderBy(asc(account.name));
}

interface Made {
  outcome: Outcome;
  /** The link’s token, the once that it can be shown; null of a repeat. */
  token: string | null;
}

/** Somebody new is asked in. */
export async function invite(
  by: SignedIn,
  commandId: string,
  who: { name: string; email: string; role: SignedIn["role"] },
): Promise<Made> {
  need(by, "people");
  const email = who.email.trim().toLowerCase();
  let token: string | null = null;
  const outcome = await once(by, commandId, "invite", { ...who, email }, async (tx) => {
    // One address opens one account, of whatever workshop.
    if (await workshopBehind(tx, "email", email)) throw new Refused("This address has an account already.", "email");
    // Asked in twice, the newer link counts.
    await withdrawLinks(tx, by.workshop.id, eq(oneTimeLink.email, email));
    token = await makeLink(tx, by, commandId, { what: "invite", ...who, email });
  });
  return { outcome, token };
}

/** A link for somebody of the workshop whose password is lost. */
export async function resetLink(by: SignedIn, commandId: string, accountId: string): Promise<Made & { email: string }> {
  need(by, "people");
  let [token, email]: [string | null, string] = [null, ""];
  const outcome = await once(by, commandId, "reset-link", { accountId }, async (tx) => {
    const person = await personIn(tx, by, accountId);
    if (!person.active) throw new Refused(`${person.name} is let go. Take them in again first.`);
    email = person.email;
    await withdrawLinks(tx, by.workshop.id, eq(oneTimeLink.accountId, accountId));
    const { name, role } = person;
    token = await makeLink(tx, by, commandId, { what: "reset", email, name, role, accountId });
    await keepEvent(tx, { workshopId: by.workshop.id, what: "reset-link", of: accountId, by: by.id });
  });
  return { outcome, token, email };
}

/** A link that was sent astray. */
export function withdrawLink(by: SignedIn, commandId: string, id: string): Promise<Outcome> {
  need(by, "people");
  return once(by, commandId, "withdraw-link", { id }, (tx) =>
    withdrawLinks(tx, by.workshop.id, eq(oneTimeLink.id, id)),
  );
}

async function withdrawLinks(tx: Transaction, workshopId: string, which: ReturnType<typeof eq>): Promise<void> {
  await tx
    .update(oneTimeLink)
    .set({ expiresAt: new Date() })
    .where(
      and(
        eq(oneTimeLink.workshopId, workshopId),
        which,
        isNull(oneTimeLink.usedAt),
        gt(oneTimeLink.expiresAt, new Date()),
      ),
    );
}

export function setRole(by: SignedIn, commandId: string, accountId: string, role: SignedIn["role"]): Promise<Outcome> {
  need(by, "people");
  return once(by, commandId, "role", { accountId, role }, async (tx) => {
    const person = await personIn(tx, by, accountId);
    if (role !== "lead") await keepALead(tx, by, accountId);
    await tx.update(account).set({ role }).where(eq(account.id, person.id));
    await keepEvent(tx, { workshopId: by.workshop.id, what: "role", of: accountId, by: by.id, about: role });
  });
}

/** Let go, or taken in again. Whoever is let go is out at once, on every device. */
export function setActive(by: SignedIn, commandId: string, accountId: string, active: boolean): Promise<Outcome> {
  need(by, "people");
  return once(by, commandId, "active", { accountId, active }, async (tx) => {
    const person = await personIn(tx, by, accountId);
    if (!active) await keepALead(tx, by, accountId);
    await tx.update(account).set({ active }).where(eq(account.id, person.id));
    await keepEvent(tx, {
      ...{ workshopId: by.workshop.id, what: active ? "taken-in" : "let-go", of: accountId, by: by.id },
    });
    if (!active) {
      await endAllOf(tx, accountId);
      await withdrawLinks(tx, by.workshop.id, eq(oneTimeLink.accountId, accountId));
    }
  });
}

/** A workshop without a lead could never change anything again. All leads are locked: two of them can’t let each other go at once. */
async function keepALead(tx: Transaction, by: SignedIn, leaving: string): Promise<void> {
  const leads = await tx
    .select({ id: account.id })
    .from(account)
    .where(and(eq(account.workshopId, by.workshop.id), eq(account.role, "lead"), eq(account.active, true)))
    .orderBy(account.id)
    .for("update");
  if (leads.some((l) => l.id === leaving) && leads.length === 1)
    throw new Refused("The last lead stays: make somebody else a lead first.");
}

/** One’s own password, the present one asked. All else that opens the account ends: other sessions, passkeys, tokens, the PIN, tablets. */
export async function changePassword(by: SignedIn, given: { now: string; next: string }): Promise<void> {
  need(by, "own");
  const [own] = await database()
    .select({ hash: account.passwordHash, email: account.email })
    .from(account)
    .where(eq(account.id, by.id));
  const wrong = { field: "now", wrong: "That is not your password.", meanwhile: ", then try again" };
  await unlessGuessed(againOf(by), wrong, async () => own !== undefined && verify(own.hash, given.now));
  const problem = passwordProblem(given.next, [own!.email, by.name, by.workshop.name]);
  if (problem) throw new Refused(problem, "next");
  const passwordHash = await hashPassword(given.next);
  await inTransaction(async (tx) => {
    await tx.update(account).set({ passwordHash }).where(eq(account.id, by.id));
    await endAllOf(tx, by.id, by.sessionId);
    await markProven(tx, by.sessionId);
    await keepEvent(tx, { workshopId: by.workshop.id, what: "password", of: by.id });
  });
  await tellThem(by, "password");
}

/** Whether everybody of the workshop who signs in with a password needs a second factor. */
export async function requireFactor(by: SignedIn, required: boolean): Promise<void> {
  need(by, "people");
  needProven(by);
  const workshopId = by.workshop.id;
  await inTransaction(async (tx) => {
    await tx.update(workshop).set({ factorRequired: required }).where(eq(workshop.id, workshopId));
    await keepEvent(tx, { workshopId, what: required ? "factor-required" : "factor-free", of: by.id });
  });
}
