import { and, desc, eq } from "drizzle-orm";
import type { KindId, ModelCard } from "../../core/kind";
import type { SpecLine } from "../../core/spec";
import { model, specCard, specVersion, workshop } from "../../db/schema";
import type { SignedIn } from "../auth";
import { once } from "../command";
import { may, need } from "../permissions";
import { Refused } from "../refused";

/** The workshop's model cards and spec cards. Only a lead changes them; a technician may add a model, which a lead looks over. */

export interface ModelInput {
  maker: string;
  name: string;
  kind: KindId;
  opvResponse: number;
  opvResponseSd: number;
  opvRaises: "clockwise" | "anticlockwise";
  card: Partial<ModelCard>;
}

export function saveModel(by: SignedIn, commandId: string, modelId: string | null, input: ModelInput) {
  // A model met at a customer's is added on the spot; only a lead changes what is in the library.
  if (modelId !== null) need(by, "library");
  return once(by, commandId, "model", { modelId, ...input }, async (tx) => {
    const workshopId = by.workshop.id;
    if (modelId === null) {
      await tx.insert(model).values({ id: commandId, workshopId, ...input, review: !may(by, "library") });
      return;
    }
    const changed = await tx
      .update(model)
      .set({ ...input, review: false })
      .where(and(eq(model.id, modelId), eq(model.workshopId, workshopId)))
      .returning({ id: model.id });
    if (changed.length === 0) throw new Refused("There is no such model in this workshop.");
  });
}

/** A new card, or a new version of one: versions that jobs have pinned never change. */
export function saveSpec(
  by: SignedIn,
  commandId: string,
  cardId: string | null,
  input: { name: string; about: string; lines: SpecLine[]; usual: boolean },
) {
  need(by, "library");
  return once(by, commandId, "spec", { cardId, ...input }, async (tx) => {
    const workshopId = by.workshop.id;
    let version = 1;
    if (cardId === null) {
      const made = await tx
        .insert(specCard)
        .values({ id: commandId, workshopId, name: input.name, about: input.about })
        .onConflictDoNothing()
        .returning({ id: specCard.id });
      if (made.length === 0) throw new Refused("A card of that name is there already.", "name");
    } else {
      const [card] = await tx
        .select({ origin: specCard.origin })
        .from(specCard)
        .where(and(eq(specCard.id, cardId), eq(specCard.workshopId, workshopId)))
        .for("update");
      if (!card) throw new Refused("There is no such card in this workshop.");
      if (card.origin === "certified-italian" || card.origin === "sca")
        throw new Refused("A published definition is not rewritten. New spec of your own.");
      const [last] = await tx
        .select({ version: specVersion.version })
        .from(specVersion)
        .where(eq(specVersion.cardId, cardId))
        .orderBy(desc(specVersion.version))
        .limit(1);
      version = (last?.version ?? 0) + 1;
      await tx.update(specCard).set({ about: input.about }).where(eq(specCard.id, cardId));
    }
    await tx.insert(specVersion).values({
      id: crypto.randomUUID(),
      workshopId,
      cardId: cardId ?? commandId,
      version,
      lines: input.lines,
      by: by.id,
    });
    if (input.usual)
      await tx
        .update(workshop)
        .set({ specCardId: cardId ?? commandId })
        .where(eq(workshop.id, workshopId));
  });
}

/** Makes a card the one new jobs begin with. */
export function pickSpec(by: SignedIn, commandId: string, cardId: string) {
  need(by, "library");
  return once(by, commandId, "spec-use", { cardId }, async (tx) => {
    const [card] = await tx
      .select({ id: specCard.id })
      .from(specCard)
      .where(and(eq(specCard.id, cardId), eq(specCard.workshopId, by.workshop.id)));
    if (!card) throw new Refused("There is no such card in this workshop.");
    await tx.update(workshop).set({ specCardId: cardId }).where(eq(workshop.id, by.workshop.id));
  });
}
