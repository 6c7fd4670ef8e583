import { and, asc, eq } from "drizzle-orm";
import type { Database } from "../client";
import { machine, model, owner, site } from "../schema";

/** An owner with all machines, or what it was merged into. */
export async function ownerWithMachines(db: Pick<Database, "select">, workshopId: string, ownerId: string) {
  const [found] = await db
    .select()
    .from(owner)
    .where(and(eq(owner.workshopId, workshopId), eq(owner.id, ownerId)));
  if (!found) return null;
  const machines = await db
    .select({
      id: machine.id,
      serial: machine.serial,
      retiredOn: machine.retiredOn,
      maker: model.maker,
      model: model.name,
      kind: model.kind,
      site: site.name,
      town: site.town,
    })
    .from(site)
    .innerJoin(machine, and(eq(machine.workshopId, site.workshopId), eq(machine.siteId, site.id)))
    .innerJoin(model, and(eq(model.workshopId, machine.workshopId), eq(model.id, machine.modelId)))
    .where(and(eq(site.workshopId, workshopId), eq(site.ownerId, ownerId)))
    .orderBy(asc(site.name), asc(machine.serial))
    .limit(MACHINES);
  return { ...found, machines };
}

/** Of one owner, shown at once. */
const MACHINES = 200;
