import { hash, verify } from "@node-rs/argon2";
import { randomBytes } from "node:crypto";
import { LRUCache } from "lru-cache";
import { and, desc, eq, notInArray, sql } from "drizzle-orm";
import type { SchoolsOf } from "../core/school";
import type { Database, Transaction } from "../db/client";
import { workshopBehind } from "../db/queries/doors";
import { onceEach } from "../db/queries/prepared";
import { type Preferences, account, knownDevice, session, workshop } from "../db/schema";
import { inWorkshop } from "../db/wall";
import { database } from "./database";
import { type AccountEvent, keepEvent } from "./people/events";
import { codeHolds } from "./people/second-factor";
import type { Role } from "./permissions";
import {
  SESSION_COOKIE,
  aboutOf,
  type Way,
  cookieFor,
  closeSession,
  cookieIn,
  hashOf,
  lives,
  markSeen,
  seenLongAgo,
  newToken,
  openSession,
} from "./sessions";
import { forgiven, takeTurn } from "./sign-in-limits";
import { inTransaction } from "./transaction";

/** Who is asking, and how somebody becomes that. */

/** Tells a device that has signed in before from a stranger’s; opens nothing by itself. */
const DEVICE = "ng_device";
const DEVICE_SECONDS = 365 * 86_400;
const DEVICES = 20;

/** Somebody of a workshop, by themselves or by a program of theirs. */
export interface Person {
  id: string;
  name: string;
  role: Role;
  /** How the door was opened: some rights ask for the password. */
  way: Way | "program";
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
    paper: "A4" | "Letter";
  };
}

export interface SignedIn extends Person {
  sessionId: string;
  /** The password was shown not long ago: what opens the account may be changed. */
  proven: boolean;
  /** The workshop asks for a second factor, and there is none yet. */
  needsFactor: boolean;
}

export type SignInResult =
  | { ok: true; cookies: string[] }
  /** @property code the password was right, and the second factor is asked for */
  | { ok: false; message: string; retryAfter?: number; code?: boolean };

// Verified against when there is no such account, so that the answer takes as long either way.
const nobody = hash(randomBytes(16).toString("hex"));

/** @throws when the records do not answer: that is not a wrong password */
export async function signIn(
  request: Request,
  given: { email: string; password: string; code?: string | undefined; address: string },
): Promise<SignInResult> {
  const email = given.email.trim().toLowerCase();
  const workshopId = await workshopBehind(database(), "email", email);
  const trial = () => tryWith(request, { ...given, email });
  return workshopId ? inWorkshop(workshopId, trial) : trial();
}

async function tryWith(
  request: Request,
  given: { email: string; password: string; code?: string | undefined; address: string },
): Promise<SignInResult> {
  const { email } = given;
  const [found] = await database()
    .select({
      id: account.id,
      workshopId: account.workshopId,
      passwordHash: account.passwordHash,
      active: account.active,
      totpSecret: account.totpSecret,
    })
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
  const happened = async (what: AccountEvent) => {
    if (found)
      await inTransaction((tx) =>
        keepEvent(tx, { workshopId: found.workshopId, what, of: found.id, about: aboutOf(request) }),
      );
  };
  if (!right) await happened("wrong-password");
  if (!found || !right || !found.active)
    return { ok: false, message: "Email and password do not match an account here." };
  // Asked for a code the try stays counted: else a right password would buy any number of guesses at codes.
  if (found.totpSecret && !given.code)
    return { ok: false, code: true, message: "Now the code that your phone’s app shows, or one of those on paper." };
  if (found.totpSecret && !(await codeHolds(found.id, found.totpSecret, given.code!))) {
    await happened("wrong-code");
    return { ok: false, code: true, message: "That code is not the one of now, or was used already." };
  }
  await forgiven(tried);
  const cookies = await admit(request, found.id, { device, known });
  await happened("signed-in");
  return { ok: true, cookies };
}

/**
 * A session for somebody who has shown who they are, and a device that is known from now on.
 *
 * @returns the cookies
 */
export async function admit(
  request: Request,
  accountId: string,
  {
    device,
    known = false,
    way = "password",
  }: { device?: string | undefined; known?: boolean; way?: "password" | "passkey" } = {},
): Promise<string[]> {
  const ownDevice = known ? device! : newToken();
  await closeSession(request);
  const opened = await inTransaction(async (tx) => {
    if (!known) await rememberDevice(tx, hashOf(ownDevice), accountId);
    return openSession(tx, request, { accountId, way });
  });
  return [opened, cookieFor(request, DEVICE, ownDevice, DEVICE_SECONDS)];
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

/** What is asked of whoever comes in. */
export const PERSON = {
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
    paper: workshop.paper,
  },
};

// Asked on every request.
const sessionQuery = onceEach((db: Database) =>
  db
    .select({
      ...PERSON,
      session: {
        id: session.id,
        way: session.way,
        unmarked: seenLongAgo,
        proven: sql<boolean>`${session.provenAt} > now() - interval '10 minutes'`,
        needsFactor: sql<boolean>`${workshop.factorRequired} and ${account.totpSecret} is null and ${session.way} = 'password'`,
      },
    })
    .from(session)
    .innerJoin(account, eq(account.id, session.accountId))
    .innerJoin(workshop, eq(workshop.id, account.workshopId))
    .where(and(eq(session.tokenHash, sql.placeholder("tokenHash")), lives(), eq(account.active, true)))
    .prepare("session"),
);

// Whose a session is never changes. Whether it opens anything still is asked every time.
const doors = new LRUCache<string, string>({ max: 10_000 });

export async function whoIs(request: Request): Promise<SignedIn | null> {
  const token = cookieIn(request, SESSION_COOKIE);
  if (!token) return null;
  const tokenHash = hashOf(token);
  const workshopId = doors.get(tokenHash) ?? (await workshopBehind(database(), "session", tokenHash));
  if (!workshopId) return null;
  doors.set(tokenHash, workshopId);
  const row = await inWorkshop(workshopId, async () => {
    const [open] = await sessionQuery(database()).execute({ tokenHash });
    if (open?.session.unmarked) await markSeen(open.session.id);
    return open;
  });
  if (!row) return null;
  const { session: own, ...person } = row;
  // With a PIN a lead is a technician: whatever asks for the role need not know how the session was opened.
  const role = own.way === "pin" ? "technician" : person.role;
  const { id: sessionId, way, proven, needsFactor } = own;
  return { ...person, role, way, sessionId, proven, needsFactor };
}

export function hashPassword(password: string): Promise<string> {
  return hash(password);
}
