import {
  type AuthenticationResponseJSON,
  type AuthenticatorTransport,
  type RegistrationResponseJSON,
  generateAuthenticationOptions,
  generateRegistrationOptions,
  verifyAuthenticationResponse,
  verifyRegistrationResponse,
} from "@simplewebauthn/server";
import { randomBytes } from "node:crypto";
import { isIP } from "node:net";
import { and, asc, eq, sql } from "drizzle-orm";
import { z } from "zod";
import { workshopBehind } from "../../db/queries/doors";
import { account, passkey } from "../../db/schema";
import { inWorkshop } from "../../db/wall";
import { type SignInResult, type SignedIn, admit } from "../auth";
import { database } from "../database";
import { fromUnderMac, underMac } from "../keys";
import { need } from "../permissions";
import { originOf } from "../origin";
import { Refused } from "../refused";
import { aboutOf } from "../sessions";
import { takeGuess, useOnce } from "../sign-in-limits";
import { inTransaction, oneByOne } from "../transaction";
import { keepEvent, tellThem } from "./events";
import { markProven, needProven } from "./proven";

/**
 * Passkeys (WebAuthn): a key that a device of the person holds and opens with its own lock, so that it is two factors by itself. Only the public
 * half is kept, and it answers for this address alone.
 */

/** Keys of one person. Our choice: each device that somebody works with, and some more. */
const MOST = 10;
/** s that an answer may take: somebody looks for the key and unlocks it. Our choice; the specification names 5 to 10 minutes. */
const HOLDS = 600;

type Purpose = "sign-in" | "new";

/** The name under which browsers keep keys for this address; null where it has none but a number, for which they keep none. */
export function siteOf(request: Request): string | null {
  const { hostname } = new URL(originOf(request));
  return isIP(hostname.replace(/^\[|\]$/g, "")) ? null : hostname;
}

const about = (purpose: Purpose, of: string) => `passkey, ${purpose}, ${of}`;

/** Something to sign that this application made just now, and knows again without keeping it. */
function challengeFor(purpose: Purpose, of = ""): Uint8Array<ArrayBuffer> {
  const data = Buffer.concat([Buffer.alloc(8), randomBytes(16)]);
  data.writeDoubleBE(Date.now());
  return new Uint8Array(underMac(about(purpose, of), data));
}

/** Whether it was made here for that, not long ago, and was not answered before. */
async function isAsked(challenge: string, purpose: Purpose, of = ""): Promise<boolean> {
  const data = fromUnderMac(about(purpose, of), Buffer.from(challenge, "base64url"));
  if (data?.length !== 24) return false;
  const age = Date.now() - Buffer.from(data).readDoubleBE();
  return Math.abs(age) < HOLDS * 1000 && useOnce(`passkey ${challenge}`, 2 * HOLDS);
}

/** What a browser is asked with, to sign in: whichever key of this address the person picks. Null where there can be none. */
export async function askForPasskey(request: Request) {
  const rpID = siteOf(request);
  return rpID === null
    ? null
    : generateAuthenticationOptions({ rpID, challenge: challengeFor("sign-in"), userVerification: "required" });
}

/** What a browser is asked with, to make a key. Null where there can be none. */
export async function askForNewPasskey(request: Request, by: SignedIn) {
  const rpID = siteOf(request);
  if (rpID === null) return null;
  const [own, [person]] = await Promise.all([
    passkeysOf(by),
    database().select({ email: account.email }).from(account).where(eq(account.id, by.id)),
  ]);
  return generateRegistrationOptions({
    ...{ rpID, rpName: "Nimble Gauge", challenge: challengeFor("new", by.id) },
    ...{ userName: person!.email, userDisplayName: by.name, userID: new TextEncoder().encode(by.id) },
    excludeCredentials: own.map(({ credentialId }) => ({ id: credentialId })),
    authenticatorSelection: { residentKey: "required", userVerification: "required" },
  });
}

/** base64url, as long as such a thing can be. */
const coded = (most: number) =>
  z
    .string()
    .max(most)
    .regex(/^[\w-]*$/);
const shared = {
  id: coded(1400).min(16),
  rawId: coded(1400),
  type: z.literal("public-key"),
  authenticatorAttachment: z.enum(["platform", "cross-platform"]).optional(),
  clientExtensionResults: z.object({}).transform(() => ({})),
};
const TRANSPORTS = ["ble", "cable", "hybrid", "internal", "nfc", "smart-card", "usb"] as const;
const madeSchema = z.object({
  ...shared,
  response: z.object({
    clientDataJSON: coded(4000),
    attestationObject: coded(8000),
    transports: z
      .array(z.enum(TRANSPORTS).or(z.string().max(20)))
      .max(10)
      .default([]),
  }),
});
const shownSchema = z.object({
  ...shared,
  response: z.object({
    clientDataJSON: coded(4000),
    authenticatorData: coded(4000),
    signature: coded(4000),
    userHandle: coded(200).optional(),
  }),
});

/** Characters at most of an answer, as it is posted. */
export const MOST_ANSWER = 20_000;

function understood<T>(schema: z.ZodType<T>, text: string): T | null {
  try {
    return schema.parse(JSON.parse(text));
  } catch {
    return null;
  }
}

const ODD = "The device’s answer was not understood. Try again.";

/** Keeps a key that a device has made. @throws Refused in words where it was not made for this here and now */
export async function addPasskey(
  request: Request,
  by: SignedIn,
  given: { id: string; name: string; made: string },
): Promise<void> {
  needProven(by);
  const rpID = siteOf(request);
  const response = understood(madeSchema, given.made);
  if (!rpID || !response) throw new Refused(ODD);
  const { registrationInfo } = await verifyRegistrationResponse({
    response: response as RegistrationResponseJSON,
    expectedChallenge: (challenge) => isAsked(challenge, "new", by.id),
    expectedOrigin: originOf(request),
    expectedRPID: rpID,
  }).catch(() => ({ registrationInfo: undefined }));
  if (!registrationInfo)
    throw new Refused("That key was not made for this page, or took too long. Load the page and try again.");
  const { id: credentialId, publicKey, counter } = registrationInfo.credential;
  const known = TRANSPORTS.filter((t) => response.response.transports.includes(t));
  const workshopId = by.workshop.id;
  await inTransaction(async (tx) => {
    await oneByOne(tx, `passkeys of ${by.id}`);
    if ((await tx.$count(passkey, eq(passkey.accountId, by.id))) >= MOST)
      throw new Refused(`You have ${MOST} passkeys. Take one away first.`);
    if (await workshopBehind(tx, "passkey", credentialId)) throw new Refused("That key is here already.");
    await tx.insert(passkey).values({
      ...{ id: given.id, workshopId, accountId: by.id, name: given.name },
      ...{ credentialId, publicKey: Buffer.from(publicKey), counter, transports: known },
    });
    await keepEvent(tx, { workshopId, what: "passkey", of: by.id, about: given.name });
  });
  await tellThem(by, "passkey");
}

/** Of one person, the oldest first. */
export async function passkeysOf(by: SignedIn) {
  return database()
    .select({
      id: passkey.id,
      credentialId: passkey.credentialId,
      name: passkey.name,
      at: passkey.at,
      usedAt: passkey.usedAt,
    })
    .from(passkey)
    .where(and(eq(passkey.workshopId, by.workshop.id), eq(passkey.accountId, by.id)))
    .orderBy(asc(passkey.at));
}

/** One that is lost. Twice is the same. */
export async function dropPasskey(by: SignedIn, id: string): Promise<void> {
  needProven(by);
  const workshopId = by.workshop.id;
  const gone = await inTransaction(async (tx) => {
    const rows = await tx
      .delete(passkey)
      .where(and(eq(passkey.workshopId, workshopId), eq(passkey.accountId, by.id), eq(passkey.id, id)))
      .returning({ name: passkey.name });
    for (const { name } of rows) await keepEvent(tx, { workshopId, what: "no-passkey", of: by.id, about: name });
    return rows.length > 0;
  });
  if (gone) await tellThem(by, "no-passkey");
}

/** Whose key has answered; null where none of here did, or not for this, or with what was answered before. */
async function holderOf(request: Request, shown: string): Promise<{ accountId: string; workshopId: string } | null> {
  const rpID = siteOf(request);
  const response = understood(shownSchema, shown);
  const workshopId = rpID && response ? await workshopBehind(database(), "passkey", response.id) : null;
  if (!rpID || !response || !workshopId) return null;
  return inWorkshop(workshopId, async () => {
    const [key] = await database()
      .select({ ...PASSKEY, active: account.active })
      .from(passkey)
      .innerJoin(account, eq(account.id, passkey.accountId))
      .where(eq(passkey.credentialId, response.id));
    if (!key?.active) return null;
    const { accountId } = key;
    const { verified, authenticationInfo } = await verifyAuthenticationResponse({
      response: response as AuthenticationResponseJSON,
      expectedChallenge: (challenge) => isAsked(challenge, "sign-in"),
      expectedOrigin: originOf(request),
      expectedRPID: rpID,
      credential: {
        id: key.credentialId,
        publicKey: new Uint8Array(key.publicKey),
        counter: key.counter,
        transports: key.transports as AuthenticatorTransport[],
      },
    }).catch(() => ({ verified: false, authenticationInfo: undefined }));
    const happened = verified && authenticationInfo !== undefined;
    await inTransaction(async (tx) => {
      if (happened)
        await tx
          .update(passkey)
          .set({ counter: authenticationInfo.newCounter, usedAt: sql`now()` })
          .where(eq(passkey.credentialId, response.id));
      else await keepEvent(tx, { workshopId, what: "wrong-passkey", of: accountId, about: aboutOf(request) });
    });
    return happened ? { accountId, workshopId } : null;
  });
}
const PASSKEY = {
  accountId: passkey.accountId,
  credentialId: passkey.credentialId,
  publicKey: passkey.publicKey,
  counter: passkey.counter,
  transports: passkey.transports,
};

const NONE = "No account here knows that key, or its answer came too late. Try again, or sign in with your password.";

/** @throws when the records do not answer */
export async function signInByPasskey(request: Request, shown: string, address: string): Promise<SignInResult> {
  const holder = await holderOf(request, shown);
  if (!holder) {
    const wait = await takeGuess("passkeys", address);
    return wait > 0
      ? { ok: false, message: `Too many wrong tries. Wait ${wait} s, then try again.`, retryAfter: wait }
      : { ok: false, message: NONE };
  }
  const { accountId, workshopId } = holder;
  return inWorkshop(workshopId, async () => {
    const cookies = await admit(request, accountId, { way: "passkey" });
    await inTransaction((tx) =>
      keepEvent(tx, { workshopId, what: "signed-in", of: accountId, about: `${aboutOf(request)}, by passkey` }),
    );
    return { ok: true, cookies };
  });
}

/** Instead of the password once more. @throws Refused where it is no key of the person’s own */
export async function proveByPasskey(request: Request, by: SignedIn, shown: string): Promise<void> {
  need(by, "own");
  const holder = await holderOf(request, shown);
  if (holder?.accountId !== by.id)
    throw new Refused("That is no key of yours here, or its answer came too late. Try again.");
  await inTransaction((tx) => markProven(tx, by.sessionId));
}
