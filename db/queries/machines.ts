import { and, asc, desc, eq } from "drizzle-orm";
import type { Database } from "../client";
import { instrument, job, machine, model, owner, signature, site } from "../schema";

/** One machine with its model, site and owner. Undefined when it isn't this workshop's. */
export function machineRow(db: Database, workshopId: string, machineId: string) {
  return db.query.machine.findFirst({
    where: and(eq(machine.id, machineId), eq(machine.workshopId, workshopId)),
    with: { model: true, site: { with: { owner: { columns: { name: true } } } } },
  });
}

/** Jobs of a machine, newest first, with what was signed. */
export function jobsOf(db: Database, machineId: string, limit: number) {
  return db
    .select({
      id: job.id,
      state: job.state,
      complaint: job.complaint,
      startedAt: job.startedAt,
      signedAt: job.signedAt,
      document: signature.document,
    })
    .from(job)
    .leftJoin(signature, eq(signature.jobId, job.id))
    .where(eq(job.machineId, machineId))
    .orderBy(desc(job.startedAt))
    .limit(limit);
}

/** The workshop's machines by owner's site, for the bench's list. */
export function machinesOf(db: Database, workshopId: string, limit: number) {
  return db
    .select({
      id: machine.id,
      serial: machine.serial,
      maker: model.maker,
      model: model.name,
      kind: model.kind,
      site: site.name,
      town: site.town,
      owner: owner.name,
    })
    .from(machine)
    .innerJoin(model, eq(model.id, machine.modelId))
    .innerJoin(site, eq(site.id, machine.siteId))
    .innerJoin(owner, eq(owner.id, site.ownerId))
    .where(eq(machine.workshopId, workshopId))
    .orderBy(asc(site.name), asc(machine.serial))
    .limit(limit);
}

/** Gauges in the workshop's kit, those it reaches for first on top. */
export function kitOf(db: Database, workshopId: string) {
  return db
    .select()
    .from(instrument)
    .where(and(eq(instrument.workshopId, workshopId), eq(instrument.inKit, true)))
    .orderBy(asc(instrument.position));
}
