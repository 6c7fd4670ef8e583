import { randomUUID } from "node:crypto";
import ICAL from "ical.js";
import { eq } from "drizzle-orm";
import { poolOf } from "../../db/client";
import { dueServices } from "../../db/queries/due";
import { machine } from "../../db/schema";
import { inWorkshop } from "../../db/wall";
import { database } from "../database";
import { personOf } from "../jobs/person-of";
import { ownWorkshop } from "../open/own-workshop";
import { calendarBehind, calendarLinks, dueCalendar, makeCalendarLink, withdrawCalendarLink } from "./due-calendar";

/** What is due, read back by a parser that is not this one. */

const db = database();
afterAll(() => poolOf(db).end());

const eventsIn = (text: string) => new ICAL.Component(ICAL.parse(text) as unknown[]).getAllSubcomponents("vevent");

test("one day for each machine that was told when to be seen again; a retired one has none", async () => {
  const lead = await personOf("ilka@lowtide.example");
  const due = await dueServices(db, lead.workshop.id);
  expect(due.length).toBeGreaterThan(5);
  const events = eventsIn(dueCalendar("Low Tide", due));
  expect(events).toHaveLength(due.length);
  const first = new ICAL.Event(events[0]!);
  expect(first.startDate.isDate).toBe(true);
  expect(first.startDate.toString()).toBe(due[0]!.on);
  expect(first.summary).toBe(`Service: ${due[0]!.name}, ${due[0]!.owner}`);
  expect(new Set(events.map((e) => new ICAL.Event(e).uid)).size).toBe(due.length);
  const [before] = await db.select().from(machine).where(eq(machine.id, due[0]!.machineId));
  await db.update(machine).set({ retiredOn: "2026-01-01" }).where(eq(machine.id, before!.id));
  expect((await dueServices(db, lead.workshop.id)).some((d) => d.machineId === before!.id)).toBe(false);
  await db.update(machine).set({ retiredOn: before!.retiredOn }).where(eq(machine.id, before!.id));
});

test("words with commas, semicolons and line ends come back as they were", () => {
  const words = "Owner; with, marks\\ and\nlines";
  const [event] = eventsIn(
    dueCalendar("S", [
      {
        ...{ machineId: randomUUID(), name: "A B", serial: "1", owner: words, phone: "+44 1", site: "Q, 3", town: "T" },
        ...{ on: "2027-02-03", why: "interval" },
      },
    ]),
  );
  expect(new ICAL.Event(event!).summary).toBe(`Service: A B, ${words}`);
  expect(new ICAL.Event(event!).location).toBe("Q, 3, T");
});

test("a link shows its own workshop’s, until it is withdrawn; guesses show nothing and are held up", async () => {
  const lead = await ownWorkshop(db);
  const inside = <T>(work: () => Promise<T>) => inWorkshop(lead.workshop.id, work);
  const commandId = randomUUID();
  expect(await inside(() => makeCalendarLink(lead, commandId))).toBe("done");
  expect(await inside(() => makeCalendarLink(lead, commandId))).toBe("repeated");
  const links = await inside(() => calendarLinks(lead));
  expect(links).toHaveLength(1);
  const text = await calendarBehind(links[0]!.token!, "192.0.2.1");
  // Nothing is due there: a calendar all the same.
  expect(eventsIn(text!)).toEqual([]);
  expect(text).toContain(lead.workshop.name);
  await inside(() => withdrawCalendarLink(lead, links[0]!.id));
  expect(await calendarBehind(links[0]!.token!, "192.0.2.1")).toBeNull();
  expect(await inside(() => calendarLinks(lead))).toEqual([]);
  expect(await calendarBehind("x".repeat(32), "192.0.2.2")).toBeNull();
  const guesses = async () => {
    for (let i = 0; i < 30; i++) await calendarBehind("y".repeat(32), "192.0.2.3");
  };
  await expect(guesses()).rejects.toThrow("Too many");
  await expect(makeCalendarLink({ ...lead, role: "technician" }, randomUUID())).rejects.toThrow("Only a lead");
});
