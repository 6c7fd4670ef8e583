import { setImmediate as breathe } from "node:timers/promises";
import { and, asc, desc, eq, isNull, sql } from "drizzle-orm";
import { type Recall, recallOf, shifted } from "../../core/job";
import type { KitInstrument } from "../../core/metrology";
import { instrumentFrom, jobFrom } from "../../db/queries/job-from";
import { sheetRows } from "../../db/queries/jobs";
import { KIT } from "../../db/queries/machines";
import type { Mark } from "../../db/queries/mark";
import { type TouchedVisit, countTouched, touchedVisits } from "../../db/queries/touched";
import { instrument } from "../../db/schema";
import { database } from "../database";
import { unlessBroken } from "../unless-broken";

/** What an instrument touched: for the day its certificate says that it was off. */

const PAGE = 25;

export interface TouchedQuestion {
  since: Date;
  after: Mark | null;
  /** Added to each of its readings; null: its papers of today are asked. */
  add: number | null;
}

export type Touched = NonNullable<Awaited<ReturnType<typeof touchedBy>>>;

/** Visits that an instrument’s figures stand in, and what they would be now; null when it isn’t this workshop’s. */
export async function touchedBy(workshopId: string, instrumentId: string, question: TouchedQuestion) {
  const db = database();
  const [asked] = await db
    .select()
    .from(instrument)
    .where(and(eq(instrument.workshopId, workshopId), eq(instrument.id, instrumentId)));
  if (!asked) return null;
  // The thing itself has a row for every time its papers changed; the one in the kit, else the newest, is what is known today.
  const versions = await db
    .select()
    .from(instrument)
    .where(and(eq(instrument.workshopId, workshopId), eq(instrument.itemId, asked.itemId)))
    .orderBy(desc(instrument.inKit), desc(instrument.id))
    .limit(KIT);
  const today = instrumentFrom(versions[0]!);
  const ids = new Set(versions.map((v) => v.id));
  const byId = new Map(versions.map((v) => [v.id, instrumentFrom(v)]));
  const knownNow = (id: string): KitInstrument | null => {
    const then = byId.get(id);
    return then ? (question.add === null ? today : shifted(then, question.add)) : null;
  };
  const page = { instrumentIds: [...ids], since: question.since, after: question.after, limit: PAGE + 1 };
  const [found, total] = await Promise.all([touchedVisits(db, workshopId, page), countTouched(db, workshopId, page)]);
  const visits = found.slice(0, PAGE);
  const rows = new Map(
    (
      await sheetRows(
        db,
        workshopId,
        visits.map((v) => v.jobId),
      )
    ).map((row) => [row.id, row]),
  );
  const shown = [];
  for (const visit of visits) {
    shown.push(visitView(visit, () => recallOf(jobFrom(rows.get(visit.jobId)!), ids, knownNow)));
    // Others are served between one visit and the next.
    await breathe();
  }
  const end = found.length > PAGE ? visits.at(-1)! : null;
  return {
    instrument: { id: asked.id, name: today.name, quantity: today.quantity, versions: versions.length },
    total,
    visits: shown,
    next: end && { at: end.startedAt, id: end.jobId },
  };
}

function visitView({ startedAt, ...visit }: TouchedVisit, work: () => Recall) {
  return { ...visit, at: startedAt.toISOString(), recall: unlessBroken("a recall", work) };
}

/** Instruments put away, with nothing in the kit in their stead: their figures stand in visits all the same. */
export function putAway(workshopId: string) {
  return database()
    .select({ id: instrument.id, name: instrument.name })
    .from(instrument)
    .where(
      and(
        eq(instrument.workshopId, workshopId),
        eq(instrument.inKit, false),
        isNull(instrument.machineId),
        // Replaced by what is in the kit now: it is asked for there.
        sql`not exists (select 1 from ${instrument} now where now.workshop_id = ${workshopId} and now.item_id = instrument.item_id and now.in_kit)`,
      ),
    )
    .orderBy(asc(instrument.name), desc(instrument.id))
    .limit(50);
}
