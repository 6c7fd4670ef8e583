/** What a column of a spreadsheet of machines can be. */

export const REGISTER_FIELDS = {
  serial: "Serial",
  maker: "Maker",
  model: "Model",
  owner: "Owner",
  site: "Site",
  town: "Town",
  contact: "Address",
  phone: "Phone",
  email: "Email",
  installedOn: "Day it was installed",
  water: "Water",
  coffee: "Coffee",
  grinder: "Grinder",
  shotsPerDay: "Shots a day",
  modifications: "Modifications",
} as const;

export type RegisterField = keyof typeof REGISTER_FIELDS;
export const REGISTER_FIELD_IDS = Object.keys(REGISTER_FIELDS) as RegisterField[];

/** Without these a row is no machine. */
export const REGISTER_NEEDS = ["serial", "model", "owner", "site", "town"] as const;

/** Words in a head, the first that fits: common words of the trade, in four languages. */
const HEADS: readonly [RegExp, RegisterField][] = [
  [/e-?mail|correo/, "email"],
  [/phone|telefon|\btel\b|mobile|handy|tel[ée]fono|telefono/, "phone"],
  [/serial|serien|s\/n|^sn$|matricola|n[úu]mero de serie/, "serial"],
  [/maker|manufacturer|\bbrand\b|hersteller|marke|marca|produttore|fabricante/, "maker"],
  [/grinder|m[üu]hle|macinino|molino/, "grinder"],
  [/model|modell|typ\b|type|^machine$|maschine|modello|modelo/, "model"],
  [/install|inbetrieb|in service|aufgestellt|installat|instalad/, "installedOn"],
  [/owner|customer|client|kunde|inhaber|proprietario|cliente|propietario/, "owner"],
  [/town|city|\bort\b|stadt|citt[àa]|ciudad/, "town"],
  [/address|adresse|street|indirizzo|direcci[óo]n|contact|kontakt/, "contact"],
  [/site|location|place|standort|where|sede|ubicaci[óo]n/, "site"],
  [/water|wasser|acqua|agua/, "water"],
  [/coffee|kaffee|beans|bohnen|caff[èe]|caf[ée]/, "coffee"],
  [/shots|per day|tassen|cups|bez[üu]ge/, "shotsPerDay"],
  [/modif|umbau|changes|modifiche/, "modifications"],
];

/**
 * What columns of a spreadsheet of machines most likely are, by their heads; each once, the first that fits.
 *
 * @example guessRegister(["S/N", "Hersteller", "Modell"]) // ["serial", "maker", "model"]
 */
export function guessRegister(heads: readonly string[]): (RegisterField | null)[] {
  const taken = new Set<RegisterField>();
  return heads.map((head) => {
    const text = head.toLowerCase().replaceAll("_", " ").trim();
    // Numbers of other programs, and days that are not this one.
    if (/\bid\b|retired|altitude|gauge|pump|flow/.test(text)) return null;
    const found = HEADS.find(([is, field]) => !taken.has(field) && is.test(text))?.[1] ?? null;
    if (found) taken.add(found);
    return found;
  });
}
