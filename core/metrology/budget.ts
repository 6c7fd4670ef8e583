import { coverageFactor } from "./distributions";

/** One input quantity of an uncertainty budget (JCGM 100:2008, 4 and 5.1). */
export interface BudgetLine {
  /** What it is: decided by, never by its words. */
  readonly kind: "repeatability" | "instrument" | "drift" | "hysteresis" | "resolution" | "place" | "swing";
  /** What it comes from, in words for the report. */
  readonly source: string;
  /** A: from repeated readings. B: from what is known otherwise (class, resolution, certificate). */
  readonly type: "A" | "B";
  readonly distribution: "normal" | "rectangular" | "triangular" | "t";
  /** Standard uncertainty of the input, ≥ 0, in the input's unit. */
  readonly u: number;
  /** ∂result/∂input. 1 for inputs in the unit of the result. */
  readonly sensitivity: number;
  /** Degrees of freedom, ≥ 1; Infinity where the limits are taken as known. */
  readonly dof: number;
  /** True where the same error sits in every reading by this instrument, so that repeating does not lessen it. */
  readonly common: boolean;
}

/** A budget as it is kept beside a reading: kind, u, and degrees of freedom where they are not taken as known. What it is called follows from the kind. */
export type CompactBudget = readonly (readonly [kind: BudgetLine["kind"], u: number, dof?: number])[];

/** What a reading’s uncertainty is made of, as short as it can be kept: four digits of u are more than it is known to. */
export function compactBudget(lines: readonly BudgetLine[]): CompactBudget {
  return lines.map(({ kind, u, sensitivity, dof }) => {
    const part = Number(Math.abs(sensitivity * u).toPrecision(4));
    return Number.isFinite(dof) ? [kind, part, dof] : [kind, part];
  });
}

export interface Combined {
  /** Combined standard uncertainty. */
  u: number;
  /** Effective degrees of freedom (Welch–Satterthwaite, GUM G.4.1), cut to the next lower whole number. */
  dof: number;
  /** Coverage factor for `coverage`. */
  k: number;
  /** Expanded uncertainty, k·u. */
  U: number;
  coverage: number;
}

/**
 * Combines uncorrelated inputs: u² = Σ(c·u)², ν_eff by Welch–Satterthwaite, U = t_p(ν_eff)·u.
 * Source: JCGM 100:2008 (GUM) 5.1.2, G.4.1, G.6.4.
 *
 * @param coverage in (0, 1), default 0.95
 * @throws RangeError on a negative or unreal uncertainty, or fewer than 1 degree of freedom
 */
export function combine(lines: readonly BudgetLine[], coverage = 0.95): Combined {
  let variance = 0;
  let spread = 0;
  for (const line of lines) {
    if (!(line.u >= 0) || !Number.isFinite(line.u))
      throw new RangeError(`The uncertainty of “${line.source}” is not a figure of 0 or more.`);
    if (!(line.dof >= 1)) throw new RangeError(`“${line.source}” needs at least 1 degree of freedom.`);
    const part = (line.sensitivity * line.u) ** 2;
    variance += part;
    spread += part ** 2 / line.dof;
  }
  const u = Math.sqrt(variance);
  const effective = spread === 0 ? Infinity : variance ** 2 / spread;
  // Above some hundred degrees of freedom t and normal agree to three digits; a whole number is kept below that.
  const dof = Number.isFinite(effective) ? Math.max(1, Math.floor(effective + 1e-9)) : Infinity;
  const k = coverageFactor(coverage, dof);
  return { u, dof, k, U: k * u, coverage };
}

/**
 * Half-width of a rectangular distribution → standard uncertainty (GUM 4.3.7).
 *
 * @param halfWidth any unit, ≥ 0; u comes in the same
 */
export function rectangular(halfWidth: number): number {
  return halfWidth / Math.sqrt(3);
}
