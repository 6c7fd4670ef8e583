import { and, asc, eq, inArray, sql } from "drizzle-orm";
import type { Database } from "../client";
import { machine, model, owner, site } from "../schema";
import type { Queries } from "./jobs";
import { FIRST } from "./mark";
import { onceEach } from "./prepared";

const param = sql.placeholder;

const MOST_WORDS = 8;

export interface Page {
  /** Words that all must occur in owner, serial, maker, model, site or town. */
  text: string;
  /** Where the page before ended. */
  after: { search: string; id: string } | null;
  limit: number;
}

/** The register, in the order of owner, by pages: those machines in which all words occur. */
export function findMachines(db: Queries, workshopId: string, { text, after, limit }: Page) {
  const words = wordsOf(text).map((word) => `%${literal(word)}%`);
  return preparedFind(db, words.length).execute({
    workshopId,
    ...Object.fromEntries(words.map((word, i) => [`word${i}`, word])),
    afterSearch: after?.search ?? "",
    afterId: after?.id ?? FIRST.id,
    limit,
  });
}

/** A word as it is, for `like`: what stands for anything there stands for itself. */
const literal = (word: string) => word.replace(/[\\%_]/g, "\\$&");

export function wordsOf(text: string): string[] {
  return text.toLowerCase().split(/\s+/).filter(Boolean).slice(0, MOST_WORDS);
}

/** @param words how many words are looked for, 0 to 8 */
export function findQuery(db: Queries, words: number) {
  // First the page, then what is shown of it: a word that fits a thousand machines costs no thousand look-ups.
  const page = db
    .select({
      id: machine.id,
      workshopId: machine.workshopId,
      modelId: machine.modelId,
      siteId: machine.siteId,
      serial: machine.serial,
      search: machine.search,
    })
    .from(machine)
    .where(
      and(
        eq(machine.workshopId, param("workshopId")),
        // Each word by itself: only so the trigram index is asked.
        ...Array.from({ length: words }, (_, i) => sql`${machine.search} like ${param(`word${i}`)}`),
        sql`(${machine.search}, ${machine.id}) > (${param("afterSearch")}::text, ${param("afterId")}::uuid)`,
      ),
    )
    .orderBy(asc(machine.search), asc(machine.id))
    .limit(param("limit"))
    .as("page");
  return db
    .select({
      id: page.id,
      serial: page.serial,
      search: page.search,
      maker: model.maker,
      model: model.name,
      kind: model.kind,
      site: site.name,
      town: site.town,
      owner: owner.name,
    })
    .from(page)
    .innerJoin(model, and(eq(model.workshopId, page.workshopId), eq(model.id, page.modelId)))
    .innerJoin(site, and(eq(site.workshopId, page.workshopId), eq(site.id, page.siteId)))
    .innerJoin(owner, and(eq(owner.workshopId, site.workshopId), eq(owner.id, site.ownerId)))
    .orderBy(asc(page.search), asc(page.id));
}

const finders = Array.from({ length: MOST_WORDS + 1 }, (_, words) =>
  onceEach((db: Queries) => findQuery(db, words).prepare(`find_machines_${words}`)),
);
const preparedFind = (db: Queries, words: number) => finders[words]!(db);

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
    .innerJoin(model, and(eq(model.workshopId, machine.workshopId), eq(model.id, machine.modelId)))
    .innerJoin(site, and(eq(site.workshopId, machine.workshopId), eq(site.id, machine.siteId)))
    .where(and(eq(machine.workshopId, workshopId), inArray(machine.id, ids)))
    .orderBy(asc(machine.search));
}

/** Models a workshop has cards for: never more. */
const MODELS = 1000;

export function modelsOf(db: Queries, workshopId: string) {
  return db
    .select()
    .from(model)
    .where(eq(model.workshopId, workshopId))
    .orderBy(asc(model.maker), asc(model.name))
    .limit(MODELS);
}

/** Sites that come into question while an owner or a site is typed, with their owners: some, the rest follows from typing more. */
export async function placesLike(db: Queries, workshopId: string, typed: { owner: string; site: string }) {
  const like = (word: string) => `${literal(word.toLowerCase())}%`;
  return preparedPlaces(db).execute({ workshopId, owner: like(typed.owner), site: like(typed.site), limit: PLACES });
}

const PLACES = 12;

export function placesQuery(db: Queries) {
  return db
    .select({ owner: owner.name, contact: owner.contact, site: site.name, town: site.town })
    .from(owner)
    .innerJoin(site, and(eq(site.workshopId, owner.workshopId), eq(site.ownerId, owner.id)))
    .where(
      and(
        eq(owner.workshopId, param("workshopId")),
        sql`lower(${owner.name}) like ${param("owner")}`,
        sql`lower(${site.name}) like ${param("site")}`,
      ),
    )
    .orderBy(sql`lower(${owner.name})`, sql`lower(${site.name})`)
    .limit(param("limit"));
}

const preparedPlaces = onceEach((db: Queries) => placesQuery(db).prepare("places_like"));
