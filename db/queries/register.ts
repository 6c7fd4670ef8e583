import { and, asc, eq, inArray, sql } from "drizzle-orm";
import type { Database } from "../client";
import { machine, model, owner, site } from "../schema";
import type { Queries } from "./jobs";
import { onceEach } from "./prepared";

const param = sql.placeholder;

export interface Page {
  /** Words that all must occur in owner, serial, maker, model, site or town. */
  text: string;
  /** Where the page before ended. */
  after: { search: string; id: string } | null;
  limit: number;
}

/** The register, in the order of owner, by pages: those machines in which all words occur. */
export function findMachines(db: Queries, workshopId: string, { text, after, limit }: Page) {
  const patterns = wordsOf(text).map((word) => `%${word.replace(/[\\%_]/g, "\\$&")}%`);
  return preparedFind(db).execute({
    workshopId,
    patterns,
    afterSearch: after?.search ?? "",
    afterId: after?.id ?? "00000000-0000-0000-0000-000000000000",
    limit,
  });
}

export function wordsOf(text: string): string[] {
  return text.toLowerCase().split(/\s+/).filter(Boolean).slice(0, 8);
}

export function findQuery(db: Queries) {
  return db
    .select({
      id: machine.id,
      serial: machine.serial,
      search: machine.search,
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
    .where(
      and(
        eq(machine.workshopId, param("workshopId")),
        sql`${machine.search} like all(${param("patterns")}::text[])`,
        sql`(${machine.search}, ${machine.id}) > (${param("afterSearch")}::text, ${param("afterId")}::uuid)`,
      ),
    )
    .orderBy(asc(machine.search), asc(machine.id))
    .limit(param("limit"));
}

const preparedFind = onceEach((db: Queries) => findQuery(db).prepare("find_machines"));

export function machinesById(db: Database, workshopId: string, ids: string[]) {
  return db
    .select({
      id: machine.id,
      serial: machine.serial,
      maker: model.maker,
      model: model.name,
      site: site.name,
      town: site.town,
    })
    .from(machine)
    .innerJoin(model, eq(model.id, machine.modelId))
    .innerJoin(site, eq(site.id, machine.siteId))
    .where(and(eq(machine.workshopId, workshopId), inArray(machine.id, ids)))
    .orderBy(asc(machine.search));
}

export function modelsOf(db: Queries, workshopId: string) {
  return db.select().from(model).where(eq(model.workshopId, workshopId)).orderBy(asc(model.maker), asc(model.name));
}

/** Owners with their sites, for filling in by name. */
export async function placesOf(db: Queries, workshopId: string) {
  return db
    .select({ owner: owner.name, site: site.name, town: site.town })
    .from(site)
    .innerJoin(owner, eq(owner.id, site.ownerId))
    .where(eq(site.workshopId, workshopId))
    .orderBy(asc(owner.name), asc(site.name))
    .limit(500);
}
