import { z } from "zod";
import { specSchema, specValues } from "./spec-schema";
import { cardRow } from "~db/queries/specs";
import { may } from "~server/permissions";
import type { SignedIn } from "~server/auth";
import type { Posted } from "~server/body";
import { database } from "~server/database";
import { pickSpec, saveSpec } from "~server/library/cards";
import { answerFor, commandId, fieldOf, id, notFound, reading } from "~server/web";

/** A card with its versions, newest first. @throws 404 when it isn't this workshop's */
export async function loadSpec(person: SignedIn, asked: string) {
  const { workshop } = person;
  const cardId = id.safeParse(asked);
  if (!cardId.success) throw notFound();
  const card = await reading(() => cardRow(database(), workshop.id, cardId.data));
  if (!card) throw notFound();
  return {
    lead: may(person, "library"),
    usual: workshop.specCardId ? workshop.specCardId === card.id : card.origin === "trade",
    card: {
      id: card.id,
      name: card.name,
      about: card.about,
      published: card.origin === "certified-italian" || card.origin === "sca",
    },
    given: specValues(card.name, card.about, card.versions[0]?.lines ?? []),
    versions: card.versions.map((v) => ({ version: v.version, at: v.at.toISOString(), lines: v.lines })),
  };
}

/** A new version of the card, or the card taken for new jobs. */
export function writeSpec(person: () => SignedIn, asked: string, form: Posted) {
  const cardId = id.safeParse(asked);
  if (!cardId.success) throw notFound();
  const mine = { person, right: "library" } as const;
  if (fieldOf(form, "intent") === "use")
    return answerFor(mine, form, z.object({ commandId }), (given, by) => pickSpec(by, given.commandId, cardId.data));
  return answerFor(mine, form, specSchema, (given, by) => saveSpec(by, given.commandId, cardId.data, given.input));
}
