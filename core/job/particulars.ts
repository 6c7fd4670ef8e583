import { KINDS, type KindId, type MachineKind, type ModelCard, usualCard } from "../kind";
import type { OpvModel } from "../pressure";
import type { Wanted } from "../spec";
import { type Preset, type Scope, presetScopes } from "../sheet";

/**
 * All of kind, model and machine that decides a sheet. Assembled here and nowhere else, and stored with the job when it begins: what the
 * library says later changes no job that has begun.
 */
export interface Particulars {
  readonly kind: KindId;
  /** The model’s card over what is usual for the kind. */
  readonly card: ModelCard;
  /** What the over-pressure valve of the model answers, where nothing was learnt yet. */
  readonly opv: OpvModel;
  readonly gauge: {
    readonly place: GaugeSeat;
    /** In the workshop’s own words, where the place alone does not say it. */
    readonly words?: string;
    /** Bar to add for the pressure at the group, and its standard uncertainty. */
    readonly toGroup: number;
    readonly toGroupU: number;
  };
  /** m above the sea */
  readonly altitude: number;
  /** A valve before the group throttles the flow: it is opened fully for every test. */
  readonly flowControl?: boolean;
  /** Bar on the pump’s label: its dead-end pressure, never brew pressure. */
  readonly pumpLabel?: number | null;
  /** Values its owner wants, over those of the spec. */
  readonly wanted?: Wanted;
}

/** Where a machine’s own gauge can sit. */
export const GAUGE_SEATS = ["none", "group", "pump", "flow"] as const;
export type GaugeSeat = (typeof GAUGE_SEATS)[number];

/** What the library and the register hold of one machine. */
export interface Described {
  readonly kind: KindId;
  readonly card: Partial<ModelCard>;
  readonly opv: OpvModel;
  readonly gauge: Particulars["gauge"];
  readonly altitude: number;
  readonly flowControl?: boolean;
  readonly pumpLabel?: number | null;
  readonly wanted?: Wanted;
}

/** All that decides a sheet: the kind’s usual figures where the card says nothing. */
export function particularsOf({ kind, card, opv, gauge, altitude, ...own }: Described): Particulars {
  const { flowControl = false, pumpLabel = null, wanted = {} } = own;
  return {
    kind,
    card: { ...usualCard(KINDS[kind]), ...card },
    opv,
    gauge,
    altitude,
    // Only what is so: sheets of earlier years say nothing of these.
    ...(flowControl || KINDS[kind].flowControl ? { flowControl: true } : {}),
    ...(pumpLabel === null ? {} : { pumpLabel }),
    ...(Object.keys(wanted).length > 0 ? { wanted } : {}),
  };
}

/** The kind of this machine: a model may have its valve elsewhere, or more groups, than its kind usually does. */
export function kindOf({ kind, card }: Pick<Particulars, "kind" | "card">): MachineKind {
  return { ...KINDS[kind], opv: card.opvAccess, groups: card.groups };
}

/** Whether two say the same, key for key, in whatever order they were written. */
export function sameParticulars(a: Particulars, b: Particulars): boolean {
  return canonical(a) === canonical(b);
}

function canonical(value: unknown): string {
  return JSON.stringify(value, (_, part: unknown) =>
    part && typeof part === "object" && !Array.isArray(part)
      ? Object.fromEntries(Object.entries(part).sort(([a], [b]) => (a < b ? -1 : 1)))
      : part,
  );
}

/** What a usual visit is for on this machine. */
export function scopesOfPreset(preset: Preset, particulars: Particulars): Scope[] {
  return presetScopes(preset, kindOf(particulars), particulars.card);
}
