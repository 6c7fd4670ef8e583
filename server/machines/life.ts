import { datesOf } from "../../core/day/said";
import { dayIn, noonOf } from "../../core/day";
import { expectedOn } from "../../core/drift/drift";
import { DAY, type KnobLife, type NextService, driftOfLife, livesOf, serviceFrom, settingTitle } from "../../core/job";
import type { Phase } from "../../core/intake";
import { type LoopId, keyOf, unitOf } from "../../core/knobs";
import { formatQuantity, formatUncertainty, unitById } from "../../core/quantity";
import type { Database } from "../../db/client";
import type { PastVisit } from "../../db/queries/past";
import { resultsOfMachine } from "../../db/queries/results";

/** One machine over its years: each setting from visit to visit, where it is going, and when it should be seen again. */

/** Looked back on: more than twenty years of a café. */
const VISITS = 200;
/** Days ahead that are drawn where nothing sets a date. */
const AHEAD = 365;

/** Of visits from before, as a spreadsheet had them: so many are drawn and listed. */
export const PAST_VISITS = 400;

interface Asked {
  readonly workshopId: string;
  readonly machineId: string;
  readonly groups: number;
  readonly zone: string;
  readonly pressureUnit: string;
  /** From before this product. */
  readonly past: readonly PastVisit[];
  /** As its newest service said. */
  readonly due: NextService | null;
}

export async function lifeView(db: Database, { workshopId, machineId, groups, zone, pressureUnit, due, past }: Asked) {
  const lives = livesOf(await resultsOfMachine(db, { workshopId, machineId, visits: VISITS }), groups);
  const today = dayIn(zone, Date.now());
  const dayOf = (iso: string) => Math.floor(noonOf(iso)!.getTime() / DAY);
  const next =
    due && due.on >= today
      ? serviceFrom([{ kind: "date", what: "Interval", day: dayOf(due.on), why: due.why }], lives, {
          today: dayOf(today),
          zone,
        })
      : due;
  const until = next && next.on > today ? dayOf(next.on) : dayOf(today) + AHEAD;
  const before = beforeOf(past);
  const settings = lives.map((life) => ({
    ...settingView(life, { zone, pressureUnit, until }),
    before: before.get(life.id)?.points ?? [],
  }));
  const alone = [...before].filter(([id]) => !lives.some((l) => l.id === id));
  return {
    next: next && { ...next, over: next.on < today },
    settings: [...settings, ...alone.map(([id, of]) => settingFromBefore(id, of, groups, pressureUnit))],
  };
}

interface Before {
  readonly of: PastVisit["figures"][number];
  readonly points: { at: number; value: number; phase: Phase }[];
}

/** Readings from before, by setting. */
function beforeOf(past: readonly PastVisit[]): Map<LoopId, Before> {
  const all = new Map<LoopId, Before>();
  for (const { on, figures } of past)
    for (const of of figures) {
      const id = keyOf(of);
      if (!all.has(id)) all.set(id, { of, points: [] });
      all.get(id)!.points.push({ at: noonOf(on)!.getTime(), value: of.value, phase: of.phase });
    }
  return all;
}

/** A setting that was read before only: no limits are known, and nothing is said of where it goes. */
function settingFromBefore(id: LoopId, { of, points }: Before, groups: number, pressureUnit: string) {
  const unit = unitById(unitOf({ judged: of.dimension }, pressureUnit));
  return {
    ...{ id, title: settingTitle(of, groups), tolerance: {}, resolution: 0.1, ahead: [], visits: [], unit: unit.id },
    said: "Read before only.",
    before: points,
  };
}

function settingView(
  life: KnobLife,
  { zone, pressureUnit, until }: { zone: string; pressureUnit: string; until: number },
) {
  const { id, title, dimension, resolution, tolerance, visits } = life;
  const unit = unitById(unitOf({ judged: dimension }, pressureUnit));
  const drift = driftOfLife(life);
  const last = visits.at(-1)!;
  const ahead = drift && drift.stretches > 0 && until > drift.from.day ? aheadOf(drift, until) : [];
  const { day } = datesOf(zone);
  const on = (ms: number) => day(new Date(ms).toISOString());
  const newest = last.left ?? last.found;
  const left = newest
    ? `${last.left ? "As left" : "Read"} ${on(last.at)}: ${formatQuantity(newest.value, resolution, unit)}.`
    : "";
  const step = resolution >= 0.1 ? resolution / 2 : resolution;
  const perYear =
    drift && drift.stretches > 0
      ? ` Between visits it moves ${formatQuantity(drift.rate, step, unit)} a year, ± ${formatUncertainty(2 * drift.uRate, step, unit)}.`
      : "";
  return {
    ...{ id, title, tolerance, resolution, ahead },
    unit: unit.id,
    said: `${visits.length} ${visits.length === 1 ? "visit" : "visits"}. ${left}${perYear}`,
    visits: visits.map(({ at, found, left }) => ({ at, found, left })),
  };
}

/** Where a setting is going: from as left last to a day, with what it may be off, 95 %. */
function aheadOf(drift: NonNullable<ReturnType<typeof driftOfLife>>, until: number) {
  const STEPS = 8;
  return Array.from({ length: STEPS + 1 }, (_, i) => {
    const day = drift.from.day + ((until - drift.from.day) * i) / STEPS;
    const { value, u } = expectedOn(drift, day);
    return { at: day * DAY, value, U: 2 * u };
  });
}
