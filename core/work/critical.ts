import type { MachineKind } from "../kind";
import { descalingRule } from "../kind";
import type { ModelCard } from "../kind";

/**
 * Parts that people’s safety hangs on. What is done to them is chosen, never typed: no pattern over free text can tell “lapped and refitted”
 * from work that may be done. Common practice of the trade; local codes and licensed practice decide.
 */

interface CriticalPart {
  readonly label: string;
  /** On which machines it is. */
  readonly on: (kind: MachineKind) => boolean;
  /** Pressure equipment and gas: whoever worked on it is named, with the licence. */
  readonly licensed: boolean;
  /** Earth is measured after it was replaced. */
  readonly earth: boolean;
  /** What it is called in texts, in several languages: only ever used to ask. */
  readonly named: RegExp;
}

const vessel = ({ boiler }: MachineKind) => boiler !== "none" && boiler !== "thermoblock";

export const CRITICAL_PARTS = {
  "safety-valve": {
    label: "Safety valve",
    on: vessel,
    licensed: true,
    earth: false,
    named:
      /safety[ -]?(relief[ -]?)?valve|relief[ -]?valve|\bs ?\/ ?v\b|\bprv\b|sicherheitsventil|soupape|valvola di sicurezza|v[aá]lvula de seguridad|veiligheids(klep|ventiel)|s[aä]kerhetsventil|sikkerhetsventil|sikkerhedsventil/i,
  },
  boiler: {
    label: "Boiler shell, cap or flange",
    on: vessel,
    licensed: true,
    earth: false,
    named:
      /boiler[ -]?(shell|cap|lid|seam|weld|flange|plate)|pressure[ -]?vessel|kesselflansch|kesseldeckel|corps de chaudi[eè]re|flangia|brida de la caldera/i,
  },
  element: {
    label: "Heating element",
    on: ({ heating }) => heating !== null,
    licensed: false,
    earth: true,
    named: /\belements?\b|heiz(element|stab|spirale|ung)|r[eé]sistance|resistenza|resistencia|verwarmingselement/i,
  },
  "cut-out": {
    label: "Thermal cut-out or thermal fuse",
    on: ({ heating }) => heating !== null,
    licensed: false,
    earth: true,
    named:
      /cut[ -]?outs?\b|thermal[ -]?fuse|over-?heat|high[ -]limit|thermosicherung|temperaturbegrenzer|limiteur|fusible thermique|termofusibile|termofusible/i,
  },
  wiring: {
    label: "Wiring, mains cord or earth",
    on: () => true,
    licensed: false,
    earth: true,
    named:
      /\b(re)?wir(e|es|ed|ing)\b|\bearth|\bmains\b|\b(power|mains)[ -]?(cord|lead|cable)\b|\bfuse\b|netzkabel|verdrahtung|erdung|schutzleiter|mise [aà] la terre|c[aâ]blage|messa a terra|cablaggio|puesta a tierra/i,
  },
  gas: {
    label: "Gas burner, valve or line",
    on: ({ cautions }) => cautions.includes("gas"),
    licensed: true,
    earth: false,
    named: /\bgas\b|burner|pilot light|gasbrenner|br[uû]leur|bruciatore|quemador/i,
  },
  "back-flow": {
    label: "Shut-off or back-flow preventer",
    on: ({ supply }) => supply === "plumbed",
    licensed: false,
    earth: false,
    named: /back-?flow|shut-?off|absperr|r[uü]ckflussverhinder|clapet anti-?retour|valvola di non ritorno/i,
  },
} as const satisfies Record<string, CriticalPart>;

export type CriticalPartId = keyof typeof CRITICAL_PARTS;
export const CRITICAL_PART_IDS = Object.keys(CRITICAL_PARTS) as [CriticalPartId, ...CriticalPartId[]];

/** All that can be done to one of them. */
export const CRITICAL_ACTS = {
  replaced: "replaced by type",
  "replaced-tested": "replaced by type and tested, under licence",
  "put-off": "replacement put off",
  "out-of-use": "found faulty, machine taken out of use",
} as const;
export type CriticalAct = keyof typeof CRITICAL_ACTS;
export const CRITICAL_ACT_IDS = Object.keys(CRITICAL_ACTS) as [CriticalAct, ...CriticalAct[]];

/** Those that a machine of this kind has. */
export function criticalPartsOf(kind: MachineKind): CriticalPartId[] {
  return CRITICAL_PART_IDS.filter((id) => CRITICAL_PARTS[id].on(kind));
}

/** What a text may name that is not typed but chosen; "acid" where the model takes none. */
export type Named = CriticalPartId | "acid";

const ACID =
  /descal|\bacid|citric|sulfamic|vinegar|lime ?(remover|scale remover)|entkalk|s[aä]ure|d[eé]tartr|acide|decalcific|descalcific|desincrust|ontkalk/i;

/**
 * What a text may be about, so that somebody is asked. It never refuses by itself and never lets anything pass by itself.
 */
export function namedIn(text: string, kind: MachineKind, card: Pick<ModelCard, "descaling">): Named[] {
  // Look-alike and invisible characters hide no part.
  const plain = text
    .normalize("NFKC")
    .replace(/[\u00AD\u200B-\u200F\u2060\uFEFF]/g, "")
    .replace(/\s+/g, " ");
  const parts: Named[] = criticalPartsOf(kind).filter((id) => CRITICAL_PARTS[id].named.test(plain));
  const acid = kind.groups > 0 && !descalingRule(card.descaling).throughTank && ACID.test(plain);
  return acid ? [...parts, "acid"] : parts;
}

/** What is asked about, in words. */
export const namedWords = (named: Named): string =>
  named === "acid" ? "acid through the machine" : CRITICAL_PARTS[named].label.toLowerCase();
