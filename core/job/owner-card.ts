import { demonstrationOf, normalOn, routineOf, WHENS, type When } from "../care";
import { chosen, figure, latest, shownTaskId } from "../sheet";
import type { NextService, SignedCard, SignedDocument } from "./document";
import { takenShot } from "./dialling";
import { sayPull } from "./shot-words";
import type { Standing } from "./standing";

/**
 * What an owner takes away, frozen with the signature: recipe, routine, what is normal, what was given, and the next dates.
 *
 * @param service when it is due next, as the report has it
 */
export function cardOf(standing: Standing, service: NextService | null): SignedCard {
  const { job, kind, card, records } = standing;
  const taken = takenShot(standing)?.shot.pull;
  const words = (task: string) => {
    const value = latest(records, task);
    return value?.form === "text" ? value.text : "";
  };
  const cartridge = latest(records, "filter.next");
  return {
    recipe: taken
      ? {
          coffee: taken.coffee.name,
          grinder: job.machine.grinder,
          grind: taken.setting,
          dose: taken.dose,
          yield: taken.yield,
          seconds: taken.seconds,
          said: sayPull(taken),
        }
      : null,
    routine: routineOf(kind, card, job.schools, { hardness: figure(records, "water.hardness") ?? null }),
    normal: normalOn(kind),
    shown: demonstrationOf(kind, job.schools).flatMap(({ id, label }) => {
      const how = chosen(records, shownTaskId(id));
      return how === "tried" || how === "shown" ? [{ what: label, tried: how === "tried" }] : [];
    }),
    found: words("look-over.accessories"),
    given: words("hand-over.given"),
    dates: [
      ...(cartridge?.form === "cartridge"
        ? [{ what: "Change the filter cartridge", on: cartridge.dueOn, why: `By ${cartridge.by}.` }]
        : []),
      ...(service ? [{ what: "Next service", on: service.on, why: service.why }] : []),
    ],
  };
}

/** The card of a document; of earlier versions what can be told of it. */
export function cardIn(document: SignedDocument): SignedCard {
  if (document.card) return document.card;
  const { nextService: service } = document;
  return {
    recipe: null,
    routine: [],
    normal: [],
    found: "",
    given: "",
    dates: service ? [{ what: "Next service", on: service.on, why: service.why }] : [],
  };
}

/** The routine by when it is due, the oftenest first. */
export function byWhen(routine: SignedCard["routine"]): { when: string; whats: string[] }[] {
  return (Object.keys(WHENS) as When[]).flatMap((when) => {
    const whats = routine.filter((c) => c.when === when).map((c) => c.what);
    return whats.length > 0 ? [{ when: WHENS[when], whats }] : [];
  });
}
