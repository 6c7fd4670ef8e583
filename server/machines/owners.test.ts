import { randomUUID } from "node:crypto";
import { and, eq } from "drizzle-orm";
import { poolOf } from "../../db/client";
import { machine, machineChange, model, owner, site } from "../../db/schema";
import type { SignedIn } from "../auth";
import { database } from "../database";
import { entryOf } from "../jobs/fresh-machine";
import { startJob } from "../jobs/commands/start";
import { personOf } from "../jobs/person-of";
import { changeOwner, mergeOwner } from "./owners";
import { type MachineInput, addMachine, changeMachine, retireMachine } from "./register";

/** Machines change hands, go out of service, and owners who stand there twice become one. */

const db = database();
let lead: SignedIn;
let modelId: string;
beforeAll(async () => {
  lead = await personOf("ilka@lowtide.example");
  const [known] = await db.select().from(model).where(eq(model.name, "Skerry"));
  modelId = known!.id;
});
afterAll(() => poolOf(db).end());

async function added(more: Partial<MachineInput>): Promise<string> {
  const id = randomUUID();
  await addMachine(lead, id, entryOf(modelId, more));
  return id;
}
const historyOf = async (machineId: string) =>
  (await db.select().from(machineChange).where(eq(machineChange.machineId, machineId))).map((c) => [c.kind, c.text]);
const ownerNamed = async (name: string) =>
  (
    await db
      .select()
      .from(owner)
      .where(and(eq(owner.workshopId, lead.workshop.id), eq(owner.name, name)))
  )[0]!;
const start = (machineId: string) =>
  startJob(lead, randomUUID(), {
    ...{ machineId, visit: "check", complaint: "", schools: {}, level: "machine-warm", specCardId: null },
  });

test("a machine that goes to another site and owner keeps where it was", async () => {
  const [from, to] = [`From ${randomUUID()}`, `To ${randomUUID()}`];
  const id = await added({ owner: from, site: "Kitchen", town: "Saltby" });
  const [own] = await db.select().from(machine).where(eq(machine.id, id));
  const now = entryOf(modelId, { serial: own!.serial, owner: to, site: "Bar", town: "Eastquay" });
  await changeMachine(lead, randomUUID(), id, now);
  expect(await historyOf(id)).toEqual([["moved", `Moved from Kitchen, Saltby (${from}) to Bar, Eastquay (${to})`]]);
  // Saved again as it stands, nothing moved.
  await changeMachine(lead, randomUUID(), id, now);
  expect(await historyOf(id)).toHaveLength(1);
});

test("out of service: no job is started, until it is back; both stand in its history; twice is said", async () => {
  const id = await added({ owner: `Out ${randomUUID()}` });
  const commandId = randomUUID();
  expect(await retireMachine(lead, commandId, id, { retired: true, reason: "Boiler cracked." })).toBe("done");
  expect(await retireMachine(lead, commandId, id, { retired: true, reason: "Boiler cracked." })).toBe("repeated");
  await expect(retireMachine(lead, randomUUID(), id, { retired: true, reason: "Once more." })).rejects.toThrow(
    "It is retired already.",
  );
  await expect(start(id)).rejects.toThrow("This machine is retired.");
  await retireMachine(lead, randomUUID(), id, { retired: false, reason: "New boiler." });
  expect(await start(id)).toBe("done");
  await expect(retireMachine(lead, randomUUID(), id, { retired: true, reason: "Sold." })).rejects.toThrow(
    "A job is open on it.",
  );
  expect(await historyOf(id)).toEqual([
    ["retired", "Retired: Boiler cracked."],
    ["returned", "Back in service: New boiler."],
  ]);
});

test("two entries that are one owner: sites of one name become one, the old name leads to the other, how they are reached stays", async () => {
  const [old, kept] = [`Osk ${randomUUID()}`, `V. Osk ${randomUUID()}`];
  const [a, b, c] = [
    await added({ owner: old, site: "Kitchen", phone: "+44 1632 960001" }),
    await added({ owner: old, site: "Boathouse" }),
    await added({ owner: kept, site: "kitchen", email: "vera@example.org" }),
  ];
  const { id } = await ownerNamed(old);
  await mergeOwner(lead, randomUUID(), id, { into: kept.toUpperCase() });
  const to = await ownerNamed(kept);
  expect(to).toMatchObject({ phone: "+44 1632 960001", email: "vera@example.org" });
  const sites = await db.select().from(site).where(eq(site.ownerId, to.id));
  expect(sites.map((s) => s.name).sort()).toEqual(["Boathouse", "kitchen"]);
  const at = async (machineId: string) =>
    (
      await db.select({ siteId: machine.siteId, search: machine.search }).from(machine).where(eq(machine.id, machineId))
    )[0]!;
  expect((await at(a)).siteId).toBe((await at(c)).siteId);
  for (const machineId of [a, b, c]) expect((await at(machineId)).search).toContain(kept.toLowerCase());
  // Typed by its old name, a machine is the other’s.
  const d = await added({ owner: old, site: "Boathouse" });
  expect((await at(d)).siteId).toBe((await at(b)).siteId);
});

test("what can’t be merged is said at its field: a name that is none, itself, another workshop’s", async () => {
  const name = `Lone ${randomUUID()}`;
  await added({ owner: name });
  const { id } = await ownerNamed(name);
  const merge = (into: string, by = lead) => mergeOwner(by, randomUUID(), id, { into });
  await expect(merge("Nobody At All")).rejects.toMatchObject({ field: "into" });
  await expect(merge(name)).rejects.toMatchObject({ field: "into" });
  const other = await personOf("runa@chandlery.example");
  await expect(merge(name, other)).rejects.toThrow("There is no such owner in this workshop.");
});

test("an owner’s name is one’s own; a phone of letters the database refuses too", async () => {
  const [one, two] = [`One ${randomUUID()}`, `Two ${randomUUID()}`];
  await added({ owner: one });
  await added({ owner: two });
  const { id } = await ownerNamed(one);
  const change = (more: object) =>
    changeOwner(lead, randomUUID(), id, { name: one, phone: "", email: "", contact: "", ...more });
  await expect(change({ name: two })).rejects.toMatchObject({ field: "name" });
  expect(await change({ phone: "01632 960002", email: "one@example.org", contact: "Quay 3" })).toBe("done");
  await expect(change({ phone: "call me" })).rejects.toThrow();
});
