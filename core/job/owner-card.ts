import { demonstrationOf, normalOn, routineOf, WHENS, type When } from "../care";
import { chosen, figure, latest, shownTaskId } from "../sheet";
import type { NextService, SignedCard, SignedDocument } from "./document";
import type { PrintedReport } from "./printed";
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

export interface CardFigures {
  /** "18.0 g → 36.1 g" and "in 27.4 s"; null where no shot was used as the recipe. */
  readonly recipe: { readonly cup: string; readonly seconds: string } | null;
  readonly settings: readonly { readonly title: string; readonly text: string }[];
  readonly buttons: readonly { readonly title: string; readonly text: string }[];
}

/** The figures of a card: those of the report, in its words and with its digits. */
export function cardFigures({ results }: Pick<PrintedReport, "results">, { recipe }: SignedCard): CardFigures {
  const grams = (g: number) => `${g.toFixed(1)} g`;
  return {
    recipe: recipe && {
      cup: `${grams(recipe.dose)} → ${recipe.yield === null ? "–" : grams(recipe.yield)}`,
      seconds: `in ${recipe.seconds.toFixed(1)} s`,
    },
    // Buttons and dose have places of their own.
    settings: results
      .filter(({ knob }) => knob !== "button" && knob !== "basket")
      .map(({ title, left }) => ({ title, text: left })),
    buttons: results
      .filter(({ knob }) => knob === "button")
      .map(({ title, left }) => ({ title, text: `${left} in the cup` })),
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
