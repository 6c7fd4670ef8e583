import { addMonths } from "date-fns";
import { GASKET_SHOTS, SHOT_ML, descaleEvery } from "../care";
import { descalingRule } from "../kind";
import { type Limit, forecastService, pOutside } from "../drift";
import { datesOf } from "../day/said";
import { dayIn, noonOf } from "../day";
import { chosen, figure, latest } from "../sheet";
import { serviceMonths } from "../water";
import type { NextService } from "./document";
import { DAY, type KnobLife, type PastResult, driftOfLife, livesOf } from "./life";
import { resultOf } from "./result";
import type { Standing } from "./standing";

/** When the machine is serviced next: by where it works, sooner where its water stays hard, and sooner where a setting will not hold so long. */

/** Visits after which it counts anew: to read a pressure or to teach a button is no service. */
const SERVICED = ["setup", "work", "hand-over"] as const;

/**
 * The day the next service is due at the latest; null after a visit that was none.
 *
 * @param at when the visit ends, ms
 * @param past results of earlier visits: how its settings wander
 */
export function nextService(standing: Standing, at: number, past: readonly PastResult[] = []): NextService | null {
  const { job, kind, records } = standing;
  if (!SERVICED.some((scope) => job.scopes.includes(scope))) return null;
  const months = serviceMonths(kind.supply);
  const hard = chosen(records, "water.decision") === "interval";
  const every = hard ? months.hard : months.usual;
  const today = noonOf(dayIn(job.zone, at))!;
  const cartridge = latest(records, "filter.next");
  const why = `Every ${every} months${hard ? " while the water is as hard as it was read" : ""}.`;
  const dates: Limit[] = [
    { kind: "date", what: "Interval", day: dayOf(addMonths(today, every)), why },
    ...(cartridge?.form === "cartridge"
      ? [
          {
            kind: "date" as const,
            what: "Filter cartridge",
            day: dayOf(noonOf(cartridge.dueOn)!),
            why: `Filter cartridge, by ${cartridge.by}.`,
          },
        ]
      : []),
  ];
  dates.push(...ofUse(standing, dayOf(today)));
  // What was not read now is no older by this visit: it asks for a reading, not for another service.
  const read = livesOf([...past, ...pastOf(standing, at)], kind.groups).filter(
    (life) => life.visits.at(-1)?.jobId === job.id,
  );
  // Who was there today is not called again within a quarter of the interval: what was left that near to a limit is for the report to say.
  const soonest = dayOf(today) + Math.round((every * MONTH) / 4);
  return serviceFrom(dates, read, { today: dayOf(today), soonest, zone: job.zone });
}

/**
 * The next service of a machine from its fixed dates and its settings over the years.
 *
 * @param about the day from which it is asked, and the zone in which days are told
 */
export function serviceFrom(
  dates: readonly Limit[],
  lives: readonly KnobLife[],
  about: { today: number; soonest?: number; zone: string },
): NextService | null {
  const limits = [
    ...dates,
    ...lives.flatMap((life): Limit[] => {
      const drift = driftOfLife(life);
      // From one visit alone nobody knows how it wanders.
      if (!drift || drift.stretches === 0) return [];
      return [{ kind: "drift", what: life.title, drift, tolerance: life.tolerance }];
    }),
  ];
  const due = forecastService(limits, about.today, about.soonest);
  if (!due) return null;
  const { limit, on, window, pBefore } = due;
  const { day } = datesOf(about.zone);
  const chance = pBefore >= LEAST ? ` ${percent(pBefore)}${BY_THEN}` : "";
  // A day that was set at an earlier visit brings the chance of then along: today’s stands in its place.
  if (limit.kind === "date") return { on: isoOf(on), why: `${limit.why.replace(EARLIER_CHANCE, "")}${chance}` };
  const visits = limit.drift.stretches + 1;
  if (on <= about.today) {
    const now = percent(pOutside(limit.drift, limit.tolerance, on));
    return { on: isoOf(on), why: `${limit.what} may be outside its limits already: ${now} by ${visits} visits.` };
  }
  const until = window.to === null ? "" : ` and ${day(isoOf(window.to))}`;
  return {
    on: isoOf(on),
    why: `${limit.what} may leave its limits: likely ${until ? "between" : "from"} ${day(isoOf(window.from))}${until}${until ? "" : " on"}, by ${visits} visits.`,
    from: isoOf(window.from),
    ...(window.to === null ? {} : { to: isoOf(window.to) }),
  };
}

const BY_THEN = " chance that a setting is out of spec by then.";
const EARLIER_CHANCE = / \d{1,3} % chance that a setting is out of spec by then\./g;

/** days */
const MONTH = 30.4;
/** Less is not worth a word. */
const LEAST = 0.05;
const percent = (p: number) => `${Math.round(100 * p)} %`;

const dayOf = (noon: Date) => Math.floor(noon.getTime() / DAY);
/** A day counted from 1970 as ISO. */
const isoOf = (day: number) => new Date(day * DAY + DAY / 2).toISOString().slice(0, 10);

/** What the shots of every day set: gasket and screen, and scale where only the workshop takes it out. */
function ofUse({ job, kind, card, records }: Standing, today: number): Limit[] {
  const perDay = job.machine.shotsPerDay;
  if (!perDay || kind.groups === 0) return [];
  const shots = kind.supply === "plumbed" ? GASKET_SHOTS.shop : GASKET_SHOTS.home;
  const said = shots.toLocaleString("en-GB");
  const gasket = `Gasket and screen, about ${said} shots at ${perDay} a day.`;
  const limits: Limit[] = [{ kind: "date", what: "Shots", day: today + Math.floor(shots / perDay), why: gasket }];
  const hardness = figure(records, "water.hardness");
  const owners = descalingRule(card.descaling, job.schools.ownerDescaling).owner;
  // A shop’s boiler takes more, and has its cartridge.
  if (owners || kind.supply !== "tank" || !hardness) return limits;
  const litres = descaleEvery(hardness);
  const aDay = (perDay * SHOT_ML) / 1000;
  const scale = `Scale: about ${litres} L of water at ${hardness.toFixed(0)} mg/L, ${aDay.toFixed(1)} L a day.`;
  return [...limits, { kind: "date", what: "Scale", day: today + Math.floor(litres / aDay), why: scale }];
}

/** What this visit itself has come to, as later ones will find it. */
function pastOf(standing: Standing, at: number): PastResult[] {
  return standing.loops.flatMap((knob) =>
    (["as-found", "as-left"] as const).flatMap((phase) => {
      const result = resultOf(knob, phase, standing);
      if (!result) return [];
      const { lower = null, upper = null } = knob.loop.tolerance;
      const { value, u, U, resolution, verdict } = result;
      return [
        {
          ...knob.loop.at,
          ...{ jobId: standing.job.id, at: new Date(at), phase, dimension: knob.loop.judged },
          ...{ value, u, U, resolution, verdict, lower, upper },
        },
      ];
    }),
  );
}
