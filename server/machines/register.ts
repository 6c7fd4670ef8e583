import { and, eq, ilike, sql } from "drizzle-orm";
import { KINDS } from "../../core/kind";
import type { Transaction } from "../../db/client";
import { machine, model, owner, site } from "../../db/schema";
import type { SignedIn } from "../auth";
import { once } from "../command";
import { Refused } from "../jobs/record";
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

export const IN_REGISTER = "This serial is in the register already";

export function addMachine(by: SignedIn, commandId: string, input: MachineInput) {
  return once(by, commandId, "machine", input, async (tx) => {
    const row = await rowOf(tx, by, input, null);
    await tx.insert(machine).values({ id: commandId, workshopId: by.workshop.id, ...row });
    await keepOwnGauge(tx, by.workshop.id, commandId, input.gaugePlace);
  });
}

export function changeMachine(by: SignedIn, commandId: string, machineId: string, input: MachineInput) {
  return once(by, commandId, "machine-change", { machineId, ...input }, async (tx) => {
    const mine = and(eq(machine.id, machineId), eq(machine.workshopId, by.workshop.id));
    const [found] = await tx.select({ id: machine.id }).from(machine).where(mine).for("update");
    if (!found) throw new Refused("There is no such machine in this workshop.");
    await tx
      .update(machine)
      .set(await rowOf(tx, by, input, machineId))
      .where(mine);
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
    .where(and(eq(machine.workshopId, workshopId), eq(sql`lower(${machine.serial})`, input.serial.toLowerCase())));
  if (twin && twin.id !== self) throw new Refused(`${IN_REGISTER}. Open that machine, or check the figure.`, "serial");
  const drop = KINDS[known.kind].gaugeDrop || 1;
  return {
    modelId: input.modelId,
    siteId: await siteFor(tx, workshopId, input),
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

/** The site by its owner's and its own name: the one on record, or a new one. What was learnt of it since is kept. */
async function siteFor(tx: Transaction, workshopId: string, input: MachineInput): Promise<string> {
  const same = (text: string) => text.replace(/[\\%_]/g, "\\$&");
  const [known] = await tx
    .select({ id: owner.id })
    .from(owner)
    .where(and(eq(owner.workshopId, workshopId), ilike(owner.name, same(input.owner))));
  const ownerId = known?.id ?? crypto.randomUUID();
  if (!known) await tx.insert(owner).values({ id: ownerId, workshopId, name: input.owner, contact: input.contact });
  else if (input.contact) await tx.update(owner).set({ contact: input.contact }).where(eq(owner.id, ownerId));
  const [place] = await tx
    .select({ id: site.id })
    .from(site)
    .where(and(eq(site.ownerId, ownerId), ilike(site.name, same(input.site))));
  const facts = { town: input.town, altitude: input.altitude, water: input.water };
  if (place) {
    await tx.update(site).set(facts).where(eq(site.id, place.id));
    return place.id;
  }
  const id = crypto.randomUUID();
  await tx.insert(site).values({ id, workshopId, ownerId, name: input.site, ...facts });
  return id;
}
