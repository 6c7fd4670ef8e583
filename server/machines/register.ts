import { and, eq, sql } from "drizzle-orm";
import type { AnyPgColumn } from "drizzle-orm/pg-core";
import { KINDS } from "../../core/kind";
import type { Transaction } from "../../db/client";
import { machine, model, owner, site } from "../../db/schema";
import type { SignedIn } from "../auth";
import { once } from "../command";
import { SERIAL_TAKEN } from "../database-words";
import { Refused } from "../refused";
import { keepOwnGauge } from "./gauges";

/** Adding to the register and keeping it right. */

export interface MachineInput {
  modelId: string;
  serial: string;
  owner: string;
  contact: string;
  site: string;
  town: string;
  altitude: number;
  water: string;
  installedOn: string | null;
  gaugePlace: "group" | "pump" | "none";
  gaugeToGroup: number;
  modifications: string;
  coffee: string;
  grinder: string;
}

// One order for all who write here: owner, site, machine. Two people saving two machines of one site never wait for each other.

export function addMachine(by: SignedIn, commandId: string, input: MachineInput) {
  return once(by, commandId, "machine", input, async (tx) => {
    const row = await rowOf(tx, by, input, null);
    await tx.insert(machine).values({ id: commandId, workshopId: by.workshop.id, ...row });
    await keepOwnGauge(tx, by.workshop.id, commandId, input.gaugePlace);
  });
}

export function changeMachine(by: SignedIn, commandId: string, machineId: string, input: MachineInput) {
  return once(by, commandId, "machine-change", { machineId, ...input }, async (tx) => {
    const row = await rowOf(tx, by, input, machineId);
    const changed = await tx
      .update(machine)
      .set(row)
      .where(and(eq(machine.id, machineId), eq(machine.workshopId, by.workshop.id)))
      .returning({ id: machine.id });
    if (changed.length === 0) throw new Refused("There is no such machine in this workshop.");
    await keepOwnGauge(tx, by.workshop.id, machineId, input.gaugePlace);
  });
}

async function rowOf(tx: Transaction, by: SignedIn, input: MachineInput, self: string | null) {
  const workshopId = by.workshop.id;
  const [known] = await tx
    .select({ kind: model.kind })
    .from(model)
    .where(and(eq(model.id, input.modelId), eq(model.workshopId, workshopId)));
  if (!known) throw new Refused("Choose a model from the library.", "modelId");
  const [twin] = await tx
    .select({ id: machine.id })
    .from(machine)
    .where(and(eq(machine.workshopId, workshopId), sameWords(machine.serial, input.serial)));
  if (twin && twin.id !== self) throw new Refused(SERIAL_TAKEN, "serial");
  const drop = KINDS[known.kind].gaugeDrop || 1;
  return {
    modelId: input.modelId,
    siteId: await siteFor(tx, workshopId, await ownerFor(tx, workshopId, input), input),
    serial: input.serial,
    installedOn: input.installedOn,
    gaugePlace: input.gaugePlace,
    gaugeToGroup: input.gaugePlace === "pump" ? input.gaugeToGroup || -drop : 0,
    gaugeToGroupU: input.gaugePlace === "pump" ? 0.2 : 0,
    modifications: input.modifications,
    coffee: input.coffee,
    grinder: input.grinder,
  };
}

/** Names that differ in case alone are the same name. */
const sameWords = (column: AnyPgColumn, words: string) => eq(sql`lower(${column})`, sql`lower(${words})`);

/** The owner of this name: the one on record, or a new one. Locked until it is saved. */
async function ownerFor(tx: Transaction, workshopId: string, input: MachineInput): Promise<string> {
  await tx
    .insert(owner)
    .values({ id: crypto.randomUUID(), workshopId, name: input.owner, contact: input.contact })
    .onConflictDoNothing();
  const [found] = await tx
    .select({ id: owner.id, contact: owner.contact })
    .from(owner)
    .where(and(eq(owner.workshopId, workshopId), sameWords(owner.name, input.owner)))
    .for("no key update");
  const { id, contact } = found!;
  if (input.contact && input.contact !== contact)
    await tx.update(owner).set({ contact: input.contact }).where(eq(owner.id, id));
  return id;
}

/** The site of this name and owner: the one on record, or a new one. What was learnt of it since is kept. */
async function siteFor(tx: Transaction, workshopId: string, ownerId: string, input: MachineInput): Promise<string> {
  const facts = { town: input.town, altitude: input.altitude, water: input.water };
  await tx
    .insert(site)
    .values({ id: crypto.randomUUID(), workshopId, ownerId, name: input.site, ...facts })
    .onConflictDoNothing();
  const [found] = await tx
    .select({ id: site.id, town: site.town, altitude: site.altitude, water: site.water })
    .from(site)
    .where(and(eq(site.ownerId, ownerId), sameWords(site.name, input.site)))
    .for("no key update");
  const { id, ...before } = found!;
  if (before.town !== facts.town || before.altitude !== facts.altitude || before.water !== facts.water)
    await tx.update(site).set(facts).where(eq(site.id, id));
  return id;
}
