import { and, asc, desc, eq, sql } from "drizzle-orm";
import { STARTING_CARDS } from "../../core/spec";
import type { Database, Transaction } from "../client";
import { specCard, specVersion, workshop } from "../schema";
import type { Queries } from "./jobs";

/** The newest version of a card of this workshop; without a card named, of its trade card. */
export async function pinnedSpec(db: Queries, workshopId: string, cardId: string | null) {
  const [row] = await db
    .select({ id: specVersion.id, lines: specVersion.lines, version: specVersion.version, name: specCard.name })
    .from(specVersion)
    .innerJoin(specCard, and(eq(specCard.workshopId, specVersion.workshopId), eq(specCard.id, specVersion.cardId)))
    .where(and(eq(specCard.workshopId, workshopId), cardId ? eq(specCard.id, cardId) : eq(specCard.origin, "trade")))
    .orderBy(desc(specVersion.version))
    .limit(1);
  return row ?? null;
}

/** The newest versions of a card that its page shows. */
const VERSIONS = 50;
/** Cards a workshop writes by hand: never more. */
const CARDS = 200;

/** The workshop's cards with their newest version. */
export async function cardsOf(db: Database, workshopId: string) {
  return db
    .selectDistinctOn([specCard.name], {
      id: specCard.id,
      name: specCard.name,
      about: specCard.about,
      origin: specCard.origin,
      version: specVersion.version,
      lines: specVersion.lines,
    })
    .from(specCard)
    .innerJoin(specVersion, and(eq(specVersion.workshopId, specCard.workshopId), eq(specVersion.cardId, specCard.id)))
    .where(eq(specCard.workshopId, workshopId))
    .orderBy(asc(specCard.name), desc(specVersion.version))
    .limit(CARDS);
}

export function cardRow(db: Database, workshopId: string, cardId: string) {
  return db.query.specCard.findFirst({
    where: and(eq(specCard.id, cardId), eq(specCard.workshopId, workshopId)),
    with: { versions: { orderBy: (v, { desc }) => [desc(v.version)], limit: VERSIONS } },
  });
}

/** Gives every workshop the cards it starts with, once: nothing is written where they are there. */
export async function ensureStartingCards(db: Transaction | Database): Promise<void> {
  const origins = Object.keys(STARTING_CARDS) as (keyof typeof STARTING_CARDS)[];
  const { rows } = await db.execute<{ workshopId: string; origin: (typeof origins)[number] }>(sql`
    select w.id as "workshopId", o.origin from ${workshop} w cross join unnest(${sql.param(origins)}::text[]) as o(origin)
    where not exists (select 1 from ${specCard} c where c.workshop_id = w.id and c.origin = o.origin)`);
  for (const { workshopId, origin } of rows) {
    const card = STARTING_CARDS[origin];
    const [made] = await db
      .insert(specCard)
      .values({ id: crypto.randomUUID(), workshopId, name: card.name, about: card.about, origin })
      .onConflictDoNothing()
      .returning({ id: specCard.id });
    if (made)
      await db
        .insert(specVersion)
        .values({ id: crypto.randomUUID(), workshopId, cardId: made.id, version: 1, lines: [...card.lines] });
  }
}
