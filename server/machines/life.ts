import { datesOf } from "../../core/day/said";
import { dayIn, noonOf } from "../../core/day";
import { expectedOn } from "../../core/drift/drift";
import { DAY, type KnobLife, type NextService, driftOfLife, livesOf, serviceFrom } from "../../core/job";
import { unitOf } from "../../core/knobs";
import { formatQuantity, formatUncertainty, unitById } from "../../core/quantity";
import type { Database } from "../../db/client";
import { resultsOfMachine } from "../../db/queries/results";

/** One machine over its years: each setting from visit to visit, where it is going, and when it should be seen again. */

/** Looked back on: more than twenty years of a café. */
const VISITS = 200;
/** Days ahead that are drawn where nothing sets a date. */
const AHEAD = 365;

interface Asked {
  readonly workshopId: string;
  readonly machineId: string;
  readonly groups: number;
  readonly zone: string;
  readonly pressureUnit: string;
  /** As its newest service said. */
  readonly due: NextService | null;
}

export async function lifeView(db: Database, { workshopId, machineId, groups, zone, pressureUnit, due }: Asked) {
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
  return {
    next: next && { ...next, over: next.on < today },
    settings: lives.map((life) => settingView(life, { zone, pressureUnit, until })),
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
