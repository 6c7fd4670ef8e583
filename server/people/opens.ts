import { and, eq, isNull } from "drizzle-orm";
import type { Transaction } from "../../db/client";
import { account, apiToken, benchTablet, knownDevice, passkey, session } from "../../db/schema";
import { tokensOf } from "../api/tokens";
import type { SignedIn } from "../auth";
import { database } from "../database";
import { moment } from "../moment";
import { need } from "../permissions";
import { Refused } from "../refused";
import { endSession, endSessions, endSessionsOn, lives } from "../sessions";
import { inTransaction } from "../transaction";
import { keepEvent } from "./events";

/** All that opens an account: sessions, passkeys, tokens of programs, the PIN, tablets that its person enrolled. */

export const OPENERS = ["session", "passkey", "token", "pin", "tablet"] as const;
export type Opener = (typeof OPENERS)[number];

export interface Opens {
  readonly what: Opener;
  /** Of a PIN: the account’s own. */
  readonly id: string;
  readonly name: string;
  readonly since: string;
}

/** By account, of all of a workshop. */
export async function opensOf(workshopId: string): Promise<ReadonlyMap<string, readonly Opens[]>> {
  const db = database();
  const [sessions, keys, tokens, pins, tablets] = await Promise.all([
    db
      .select({ of: session.accountId, id: session.id, about: session.about, way: session.way, at: session.createdAt })
      .from(session)
      .innerJoin(account, eq(account.id, session.accountId))
      .where(and(eq(account.workshopId, workshopId), lives())),
    db
      .select({ of: passkey.accountId, id: passkey.id, name: passkey.name, at: passkey.at })
      .from(passkey)
      .where(eq(passkey.workshopId, workshopId)),
    tokensOf(workshopId),
    db
      .select({ id: account.id, pin: account.pinHash, at: account.createdAt })
      .from(account)
      .where(eq(account.workshopId, workshopId)),
    db
      .select({ of: benchTablet.enrolledBy, id: benchTablet.id, name: benchTablet.name, at: benchTablet.at })
      .from(benchTablet)
      .where(eq(benchTablet.workshopId, workshopId)),
  ]);
  const all: [string, Opens][] = [
    ...sessions.map(({ of, id, about, way, at }): [string, Opens] => [
      of,
      {
        what: "session",
        id,
        name: `${about || "a browser"}${way === "pin" ? ", by PIN" : ""}`,
        since: at.toISOString(),
      },
    ]),
    ...keys.map(({ of, id, name, at }): [string, Opens] => [
      of,
      { what: "passkey", id, name: `passkey “${name}”`, since: at.toISOString() },
    ]),
    ...tokens.map(({ of, id, name, at }): [string, Opens] => [
      of,
      { what: "token", id, name: `token “${name}”`, since: at },
    ]),
    ...pins.flatMap(({ id, pin, at }): [string, Opens][] =>
      pin ? [[id, { what: "pin", id, name: "the PIN", since: at.toISOString() }]] : [],
    ),
    ...tablets.map(({ of, id, name, at }): [string, Opens] => [
      of,
      { what: "tablet", id, name: `tablet “${name}”`, since: at.toISOString() },
    ]),
  ];
  const by = new Map<string, Opens[]>();
  for (const [of, one] of all.sort(([, a], [, b]) => b.since.localeCompare(a.since))) {
    const its = by.get(of) ?? [];
    its.push(one);
    by.set(of, its);
  }
  return by;
}

/** Ends all that opens an account but its password. @param but a session that stays */
export async function endAllOf(tx: Transaction, accountId: string, but?: string): Promise<void> {
  await endSessions(tx, accountId, but);
  await tx
    .update(apiToken)
    .set({ revokedAt: moment() })
    .where(and(eq(apiToken.accountId, accountId), isNull(apiToken.revokedAt)));
  await tx.update(account).set({ pinHash: null }).where(eq(account.id, accountId));
  await tx.delete(knownDevice).where(eq(knownDevice.accountId, accountId));
  await tx.delete(passkey).where(eq(passkey.accountId, accountId));
  const tablets = await tx
    .select({ hash: benchTablet.tokenHash })
    .from(benchTablet)
    .where(eq(benchTablet.enrolledBy, accountId));
  for (const { hash } of tablets) await forgetTablet(tx, hash);
}

/** A tablet is one no longer; sessions opened on it by PIN end with it. */
export async function forgetTablet(tx: Transaction, tokenHash: string): Promise<void> {
  await endSessionsOn(tx, tokenHash);
  await tx.delete(benchTablet).where(eq(benchTablet.tokenHash, tokenHash));
}

/** Somebody of the workshop of who asks. @throws Refused where there is nobody */
export async function personIn(tx: Pick<Transaction, "select">, by: SignedIn, accountId: string) {
  const [person] = await tx
    .select()
    .from(account)
    .where(and(eq(account.id, accountId), eq(account.workshopId, by.workshop.id)));
  if (!person) throw new Refused("Nobody of this workshop. Load the page again.");
  return person;
}

/** One of those that a lead sees, ended. Twice is the same. @throws Refused where it is nobody’s of the workshop */
export async function endOpener(
  by: SignedIn,
  of: string,
  { what, id }: { what: Opener | "all"; id: string },
): Promise<void> {
  need(by, "people");
  const workshopId = by.workshop.id;
  await personIn(database(), by, of);
  if (what === "session") await endSession(of, id);
  if (what === "all") await inTransaction((tx) => endAllOf(tx, of, of === by.id ? by.sessionId : undefined));
  await inTransaction(async (tx) => {
    if (what === "token")
      await tx
        .update(apiToken)
        .set({ revokedAt: moment() })
        .where(
          and(
            eq(apiToken.workshopId, workshopId),
            eq(apiToken.accountId, of),
            eq(apiToken.id, id),
            isNull(apiToken.revokedAt),
          ),
        );
    if (what === "passkey")
      await tx
        .delete(passkey)
        .where(and(eq(passkey.workshopId, workshopId), eq(passkey.accountId, of), eq(passkey.id, id)));
    if (what === "pin") await tx.update(account).set({ pinHash: null }).where(eq(account.id, of));
    if (what === "tablet") {
      const its = and(eq(benchTablet.workshopId, workshopId), eq(benchTablet.enrolledBy, of), eq(benchTablet.id, id));
      for (const { hash } of await tx.select({ hash: benchTablet.tokenHash }).from(benchTablet).where(its))
        await forgetTablet(tx, hash);
    }
    await keepEvent(tx, { workshopId, what: "ended", of, by: by.id, about: what });
  });
}
