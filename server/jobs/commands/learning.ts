import { rollup } from "d3-array";
import { type SQL, and, desc, eq, max, ne } from "drizzle-orm";
import { type Standing, grindShown, kindOf, particularsOf } from "../../../core/job";
import { type Learnt, type LearntAt, type LearntKnob, learntKey, loopsOf } from "../../../core/knobs";
import { type VisitShown, driftsOf, ownResponse, poolModel, shownResponse } from "../../../core/learn";
import { USUAL_SCHOOLS } from "../../../core/school";
import { BUILT_IN_SLOPE } from "../../../core/shot";
import type { Transaction } from "../../../db/client";
import { modelFrom } from "../../../db/queries/job-from";
import type { Queries, SheetRow } from "../../../db/queries/jobs";
import { job, machine, repair, response } from "../../../db/schema";

/**
 * Responses learnt on one machine serve the next of its model. Each signature keeps what its visit showed; what follows from all of them is
 * worked out when a job begins, by their age, and nowhere kept.
 */

/** Visits asked of the other machines of a model at most, and of the machine itself, of all knobs together: older ones have faded. */
const NEWEST = 4000;
const REMEMBERED = 200;

type ModelRow = SheetRow["machine"]["model"];

/** A step of the grinder that is built into a machine. */
const GRIND = { knob: "grind", group: null, button: null } as const;

type Start = { at: LearntAt; mean: number; sd: number };

/** The response each knob of a model, and the grinder built into it, is taken to have where nothing was learnt. */
function startOf(of: ModelRow): Map<string, Start> {
  const particulars = particularsOf({
    ...modelFrom(of),
    gauge: { place: "none", toGroup: 0, toGroupU: 0 },
    altitude: 0,
  });
  const { card, opv } = particulars;
  const kind = kindOf(particulars);
  const loops = loopsOf({ kind, card, schools: USUAL_SCHOOLS, spec: [], opv });
  const knobs = loops.flatMap((l): Start[] => (l.knob ? [{ at: l.at, ...l.knob.response }] : []));
  const grind = kind.grinder === "separate" ? [] : [{ at: GRIND, ...BUILT_IN_SLOPE }];
  return new Map([...knobs, ...grind].map((start) => [learntKey(start.at), start]));
}

/** What a job that begins now may take for granted of its knobs: what the other machines of the model have shown, and this one before. */
export async function learntFor(
  db: Queries,
  machine: { id: string; model: ModelRow },
  at: Date = new Date(),
): Promise<Learnt> {
  const shown = await shownOf(db, machine);
  const now = yearsOf(at);
  const learnt: Record<string, LearntKnob> = {};
  for (const [id, start] of startOf(machine.model)) {
    const machines = shown.get(id);
    if (!machines) continue;
    const drifts = driftsOf([...machines.values()]);
    const visits = machines.get(machine.id) ?? [];
    // Its own figure counts once: beside the others, not among them.
    const others = [...machines].flatMap(([of, theirs]) => {
      const figure = of === machine.id ? null : ownResponse(theirs, now, { drifts });
      return figure ? [{ value: figure.mean, sd: figure.sd }] : [];
    });
    const pooled = poolModel(others, start);
    const { mean, sd } = ownResponse(visits, now, { others: pooled, start, drifts }) ?? pooled;
    learnt[id] = {
      mean,
      sd,
      machines: machines.size,
      own: visits.length,
      ofModel: { mean: pooled.mean, sd: pooled.sd },
    };
  }
  return learnt;
}

const YEAR = 365.25 * 864e5;
const yearsOf = (at: Date) => at.getTime() / YEAR;

/** By knob and machine, what the visits since the last repair of it showed, oldest first. */
async function shownOf(
  db: Queries,
  { id, model: of }: { id: string; model: ModelRow },
): Promise<Map<string, Map<string, VisitShown[]>>> {
  const newest = (whose: SQL, most: number) =>
    db
      .select()
      .from(response)
      .where(and(eq(response.workshopId, of.workshopId), eq(response.modelId, of.id), whose))
      .orderBy(desc(response.at))
      .limit(most);
  // Apart, so that a large fleet does not crowd out what this machine has shown.
  const [own, others, repairs] = await Promise.all([
    newest(eq(response.machineId, id), REMEMBERED),
    newest(ne(response.machineId, id), NEWEST),
    db
      .select({
        machineId: job.machineId,
        knob: repair.knob,
        group: repair.group,
        button: repair.button,
        at: max(repair.at),
      })
      .from(repair)
      .innerJoin(job, and(eq(job.workshopId, repair.workshopId), eq(job.id, repair.jobId)))
      .innerJoin(machine, and(eq(machine.workshopId, job.workshopId), eq(machine.id, job.machineId)))
      .where(and(eq(repair.workshopId, of.workshopId), eq(machine.modelId, of.id)))
      .groupBy(job.machineId, repair.knob, repair.group, repair.button),
  ]);
  const mended = new Map(repairs.map((r) => [`${r.machineId} ${learntKey(r)}`, r.at!]));
  const counts = [...own, ...others].filter((r) => {
    const since = mended.get(`${r.machineId} ${learntKey(r)}`);
    return since === undefined || r.at > since;
  });
  return rollup(
    counts.reverse(),
    (visits) => visits.map((v): VisitShown => ({ value: v.value, sd: v.sd, years: yearsOf(v.at) })),
    (r) => learntKey(r) as string,
    (r) => r.machineId,
  );
}

/** What a job showed of its knobs, once it is signed; faults and unfinished loops teach nothing. */
export async function keepResponses(tx: Transaction, standing: Standing, workshopId: string, at: Date): Promise<void> {
  const { job: signed, loops } = standing;
  const { id: machineId, modelId } = signed.machine;
  const here = { workshopId, jobId: signed.id, machineId, modelId, at };
  const grind = grindShown(standing);
  if (grind) await learnFrom(tx, { ...here, ...GRIND, ...grind });
  for (const { loop, question, record } of loops) {
    if (!loop.knob || !question || !record.accepted || record.faultTaken || !record.events.includes("move")) continue;
    const { direction, scatter = 0, backlash = 0 } = loop.knob;
    // What the engine was told: of one state, since the last repair and the last other grind.
    const shown = shownResponse(question.events, direction, { scatter, backlash });
    if (shown) await learnFrom(tx, { ...here, ...loop.at, ...shown });
  }
}

/** One more thing shown: kept, and asked for when the next job of its model begins. A job teaches once, however often it is asked. */
export async function learnFrom(tx: Transaction, shown: typeof response.$inferInsert): Promise<void> {
  await tx.insert(response).values(shown).onConflictDoNothing();
}
