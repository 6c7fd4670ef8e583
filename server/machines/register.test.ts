import { randomUUID } from "node:crypto";
import { and, eq, sql } from "drizzle-orm";
import { poolOf } from "../../db/client";
import { machine, model, owner, site } from "../../db/schema";
import type { SignedIn } from "../auth";
import { database } from "../database";
import { entryOf } from "../jobs/fresh-machine";
import { personOf } from "../jobs/person-of";
import { type MachineInput, addMachine, changeMachine } from "./register";

/** Many people at the register at one moment: nobody is turned away for another’s sake, and one thing is one thing. */

const db = database();
let lead: SignedIn;
let mate: SignedIn;
let modelId: string;

beforeAll(async () => {
  lead = await personOf("ilka@lowtide.example");
  mate = await personOf("tobin@lowtide.example");
  const [known] = await db.select().from(model).where(eq(model.name, "Skerry"));
  modelId = known!.id;
});
afterAll(() => poolOf(db).end());

const entry = (more: Partial<MachineInput> = {}) => entryOf(modelId, more);

test("two people saving two machines of one site: forty times, never turned away", async () => {
  const name = `Pair ${randomUUID()}`;
  const [a, b] = [randomUUID(), randomUUID()];
  for (const id of [a, b]) await addMachine(lead, id, entry({ owner: name, site: name }));
  for (let i = 0; i < 40; i++) {
    const same = { owner: name, site: name, town: `Town ${i}`, water: `Water ${i % 3}` };
    const outcomes = await Promise.all([
      changeMachine(lead, randomUUID(), a, entry({ ...same, contact: `a ${i}` })),
      changeMachine(mate, randomUUID(), b, entry({ ...same, contact: `b ${i}` })),
    ]);
    expect(outcomes).toEqual(["done", "done"]);
  }
  const [place] = await db.select().from(site).where(eq(site.name, name));
  expect(place!.town).toBe("Town 39");
  const found = await db.select({ search: machine.search }).from(machine).where(eq(machine.siteId, place!.id));
  expect(found.map((m) => m.search.includes("town 39"))).toEqual([true, true]);
});

test("twelve people with one serial: one machine, eleven sentences", async () => {
  const serial = `S-${randomUUID()}`;
  const outcomes = await Promise.allSettled(
    Array.from({ length: 12 }, (_, i) =>
      addMachine(i % 2 ? lead : mate, randomUUID(), entry({ serial: i % 3 ? serial : serial.toUpperCase() })),
    ),
  );
  const refused = outcomes.flatMap((o) =>
    o.status === "rejected" ? [o.reason as { message: string; field: string }] : [],
  );
  expect(refused).toHaveLength(11);
  for (const { message, field } of refused)
    expect([message, field]).toEqual([expect.stringContaining("This serial is in the register already."), "serial"]);
  const rows = await db
    .select()
    .from(machine)
    .where(and(eq(machine.workshopId, lead.workshop.id), eq(sql`lower(${machine.serial})`, serial.toLowerCase())));
  expect(rows).toHaveLength(1);
});

test("eight machines of one new owner at once: one owner, one site", async () => {
  const name = `Eight ${randomUUID()}`;
  const outcomes = await Promise.all(
    Array.from({ length: 8 }, (_, i) =>
      addMachine(
        lead,
        randomUUID(),
        entry({ owner: i % 2 ? name : name.toUpperCase(), site: i % 3 ? "Quay" : "quay" }),
      ),
    ),
  );
  expect(outcomes).toEqual(Array(8).fill("done"));
  const owners = await db
    .select()
    .from(owner)
    .where(eq(sql`lower(${owner.name})`, name.toLowerCase()));
  expect(owners).toHaveLength(1);
  const sites = await db.select().from(site).where(eq(site.ownerId, owners[0]!.id));
  expect(sites).toHaveLength(1);
  expect(await db.select().from(machine).where(eq(machine.siteId, sites[0]!.id))).toHaveLength(8);
});

test("what has not changed is not written: a site somebody else edits is not waited for", async () => {
  const name = `Still ${randomUUID()}`;
  const id = randomUUID();
  await addMachine(lead, id, entry({ owner: name, site: name }));
  const version = async () =>
    (await db.execute<{ xmin: string }>(sql`select xmin::text from site where name = ${name}`)).rows[0]!.xmin;
  const before = await version();
  await changeMachine(lead, randomUUID(), id, entry({ owner: name, site: name, coffee: "Breakwater blend" }));
  expect(await version()).toBe(before);
});
