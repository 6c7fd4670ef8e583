import { and, asc, desc, eq } from "drizzle-orm";
import { STARTING_CARDS } from "../../core/spec";
import type { Database, Transaction } from "../client";
import { specCard, specVersion, workshop } from "../schema";
import type { Queries } from "./jobs";

/** The newest version of a card of this workshop; without a card named, of its trade card. */
export async function pinnedSpec(db: Queries, workshopId: string, cardId: string | null) {
  const [row] = await db
    .select({ id: specVersion.id, lines: specVersion.lines, version: specVersion.version, name: specCard.name })
    .from(specVersion)
    .innerJoin(specCard, eq(specCard.id, specVersion.cardId))
    .where(and(eq(specCard.workshopId, workshopId), cardId ? eq(specCard.id, cardId) : eq(specCard.origin, "trade")))
    .orderBy(desc(specVersion.version))
    .limit(1);
  return row ?? null;
}

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
    .innerJoin(specVersion, eq(specVersion.cardId, specCard.id))
    .where(eq(specCard.workshopId, workshopId))
    .orderBy(asc(specCard.name), desc(specVersion.version));
}

export function cardRow(db: Database, workshopId: string, cardId: string) {
  return db.query.specCard.findFirst({
    where: and(eq(specCard.id, cardId), eq(specCard.workshopId, workshopId)),
    with: { versions: { orderBy: (v, { desc }) => [desc(v.version)] } },
  });
}

/** Gives every workshop the cards it starts with, once. */
export async function ensureStartingCards(db: Transaction | Database): Promise<void> {
  for (const { id: workshopId } of await db.select({ id: workshop.id }).from(workshop))
    for (const [origin, card] of Object.entries(STARTING_CARDS)) {
      const [made] = await db
        .insert(specCard)
        .values({
          id: crypto.randomUUID(),
          workshopId,
          name: card.name,
          about: card.about,
          origin: origin as keyof typeof STARTING_CARDS,
        })
        .onConflictDoNothing()
        .returning({ id: specCard.id });
      if (made)
        await db
          .insert(specVersion)
          .values({ id: crypto.randomUUID(), cardId: made.id, version: 1, lines: [...card.lines] });
    }
}
