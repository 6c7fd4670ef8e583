import { type EventAttributes, createEvents } from "ics";
import { and, desc, eq, isNull } from "drizzle-orm";
import { workshopBehind } from "../../db/queries/doors";
import { dueServices } from "../../db/queries/due";
import { calendarLink, workshop } from "../../db/schema";
import { inWorkshop } from "../../db/wall";
import type { SignedIn } from "../auth";
import { once } from "../command";
import { database } from "../database";
import { moment } from "../moment";
import { hashFor, linkTokenOf } from "../open-links";
import { need } from "../permissions";
import { Refused } from "../refused";
import { hashOf } from "../sessions";
import { takeGuess } from "../sign-in-limits";
import { inTransaction, oneByOne } from "../transaction";
import { dayOf } from "./calendar";
import { TooManyTries } from "./owner-link";

/** The services that are due, as a calendar to subscribe to (RFC 5545): behind a link that nobody guesses and a lead can withdraw. */

const TOKEN = /^[\w-]{32}$/;
/** Links at a time. Our choice: one for each who plans, and some more. */
const MOST = 10;

/** The newest first. @property token null where the link’s address is not known here any more */
export async function calendarLinks({ workshop: { id } }: SignedIn) {
  const rows = await database()
    .select()
    .from(calendarLink)
    .where(and(eq(calendarLink.workshopId, id), isNull(calendarLink.revokedAt)))
    .orderBy(desc(calendarLink.at));
  return rows.map((row) => ({ id: row.id, token: linkTokenOf("calendar", row), at: row.at }));
}

export async function makeCalendarLink(by: SignedIn, commandId: string) {
  need(by, "records");
  const { id: workshopId } = by.workshop;
  return once(by, commandId, "calendar-link", {}, async (tx) => {
    await oneByOne(tx, `calendar links of ${workshopId}`);
    const open = await tx.$count(
      calendarLink,
      and(eq(calendarLink.workshopId, workshopId), isNull(calendarLink.revokedAt)),
    );
    if (open >= MOST) throw new Refused(`There are ${MOST} links already. Withdraw one first.`);
    const tokenHash = hashFor("calendar", { workshopId, id: commandId });
    await tx.insert(calendarLink).values({ id: commandId, workshopId, tokenHash, by: by.id, at: moment() });
  });
}

/** From now on nothing is behind it. Twice is the same. */
export async function withdrawCalendarLink(by: SignedIn, id: string): Promise<void> {
  need(by, "records");
  await inTransaction((tx) =>
    tx
      .update(calendarLink)
      .set({ revokedAt: moment() })
      .where(and(eq(calendarLink.workshopId, by.workshop.id), eq(calendarLink.id, id), isNull(calendarLink.revokedAt))),
  );
}

/**
 * The calendar behind a link.
 *
 * @param address where the request came from: tries that find nothing are counted by it
 * @returns null where no link goes by that name, or it was withdrawn
 * @throws TooManyTries once there were too many; a link that is good is never held up
 */
export async function calendarBehind(token: string, address: string): Promise<string | null> {
  const tokenHash = hashOf(token);
  const workshopId = TOKEN.test(token) ? await workshopBehind(database(), "calendar", tokenHash) : null;
  if (!workshopId) {
    const wait = await takeGuess("calendars", address);
    if (wait === 0) return null;
    throw new TooManyTries(wait);
  }
  return inWorkshop(workshopId, async () => {
    const db = database();
    const [[link], [shop], due] = await Promise.all([
      db.select({ revokedAt: calendarLink.revokedAt }).from(calendarLink).where(eq(calendarLink.tokenHash, tokenHash)),
      db.select({ name: workshop.name }).from(workshop).where(eq(workshop.id, workshopId)),
      dueServices(db, workshopId),
    ]);
    return link && !link.revokedAt ? dueCalendar(shop!.name, due) : null;
  });
}

export type Due = Awaited<ReturnType<typeof dueServices>>[number];

/** One entry a machine, on the day its next service is due. */
export function dueCalendar(shop: string, due: readonly Due[]): string {
  const product = { productId: "nimble-gauge/calendar", calName: `${shop}: services due` };
  if (due.length === 0) return EMPTY.replace("NAME", product.calName.replace(/([,;\\])/g, "\\$1"));
  const events = due.map(({ machineId, name, serial, owner, site, town, phone, on, why }): EventAttributes => ({
    uid: `service-${machineId}@nimble-gauge`,
    title: `Service: ${name}, ${owner}`,
    start: dayOf(on),
    duration: { days: 1 },
    location: `${site}, ${town}`,
    description: [`${name}, serial ${serial}.`, why, phone && `Phone ${phone}`].filter(Boolean).join("\n"),
    busyStatus: "FREE",
    ...product,
  }));
  const { error, value } = createEvents(events, product);
  if (error) throw error;
  return value!;
}

/** A calendar without entries; the package makes none of nothing. */
const EMPTY = [
  "BEGIN:VCALENDAR",
  "VERSION:2.0",
  "PRODID:nimble-gauge/calendar",
  "X-WR-CALNAME:NAME",
  "END:VCALENDAR",
  "",
].join("\r\n");
