import { createHash, randomBytes } from "node:crypto";
import { hash, verify } from "@node-rs/argon2";
import { and, eq, gt, sql } from "drizzle-orm";
import { type RateLimiterRes, RateLimiterPostgres } from "rate-limiter-flexible";
import type { SchoolsOf } from "../core/school";
import { type Database, poolOf } from "../db/client";
import { onceEach } from "../db/queries/prepared";
import { type Preferences, account, session, workshop } from "../db/schema";
import { database } from "./database";

const COOKIE = "ng_session";
const DAYS = 14;

export interface SignedIn {
  id: string;
  name: string;
  role: "technician" | "lead";
  preferences: Preferences;
  workshop: {
    id: string;
    name: string;
    town: string;
    schools: SchoolsOf;
    specCardId: string | null;
    decisionRule: "simple" | "guarded";
  };
}

export type SignInResult = { ok: true; cookie: string } | { ok: false; message: string; retryAfter?: number };

let limiter: RateLimiterPostgres | undefined;

/** Ten wrong tries per address and name in ten minutes, then a wait: in the database, so that every process counts alike. */
function attempts(): RateLimiterPostgres {
  limiter ??= new RateLimiterPostgres({
    storeClient: poolOf(database()),
    points: 10,
    duration: 600,
    tableName: "sign_in_attempt",
    tableCreated: true,
    keyPrefix: "",
  });
  return limiter;
}

// Verified against when there is no such account, so that the answer takes as long either way.
const nobody = hash(randomBytes(16).toString("hex"));

export async function signIn(email: string, password: string, address: string, secure: boolean): Promise<SignInResult> {
  const limit = attempts();
  const key = `${address}:${email.trim().toLowerCase()}`;
  try {
    await limit.consume(key);
  } catch (refused) {
    const wait = Math.ceil(((refused as RateLimiterRes).msBeforeNext ?? 60_000) / 1000);
    return {
      ok: false,
      message: `Too many tries. Wait ${Math.ceil(wait / 60)} min, then try again.`,
      retryAfter: wait,
    };
  }
  const [found] = await database()
    .select({ id: account.id, passwordHash: account.passwordHash, active: account.active })
    .from(account)
    .where(eq(account.email, email.trim().toLowerCase()));
  const right = await verify(found?.passwordHash ?? (await nobody), password);
  if (!found || !right || !found.active)
    return { ok: false, message: "Email and password do not match an account here." };
  await limit.delete(key);
  const token = randomBytes(32).toString("base64url");
  await database()
    .insert(session)
    .values({ tokenHash: hashOf(token), accountId: found.id, expiresAt: new Date(Date.now() + DAYS * 864e5) });
  return { ok: true, cookie: cookieOf(token, DAYS * 86400, secure) };
}

/** Ends the session and returns the cookie that forgets it. */
export async function signOut(request: Request): Promise<string> {
  const token = tokenOf(request);
  if (token)
    await database()
      .delete(session)
      .where(eq(session.tokenHash, hashOf(token)));
  return cookieOf("", 0, false);
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
  const token = tokenOf(request);
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

function tokenOf(request: Request): string | undefined {
  const found = new RegExp(`(?:^|;\\s*)${COOKIE}=([\\w-]{20,})`).exec(request.headers.get("Cookie") ?? "");
  return found?.[1];
}

function cookieOf(token: string, seconds: number, secure: boolean): string {
  return `${COOKIE}=${token}; Path=/; HttpOnly; SameSite=Lax; Max-Age=${seconds}${secure ? "; Secure" : ""}`;
}
