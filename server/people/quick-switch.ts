import { hash, verify } from "@node-rs/argon2";
import { and, asc, eq, isNotNull } from "drizzle-orm";
import { account, benchTablet, workshop } from "../../db/schema";
import type { Transaction } from "../../db/client";
import { workshopBehind } from "../../db/queries/doors";
import { inWorkshop } from "../../db/wall";
import type { SignedIn } from "../auth";
import { database } from "../database";
import { need } from "../permissions";
import { Refused } from "../refused";
import { closeSession, cookieFor, cookieIn, hashOf, newToken, openSession } from "../sessions";
import { inTransaction } from "../transaction";
import { keepEvent, tellThem } from "./events";
import { unlessGuessed } from "./guesses";
import { forgetTablet } from "./opens";
import { needProven } from "./proven";

/**
 * The quick switch: on a tablet that somebody with a password has enrolled, people of the workshop take over with a PIN. Such a session does
 * the work of a technician and nothing else, whoever it is, and ends soon.
 */

const COOKIE = "ng_tablet";
const SECONDS = 365 * 86_400;
export const PIN = /^\d{4,6}$/;

/** PINs that are guessed first: a run of digits, one or two over and over, the same forwards and backwards, a year or a day. */
export function isGuessed(pin: string): boolean {
  const digits = [...pin].map(Number);
  const steps = digits.slice(1).map((digit, i) => digit - digits[i]!);
  if (new Set(steps).size === 1 || new Set(digits).size <= 2) return true;
  const [half, rest] = [pin.slice(0, pin.length / 2), pin.slice(pin.length / 2)];
  if (half === rest || rest === [...half].reverse().join("")) return true;
  const isDay = (d: string, m: string) => Number(d) >= 1 && Number(d) <= 31 && Number(m) >= 1 && Number(m) <= 12;
  const [a, b, c] = [pin.slice(0, 2), pin.slice(2, 4), pin.slice(4, 6)];
  if (pin.length === 4) return /^(19|20)/.test(pin) || isDay(a, b) || isDay(b, a);
  return pin.length === 6 && (isDay(a, b) || isDay(b, a) || isDay(c, b) || /^(19|20)/.test(pin));
}

/** One’s own PIN; null takes it away. */
export async function setPin(by: SignedIn, pin: string | null): Promise<void> {
  if (pin === null) need(by, "own");
  else needProven(by);
  if (pin !== null && !PIN.test(pin)) throw new Refused("A PIN is 4 to 6 digits.", "pin");
  if (pin !== null && isGuessed(pin)) throw new Refused("That PIN is guessed first. Take another.", "pin");
  const pinHash = pin === null ? null : await hash(pin);
  await inTransaction(async (tx) => {
    await tx.update(account).set({ pinHash }).where(eq(account.id, by.id));
    await keepEvent(tx, { workshopId: by.workshop.id, what: pin === null ? "no-pin" : "pin", of: by.id });
  });
  if (pin !== null) await tellThem(by, "pin");
}

/** From now on this device is a tablet of the workshop. @returns the cookie that says so */
export async function enrol(request: Request, by: SignedIn, name: string): Promise<string> {
  needProven(by);
  const token = newToken();
  const workshopId = by.workshop.id;
  await inTransaction(async (tx) => {
    await tx.insert(benchTablet).values({ tokenHash: hashOf(token), workshopId, name, enrolledBy: by.id });
    await keepEvent(tx, { workshopId, what: "tablet", of: by.id, about: name });
  });
  await tellThem(by, "tablet");
  return cookieFor(request, COOKIE, token, SECONDS);
}

/** A tablet is one no longer; sessions opened on it by PIN end with it. */
export async function forget(by: SignedIn, id: string): Promise<void> {
  need(by, "own");
  await inTransaction(async (tx) => {
    const its = and(eq(benchTablet.id, id), eq(benchTablet.workshopId, by.workshop.id));
    const [tablet] = await tx
      .select({ tokenHash: benchTablet.tokenHash, name: benchTablet.name })
      .from(benchTablet)
      .where(its);
    if (!tablet) return;
    await forgetTablet(tx, tablet.tokenHash);
    await keepEvent(tx, { workshopId: by.workshop.id, what: "no-tablet", of: by.id, about: tablet.name });
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
    const lost = (tx: Transaction) =>
      keepEvent(tx, { workshopId: tablet.workshopId, what: "wrong-pin", of: accountId, about: tablet.name });
    await unlessGuessed(tried, words, async () => {
      const [person] = await database()
        .select({ pinHash: account.pinHash })
        .from(account)
        .where(and(eq(account.id, accountId), eq(account.workshopId, tablet.workshopId), eq(account.active, true)));
      const right = Boolean(person?.pinHash) && (await verify(person!.pinHash!, pin));
      if (person && !right) await inTransaction(lost);
      return right;
    });
    await closeSession(request);
    return inTransaction(async (tx) => {
      await keepEvent(tx, { workshopId: tablet.workshopId, what: "took-over", of: accountId, about: tablet.name });
      return openSession(tx, request, { accountId, way: "pin", tablet: tablet.tokenHash });
    });
  });
}
