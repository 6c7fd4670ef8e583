import { parse, serialize } from "cookie";
import { createHash, randomBytes } from "node:crypto";
import { hash, verify } from "@node-rs/argon2";
import { and, desc, eq, gt, notInArray, sql } from "drizzle-orm";
import type { SchoolsOf } from "../core/school";
import type { Database, Transaction } from "../db/client";
import { onceEach } from "../db/queries/prepared";
import { type Preferences, account, knownDevice, session, workshop } from "../db/schema";
import { database } from "./database";
import { forgiven, takeTurn } from "./sign-in-limits";
import { inTransaction } from "./transaction";

const COOKIE = "ng_session";
const DAYS = 14;
/** Tells a device that has signed in before from a stranger’s; opens nothing by itself. */
const DEVICE = "ng_device";
const DEVICE_DAYS = 365;
const DEVICES = 20;

export interface SignedIn {
  id: string;
  name: string;
  role: "technician" | "lead";
  preferences: Preferences;
  workshop: {
    id: string;
    name: string;
    town: string;
    /** IANA name */
    timeZone: string;
    schools: SchoolsOf;
    specCardId: string | null;
    decisionRule: "simple" | "guarded";
  };
}

export type SignInResult = { ok: true; cookies: string[] } | { ok: false; message: string; retryAfter?: number };

// Verified against when there is no such account, so that the answer takes as long either way.
const nobody = hash(randomBytes(16).toString("hex"));

/** @throws when the records do not answer: that is not a wrong password */
export async function signIn(
  request: Request,
  given: { email: string; password: string; address: string },
): Promise<SignInResult> {
  const email = given.email.trim().toLowerCase();
  const secure = new URL(request.url).protocol === "https:";
  const [found] = await database()
    .select({ id: account.id, passwordHash: account.passwordHash, active: account.active })
    .from(account)
    .where(eq(account.email, email));
  const device = cookieIn(request, DEVICE);
  const known = found && device ? await isKnown(device, found.id) : false;
  const tried = { email, address: given.address, device: known ? hashOf(device!) : null };
  const wait = await takeTurn(tried);
  if (wait > 0)
    return {
      ok: false,
      message: `Too many wrong tries. Wait ${wait < 60 ? `${wait} s` : `${Math.ceil(wait / 60)} min`}, then try again.`,
      retryAfter: wait,
    };
  const right = await verify(found?.passwordHash ?? (await nobody), given.password);
  if (!found || !right || !found.active)
    return { ok: false, message: "Email and password do not match an account here." };
  await forgiven(tried);
  const token = newToken();
  const ownDevice = known ? device! : newToken();
  await inTransaction(async (tx) => {
    await tx
      .insert(session)
      .values({ tokenHash: hashOf(token), accountId: found.id, expiresAt: new Date(Date.now() + DAYS * 864e5) });
    if (!known) await rememberDevice(tx, hashOf(ownDevice), found.id);
  });
  return {
    ok: true,
    cookies: [cookieOf(COOKIE, token, DAYS, secure), cookieOf(DEVICE, ownDevice, DEVICE_DAYS, secure)],
  };
}

/** Whether this device has signed in to this account before: what it may try is counted by itself then. */
async function isKnown(token: string, accountId: string): Promise<boolean> {
  const [row] = await database()
    .select({ at: knownDevice.at })
    .from(knownDevice)
    .where(and(eq(knownDevice.tokenHash, hashOf(token)), eq(knownDevice.accountId, accountId)));
  return row !== undefined;
}

/** The newest devices of an account: browsers that keep no cookies must not fill the table. */
async function rememberDevice(tx: Transaction, tokenHash: string, accountId: string): Promise<void> {
  await tx.insert(knownDevice).values({ tokenHash, accountId });
  const newest = tx
    .select({ tokenHash: knownDevice.tokenHash })
    .from(knownDevice)
    .where(eq(knownDevice.accountId, accountId))
    .orderBy(desc(knownDevice.at))
    .limit(DEVICES);
  await tx
    .delete(knownDevice)
    .where(and(eq(knownDevice.accountId, accountId), notInArray(knownDevice.tokenHash, newest)));
}

/** Ends the session and returns the cookie that forgets it. */
export async function signOut(request: Request): Promise<string> {
  const token = cookieIn(request, COOKIE);
  if (token) await inTransaction((tx) => tx.delete(session).where(eq(session.tokenHash, hashOf(token))));
  return cookieOf(COOKIE, "", 0, false);
}

// Asked on every request.
const sessionQuery = onceEach((db: Database) =>
  db
    .select({
      id: account.id,
      name: account.name,
      role: account.role,
      preferences: account.preferences,
      workshop: {
        id: workshop.id,
        name: workshop.name,
        town: workshop.town,
        timeZone: workshop.timeZone,
        schools: workshop.schools,
        specCardId: workshop.specCardId,
        decisionRule: workshop.decisionRule,
      },
    })
    .from(session)
    .innerJoin(account, eq(account.id, session.accountId))
    .innerJoin(workshop, eq(workshop.id, account.workshopId))
    .where(
      and(
        eq(session.tokenHash, sql.placeholder("tokenHash")),
        gt(session.expiresAt, sql.placeholder("now")),
        eq(account.active, true),
      ),
    )
    .prepare("session"),
);

export async function whoIs(request: Request): Promise<SignedIn | null> {
  const token = cookieIn(request, COOKIE);
  if (!token) return null;
  const [row] = await sessionQuery(database()).execute({ tokenHash: hashOf(token), now: new Date() });
  return row ?? null;
}

export function hashPassword(password: string): Promise<string> {
  return hash(password);
}

function hashOf(token: string): string {
  return createHash("sha256").update(token).digest("hex");
}

const newToken = () => randomBytes(32).toString("base64url");

function cookieIn(request: Request, name: string): string | undefined {
  const found = parse(request.headers.get("Cookie") ?? "")[name];
  return found && /^[\w-]{20,100}$/.test(found) ? found : undefined;
}

function cookieOf(name: string, token: string, days: number, secure: boolean): string {
  return serialize(name, token, { path: "/", httpOnly: true, sameSite: "lax", maxAge: days * 86400, secure });
}
