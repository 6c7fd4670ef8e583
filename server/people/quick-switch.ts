import { hash, verify } from "@node-rs/argon2";
import { and, asc, eq, isNotNull } from "drizzle-orm";
import { account, benchTablet, workshop } from "../../db/schema";
import { workshopBehind } from "../../db/queries/doors";
import { inWorkshop } from "../../db/wall";
import type { SignedIn } from "../auth";
import { database } from "../database";
import { need } from "../permissions";
import { Refused } from "../refused";
import { closeSession, cookieFor, cookieIn, endSessionsOn, hashOf, newToken, openSession } from "../sessions";
import { inTransaction } from "../transaction";
import { unlessGuessed } from "./guesses";

/**
 * The quick switch: on a tablet that somebody with a password has enrolled, people of the workshop take over with a PIN. Such a session does
 * the work of a technician and nothing else, whoever it is, and ends soon.
 */

const COOKIE = "ng_tablet";
const SECONDS = 365 * 86_400;
export const PIN = /^\d{4,6}$/;

/** PINs that are guessed first: one digit over and over, or counted up or down. */
function isGuessed(pin: string): boolean {
  const steps = [...pin].slice(1).map((digit, i) => Number(digit) - Number(pin[i]));
  return steps.every((s) => s === 0) || steps.every((s) => s === 1) || steps.every((s) => s === -1);
}

/** One’s own PIN; null takes it away. */
export async function setPin(by: SignedIn, pin: string | null): Promise<void> {
  need(by, "own");
  if (pin !== null && !PIN.test(pin)) throw new Refused("A PIN is 4 to 6 digits.", "pin");
  if (pin !== null && isGuessed(pin)) throw new Refused("That PIN is guessed first. Take another.", "pin");
  const pinHash = pin === null ? null : await hash(pin);
  await inTransaction((tx) => tx.update(account).set({ pinHash }).where(eq(account.id, by.id)));
}

/** From now on this device is a tablet of the workshop. @returns the cookie that says so */
export async function enrol(request: Request, by: SignedIn, name: string): Promise<string> {
  need(by, "own");
  const token = newToken();
  await inTransaction((tx) =>
    tx.insert(benchTablet).values({ tokenHash: hashOf(token), workshopId: by.workshop.id, name, enrolledBy: by.id }),
  );
  return cookieFor(request, COOKIE, token, SECONDS);
}

/** A tablet is one no longer; sessions opened on it by PIN end with it. */
export async function forget(by: SignedIn, id: string): Promise<void> {
  need(by, "own");
  await inTransaction(async (tx) => {
    const its = and(eq(benchTablet.id, id), eq(benchTablet.workshopId, by.workshop.id));
    const [tablet] = await tx.select({ tokenHash: benchTablet.tokenHash }).from(benchTablet).where(its);
    if (!tablet) return;
    await endSessionsOn(tx, tablet.tokenHash);
    await tx.delete(benchTablet).where(its);
  });
}

export function tabletsOf(workshopId: string) {
  return database()
    .select({ id: benchTablet.id, name: benchTablet.name, by: account.name, at: benchTablet.at })
    .from(benchTablet)
    .innerJoin(account, eq(account.id, benchTablet.enrolledBy))
    .where(eq(benchTablet.workshopId, workshopId))
    .orderBy(asc(benchTablet.at));
}

/** Whether a device says that it is one: enough to offer the switch. */
export const saysTablet = (request: Request) => cookieIn(request, COOKIE) !== undefined;

/** The tablet that asks; undefined where the device is none. */
export async function tabletOf(request: Request) {
  const token = cookieIn(request, COOKIE);
  if (!token) return undefined;
  const tokenHash = hashOf(token);
  const workshopId = await workshopBehind(database(), "tablet", tokenHash);
  if (!workshopId) return undefined;
  const [found] = await inWorkshop(workshopId, () =>
    database()
      .select({
        tokenHash: benchTablet.tokenHash,
        name: benchTablet.name,
        workshopId: benchTablet.workshopId,
        workshop: workshop.name,
      })
      .from(benchTablet)
      .innerJoin(workshop, eq(workshop.id, benchTablet.workshopId))
      .where(eq(benchTablet.tokenHash, tokenHash)),
  );
  return found;
}

/** Who can switch in on a tablet: those of the workshop that have a PIN. */
export function switchable(workshopId: string) {
  return inWorkshop(workshopId, () =>
    database()
      .select({ id: account.id, name: account.name })
      .from(account)
      .where(and(eq(account.workshopId, workshopId), eq(account.active, true), isNotNull(account.pinHash)))
      .orderBy(asc(account.name)),
  );
}

/**
 * Takes over on a tablet. Wrong PINs are slowed by person and by tablet, as wrong passwords are.
 *
 * @returns the cookie
 * @throws Refused in words
 */
export async function switchTo(request: Request, accountId: string, pin: string): Promise<string> {
  const tablet = await tabletOf(request);
  if (!tablet) throw new Refused("This device is no tablet of a workshop. Sign in with your password.", undefined, 403);
  const tried = { email: `pin ${accountId}`, address: tablet.tokenHash };
  const words = { field: "pin", wrong: "That is not the PIN.", meanwhile: ", or sign in with your password" };
  return inWorkshop(tablet.workshopId, async () => {
    await unlessGuessed(tried, words, async () => {
      const [person] = await database()
        .select({ pinHash: account.pinHash })
        .from(account)
        .where(and(eq(account.id, accountId), eq(account.workshopId, tablet.workshopId), eq(account.active, true)));
      return Boolean(person?.pinHash) && verify(person!.pinHash!, pin);
    });
    await closeSession(request);
    return inTransaction((tx) => openSession(tx, request, { accountId, way: "pin", tablet: tablet.tokenHash }));
  });
}
