import { parse, serialize } from "cookie";
import Bowser from "bowser";
import { createHash, randomBytes } from "node:crypto";
import { and, desc, eq, gt, ne, sql } from "drizzle-orm";
import type { Transaction } from "../db/client";
import { workshopBehind } from "../db/queries/doors";
import { account, session } from "../db/schema";
import { inWorkshop } from "../db/wall";
import { database } from "./database";
import { isSecure } from "./origin";
import { inTransaction } from "./transaction";

/** Sessions: what a cookie opens, for how long, and how it ends. */

/**
 * An hour unused on a tablet that everybody can reach, three days on a device of one’s own; whatever happens, a day and two weeks. Our choice,
 * inside what OWASP ASVS 5, 7.3, asks to be decided and written down.
 */
export const LASTS = {
  password: { idle: 72 * 3600, most: 14 * 86_400 },
  passkey: { idle: 72 * 3600, most: 14 * 86_400 },
  pin: { idle: 3600, most: 86_400 },
} as const;
/** s between two marks that it is in use: not a write for every request. */
const SEEN_EVERY = 300;

export type Way = keyof typeof LASTS;

/** Who hears of a session’s end: the streams that stay open with it. */
export const ENDED = "session_ended";

export const hashOf = (token: string) => createHash("sha256").update(token).digest("hex");
export const newToken = () => randomBytes(32).toString("base64url");

/** Behind TLS a cookie’s name itself says that it came over TLS, from this host, for all of it. */
const named = (request: Request, name: string) => (isSecure(request) ? `__Host-${name}` : name);

export function cookieIn(request: Request, name: string): string | undefined {
  const found = parse(request.headers.get("Cookie") ?? "")[named(request, name)];
  return found && /^[\w-]{20,100}$/.test(found) ? found : undefined;
}

/** @param seconds it is kept, 0 to forget it */
export function cookieFor(request: Request, name: string, token: string, seconds: number): string {
  const secure = isSecure(request);
  return serialize(named(request, name), token, {
    path: "/",
    httpOnly: true,
    sameSite: "lax",
    maxAge: seconds,
    secure,
  });
}

export const SESSION_COOKIE = "ng_session";

/**
 * Opens a session under a new id. What the browser had before is ended beforehand: it may be of another workshop (see {@link closeSession}).
 *
 * @param of whose, and on which tablet where it was opened by PIN
 * @returns the cookie
 */
export async function openSession(
  tx: Transaction,
  request: Request,
  of: { accountId: string; way: Way; tablet?: string | undefined },
): Promise<string> {
  const token = newToken();
  const { most } = LASTS[of.way];
  await tx.insert(session).values({
    ...of,
    tokenHash: hashOf(token),
    about: aboutOf(request),
    expiresAt: sql`now() + ${sql.raw(`interval '${most} s'`)}`,
  });
  return cookieFor(request, SESSION_COOKIE, token, most);
}

/** Browser and system, as far as they say so themselves. */
export function aboutOf(request: Request): string {
  const { browser, os } = Bowser.parse(request.headers.get("User-Agent") || "unknown");
  return [browser.name, os.name && `on ${os.name}`].filter(Boolean).join(" ").slice(0, 80);
}

/** What of a session still opens anything. */
export const lives = () =>
  and(
    gt(session.expiresAt, sql`now()`),
    sql`${session.seenAt} > now() - case ${session.way} when 'pin' then ${idle("pin")} else ${idle("password")} end`,
  );
const idle = (way: Way) => sql.raw(`interval '${LASTS[way].idle} s'`);

/** The last mark that it is in use is some minutes old. By the clock of the database, as all that is asked of a session: another may be wrong. */
export const seenLongAgo = sql<boolean>`${session.seenAt} < now() - ${sql.raw(`interval '${SEEN_EVERY} s'`)}`;

export async function markSeen(id: string): Promise<void> {
  await inTransaction((tx) =>
    tx
      .update(session)
      .set({ seenAt: sql`now()` })
      .where(eq(session.id, id)),
  );
}

export interface OwnSession {
  id: string;
  about: string;
  way: Way;
  since: Date;
  seenAt: Date;
  /** The one that asks. */
  here: boolean;
}

/** Sessions of a person that are open now, newest first. */
export async function sessionsOf(accountId: string, here: string): Promise<OwnSession[]> {
  const rows = await database()
    .select({
      id: session.id,
      about: session.about,
      way: session.way,
      since: session.createdAt,
      seenAt: session.seenAt,
    })
    .from(session)
    .where(and(eq(session.accountId, accountId), lives()))
    .orderBy(desc(session.seenAt));
  return rows.map((row) => ({ ...row, here: row.id === here }));
}

/** One of a person’s own sessions, ended from another. */
export function endSession(accountId: string, id: string): Promise<void> {
  return inTransaction((tx) => end(tx, and(eq(session.accountId, accountId), eq(session.id, id))));
}

/** All sessions of a person. @param but the one that stays open */
export function endSessions(tx: Transaction, accountId: string, but?: string): Promise<void> {
  return end(tx, and(eq(session.accountId, accountId), but ? ne(session.id, but) : undefined));
}

/** Those opened by PIN on a tablet, by the hash of its token. */
export function endSessionsOn(tx: Transaction, tablet: string): Promise<void> {
  return end(tx, eq(session.tablet, tablet));
}

/** Ends the session of a request. @returns the cookie that forgets it */
export async function closeSession(request: Request): Promise<string> {
  const token = cookieIn(request, SESSION_COOKIE);
  const workshopId = token && (await workshopBehind(database(), "session", hashOf(token)));
  if (workshopId)
    await inWorkshop(workshopId, () => inTransaction((tx) => end(tx, eq(session.tokenHash, hashOf(token)))));
  return cookieFor(request, SESSION_COOKIE, "", 0);
}

async function end(tx: Transaction, which: ReturnType<typeof eq> | ReturnType<typeof and>): Promise<void> {
  const ended = await tx.delete(session).where(which).returning({ id: session.id });
  for (const { id } of ended) await tx.execute(sql`select pg_notify(${ENDED}, ${id})`);
}

/** Whether a session, asked for by its name, opens anything still. */
export async function isOpen(id: string): Promise<boolean> {
  const [row] = await database()
    .select({ id: session.id })
    .from(session)
    .innerJoin(account, eq(account.id, session.accountId))
    .where(and(eq(session.id, id), eq(account.active, true), lives()));
  return row !== undefined;
}
