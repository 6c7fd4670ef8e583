import { createHash, randomBytes } from "node:crypto";
import { and, eq, lt, sql } from "drizzle-orm";
import { Secret, TOTP } from "otpauth";
import { account } from "../../db/schema";
import { open } from "../keys";
import { inTransaction } from "../transaction";

/** One-time codes of a phone (RFC 6238: SHA-1, six digits, 30 s, what every such app speaks), and codes on paper for the day it is lost. */

const ISSUER = "Nimble Gauge";
const PERIOD = 30;
/** Steps either way in which a code is taken: clocks of phones wander. RFC 6238, 5.2. */
const WINDOW = 1;
const RECOVERY_CODES = 8;

const totp = (secret: string, label: string) =>
  new TOTP({ issuer: ISSUER, label, secret: Secret.fromBase32(secret), period: PERIOD });

/** A new secret, and the address a phone’s app reads it from. Nothing is kept yet. */
export function newSecret(email: string): { secret: string; uri: string } {
  const secret = new Secret({ size: 20 }).base32;
  return { secret, uri: totp(secret, email).toString() };
}

/** The step a code stands for; null where it is none of now. */
export function stepOf(secret: string, code: string, now = Date.now()): number | null {
  const token = code.replace(/\s/g, "");
  if (!/^\d{6}$/.test(token)) return null;
  const delta = totp(secret, "").validate({ token, window: WINDOW, timestamp: now });
  return delta === null ? null : Math.floor(now / 1000 / PERIOD) + delta;
}

export const hashed = (code: string) =>
  createHash("sha256")
    .update(code.toUpperCase().replace(/[^A-Z2-7]/g, ""))
    .digest("hex");

/** Codes for the day the phone is lost, as they are shown once; 80 bits each. */
export function newRecovery(): string[] {
  return Array.from({ length: RECOVERY_CODES }, () =>
    new Secret({ buffer: randomBytes(10).buffer.slice(0, 10) as ArrayBuffer }).base32.replace(/(.{4})(?=.)/g, "$1-"),
  );
}

/**
 * Whether a code is right now: of the phone, each step once; or one of those on paper, each once.
 *
 * @param sealed the secret as it is kept
 */
export async function codeHolds(accountId: string, sealed: string, code: string): Promise<boolean> {
  const step = stepOf(open(sealed), code);
  if (step !== null) {
    // Two at once with the same code: the row lets one of them through.
    const used = await inTransaction((tx) =>
      tx
        .update(account)
        .set({ totpStep: step })
        .where(and(eq(account.id, accountId), lt(account.totpStep, step)))
        .returning({ id: account.id }),
    );
    return used.length === 1;
  }
  const paper = JSON.stringify([hashed(code)]);
  const used = await inTransaction((tx) =>
    tx
      .update(account)
      .set({ recovery: sql`${account.recovery} - ${hashed(code)}` })
      .where(and(eq(account.id, accountId), sql`${account.recovery} @> ${paper}::jsonb`))
      .returning({ id: account.id }),
  );
  return used.length === 1;
}
