import { KINDS, type ModelCard, usualCard } from "../../core/kind";
import { type GrindRate, type TimedDose, fitRate, secondsFor } from "../../core/grinder";
import { type LoopId, type Loop, BUTTONS, buttonOf, LOOP_IDS } from "../../core/loop";
import { formatUncertainty, unitById } from "../../core/quantity";
import { type Recipe, recipeOf } from "../../core/shot";
import { type SheetRecords, chosen, figure } from "../../core/sheet";
import { type Entry, type MoveRow, type ReadingRow, entriesOf, standing } from "./events";
import type { StandingOf } from "./stand";

/** What of a job is about coffee: its recipe, the targets of its buttons, and the grind of a timed grinder. */

/** The model’s card over what is usual for the kind; a card of another kind than the job’s says nothing of it. */
export function cardOf({ kind, machine: { model } }: Pick<StandingOf, "kind" | "machine">): ModelCard {
  return { ...usualCard(KINDS[kind]), ...(model.kind === kind ? model.card : {}) };
}

export function recipeFrom(job: Pick<StandingOf, "schools" | "spec">, records: SheetRecords): Recipe {
  return recipeOf({
    schools: job.schools,
    spec: job.spec?.lines ?? [],
    basket: chosen(records, "grinder.which") === "single" ? "single" : "double",
    dose: figure(records, "grinder.target"),
    yield: figure(records, "grinder.yield"),
  });
}

/** g wanted of each button, where the job says so itself: the same for every group. */
export function targetsOf(records: SheetRecords): Partial<Record<LoopId, number>> {
  const own = new Map(BUTTONS.map((b) => [b, figure(records, `target.${b}`)]));
  return Object.fromEntries(
    LOOP_IDS.flatMap((id) => {
      const target = own.get(buttonOf(id)?.button ?? "double");
      return buttonOf(id) && target !== undefined ? [[id, target]] : [];
    }),
  );
}

export interface Timed {
  rate: GrindRate;
  /** Where the grind stands now. */
  setting: number;
}

/** A timed grinder’s rate from its weighed doses, and where its grind stands: as last read, or as set since. */
export function timedOf(job: Pick<StandingOf, "kind" | "machine" | "readings" | "entries">): Timed | null {
  const kind = KINDS[job.kind];
  if (!kind.knobs.includes("timer")) return null;
  const { grindScale } = cardOf(job);
  const read = standing(
    entriesOf(
      job.readings.filter((r) => r.loop === "basket"),
      [],
    ),
  ).flatMap((e) => (e.kind === "reading" ? [e.row] : []));
  const doses = read.flatMap(({ value, detail: { amount, setting } }): TimedDose[] =>
    amount === undefined || setting === undefined ? [] : [{ seconds: amount, grams: value, setting }],
  );
  const set = job.entries.findLast((e) => e.task === "grinder.setting" && e.value.form === "figure");
  const last = read.at(-1);
  const newer = set && (!last || set.at > last.at) && set.value.form === "figure" ? set.value.value : undefined;
  return { rate: fitRate(doses, grindScale), setting: newer ?? last?.detail.setting ?? 0 };
}

/** What was read and moved since the grind stood where it stands now. */
export function sinceGrind<R extends ReadingRow, M extends MoveRow>(
  entries: readonly Entry<R, M>[],
  setting: number,
): Entry<R, M>[] {
  const other = entries.findLastIndex(
    (e) => e.kind === "reading" && e.stands && e.row.detail.setting !== undefined && e.row.detail.setting !== setting,
  );
  const since = entries.slice(other + 1);
  // A move before the first dose of this grind belongs to the re-timing: the engine begins where it was weighed.
  const first = since.findIndex((e) => e.kind === "reading");
  return first === -1 ? [] : since.slice(first);
}

const gram = (x: number) => formatUncertainty(x, 0.1, unitById("g"));

/** Where the amount stands now: as last read, with the moves made since. */
export function amountNow(entries: readonly Entry[], loop: Loop): number | null {
  let at: number | null = null;
  for (const e of standing(entries)) {
    if (e.kind === "reading") at = e.row.detail.amount ?? at;
    else if (at !== null) at += e.row.amount * (loop.hand?.sign ?? 1);
  }
  return at;
}

/** After a change of grind: the seconds to set, before anything is weighed; null while the grind stands where it was timed. */
export function retimed(
  entries: readonly Entry[],
  loop: Loop,
  timed: Timed,
): { seconds: string; words: string } | null {
  const last = standing(entries).findLast((e) => e.kind === "reading");
  if (last?.kind !== "reading" || last.row.detail.setting === undefined || last.row.detail.setting === timed.setting)
    return null;
  const to = secondsFor(loop.tolerance, timed.rate, timed.setting);
  const now = amountNow(entries, loop);
  const was = now === null ? "" : ` (it stands at ${now.toFixed(1)} s)`;
  const seconds = to.seconds.toFixed(1);
  return {
    seconds,
    words: `The grind went from ${last.row.detail.setting} to ${timed.setting} since it was timed. Set ${seconds} ± ${gram(2 * to.uSeconds)} s${was}: expect ${to.grams.toFixed(1)} ± ${gram(2 * to.u)} g. Then weigh one.`,
  };
}
