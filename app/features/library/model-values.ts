import { KINDS, type KindId, usualCard } from "~core/kind";
import { USUAL_OPV, clockWords } from "~core/pressure";
import type { ModelInput } from "~server/library/cards";

/** The form's starting values: a model's own card, or what is usual for a kind. */
export function valuesOf(kind: KindId, model?: ModelInput): Record<string, string> {
  const card = { ...usualCard(KINDS[kind]), ...model?.card };
  const figure = (x: number | undefined) => (x === undefined ? "" : String(x));
  return {
    maker: model?.maker ?? "",
    name: model?.name ?? "",
    kind,
    volts: figure(card.ratingPlate.volts),
    watts: figure(card.ratingPlate.watts),
    hertz: String(card.ratingPlate.hertz),
    boilerLitres: figure(card.boilerLitres),
    elementWatts: figure(card.elementWatts),
    descaling: card.descaling,
    buttons: card.buttons,
    opvResponse: figure(model?.opvResponse ?? USUAL_OPV.responseMean),
    opvResponseSd: figure(model?.opvResponseSd ?? USUAL_OPV.responseSd),
    opvRaises: model?.opvRaises ?? USUAL_OPV.raises,
    opvAccess: card.opvAccess,
    offsetStep: figure(card.offset?.step),
    offsetRaises: (card.offset?.raises ?? true) ? "yes" : "no",
    stopThreads: card.stopThreads ?? "unknown",
    lineLowest: figure(card.linePressure?.lowest),
    lineHighest: figure(card.linePressure?.highest),
    steamLower: figure(card.steamPressure?.lower),
    steamUpper: figure(card.steamPressure?.upper),
    programming: card.programming,
    groups: String(card.groups),
    doseButtons: String(card.doseButtons),
    grindFiner: card.grindScale.finer > 0 ? "larger" : "smaller",
    grindStep: figure(card.grindScale.step),
    grindLowest: figure(card.grindScale.lowest),
    grindHighest: figure(card.grindScale.highest),
    springs: card.springs.map((x) => `${x.name} ${x.bar}`).join(", "),
    dial: card.dial?.map(([hour, bar]) => `${clockWords(hour)} ${bar}`).join(", ") ?? "",
    note: card.note,
  };
}
