import { group } from "d3-array";
import { and, desc, eq, isNull, sql } from "drizzle-orm";
import { type Described, type Standing, adjustEvents, grindShown, kindOf, particularsOf } from "../../../core/job";
import { type Learnt, type LearntAt, type LearntKnob, learntKey, loopsOf } from "../../../core/knobs";
import { forMachine, ownResponse, poolModel, shownResponse } from "../../../core/learn";
import { USUAL_SCHOOLS } from "../../../core/school";
import { BUILT_IN_SLOPE } from "../../../core/shot";
import type { Database, Transaction } from "../../../db/client";
import { modelFrom } from "../../../db/queries/job-from";
import type { Queries, SheetRow } from "../../../db/queries/jobs";
import { machineResponse, model, modelResponse, response, workshop } from "../../../db/schema";

/** Responses learnt on one machine serve the next of its model. Kept up at every signature, for the one model it concerns. */

/** Machines asked at most: beyond that more change nothing that matters. */
const NEWEST = 200;

/** Visits of the machine itself that are looked at, of all knobs together: older ones have faded. */
const REMEMBERED = 200;

type ModelRow = SheetRow["machine"]["model"];

/** A model as the library has it. */
export type ModelNow = { readonly id: string } & Pick<Described, "kind" | "card" | "opv">;

export const modelNow = (row: ModelRow): ModelNow => ({ id: row.id, ...modelFrom(row) });

/** A step of the grinder that is built into a machine. */
const GRIND = { knob: "grind", group: null, button: null } as const;

type Start = { at: LearntAt; mean: number; sd: number };

/** The response each knob of a model, and the grinder built into it, is taken to have where nothing was learnt. */
function startOf(of: ModelNow): Map<string, Start> {
  const particulars = particularsOf({ ...of, gauge: { place: "none", toGroup: 0, toGroupU: 0 }, altitude: 0 });
  const { card, opv } = particulars;
  const kind = kindOf(particulars);
  const loops = loopsOf({ kind, card, schools: USUAL_SCHOOLS, spec: [], opv });
  const knobs = loops.flatMap((l): Start[] => (l.knob ? [{ at: l.at, ...l.knob.response }] : []));
  const grind = kind.grinder === "separate" ? [] : [{ at: GRIND, ...BUILT_IN_SLOPE }];
  return new Map([...knobs, ...grind].map((start) => [learntKey(start.at), start]));
}

/** What a job that begins now may take for granted of its knobs: the model’s prior, and what this machine has shown before. */
export async function learntFor(db: Queries, machine: { id: string; model: ModelRow }): Promise<Learnt> {
  const [models, owns] = await Promise.all([
    db.select().from(modelResponse).where(eq(modelResponse.modelId, machine.model.id)),
    db
      .select()
      .from(response)
      .where(
        and(
          eq(response.workshopId, machine.model.workshopId),
          eq(response.modelId, machine.model.id),
          eq(response.machineId, machine.id),
        ),
      )
      .orderBy(desc(response.at))
      .limit(REMEMBERED),
  ]);
  const learnt: Record<string, LearntKnob> = {};
  for (const [id, start] of startOf(modelNow(machine.model))) {
    const pooled = models.find((m) => learntKey(m) === id);
    const shown = owns.filter((o) => learntKey(o) === id).reverse();
    const own = ownResponse(shown);
    if (!pooled && !own) continue;
    const prior = pooled ?? start;
    const { mean, sd } = forMachine(prior, own);
    learnt[id] = {
      mean,
      sd,
      machines: pooled?.machines ?? 0,
      own: shown.length,
      ofModel: { mean: prior.mean, sd: prior.sd },
    };
  }
  return learnt;
}

/** What a job showed of its knobs, once it is signed; faults and unfinished loops teach nothing. */
export async function keepResponses(tx: Transaction, standing: Standing, workshopId: string, at: Date): Promise<void> {
  const { job, loops } = standing;
  const { machine } = job;
  const of = { id: machine.modelId, ...machine.described };
  const here = { workshopId, jobId: job.id, machineId: machine.id, at };
  const grind = grindShown(standing);
  if (grind) await learnFrom(tx, of, { ...here, ...GRIND, ...grind });
  for (const { loop, log, record } of loops) {
    if (!loop.knob || !record.accepted || record.faultTaken || !record.events.includes("move")) continue;
    const { direction, scatter = 0, backlash = 0 } = loop.knob;
    const shown = shownResponse(adjustEvents(log, loop), direction, { scatter, backlash });
    if (!shown) continue;
    await learnFrom(tx, of, { ...here, ...loop.at, ...shown });
  }
}

type ShownRow = Omit<typeof response.$inferInsert, "modelId" | "at"> & { at: Date };

/** One more thing shown: kept, added to its machine’s figure, and its model’s prior worked out again. */
export async function learnFrom(tx: Transaction, of: ModelNow, shown: ShownRow): Promise<void> {
  // One signature after the other where they teach the same model: each works its prior out from all before it.
  await tx.select({ id: model.id }).from(model).where(eq(model.id, of.id)).for("no key update");
  const kept = await tx
    .insert(response)
    .values({ ...shown, modelId: of.id })
    .onConflictDoNothing()
    .returning({ jobId: response.jobId });
  // A job teaches once, however often it is asked.
  if (kept.length === 0) return;
  await addToMachine(tx, { ...shown, modelId: of.id });
  await relearn(
    tx,
    of,
    shown.workshopId,
    { knob: shown.knob, group: shown.group ?? null, button: shown.button ?? null },
    shown.at,
  );
}

async function addToMachine(
  tx: Transaction,
  { workshopId, machineId, modelId, knob, group, button, value, sd, at }: ShownRow & { modelId: string },
): Promise<void> {
  const weight = 1 / sd ** 2;
  await tx
    .insert(machineResponse)
    .values({ workshopId, machineId, modelId, knob, group, button, weight, weighted: weight * value, jobs: 1, at })
    .onConflictDoUpdate({
      target: [machineResponse.machineId, machineResponse.knob, machineResponse.group, machineResponse.button],
      set: {
        weight: sql`${machineResponse.weight} + excluded.weight`,
        weighted: sql`${machineResponse.weighted} + excluded.weighted`,
        jobs: sql`${machineResponse.jobs} + 1`,
        at,
      },
    });
}

/** One model’s knob, worked out again from one figure per machine. */
async function relearn(
  db: Queries & Pick<Database, "insert">,
  of: ModelNow,
  workshopId: string,
  knob: LearntAt,
  at: Date,
): Promise<void> {
  const start = startOf(of).get(learntKey(knob));
  if (!start) return;
  const machines = await db
    .select({ weight: machineResponse.weight, weighted: machineResponse.weighted })
    .from(machineResponse)
    .where(
      and(
        eq(machineResponse.workshopId, workshopId),
        eq(machineResponse.modelId, of.id),
        eq(machineResponse.knob, knob.knob),
        knob.group === null ? isNull(machineResponse.group) : eq(machineResponse.group, knob.group),
        knob.button === null ? isNull(machineResponse.button) : eq(machineResponse.button, knob.button),
      ),
    )
    .orderBy(desc(machineResponse.at))
    .limit(NEWEST);
  await keep(db, { workshopId, modelId: of.id }, machines, start, at);
}

async function keep(
  db: Pick<Database, "insert">,
  of: { workshopId: string; modelId: string },
  machines: { weight: number; weighted: number }[],
  start: Start,
  at: Date,
): Promise<void> {
  const shown = machines.map((m) => ({ value: m.weighted / m.weight, sd: 1 / Math.sqrt(m.weight) })).reverse();
  const { mean, sd, between, machines: count } = poolModel(shown, start);
  const values = { mean, sd, between, machines: count, at };
  await db
    .insert(modelResponse)
    .values({ ...of, ...start.at, ...values })
    .onConflictDoUpdate({
      target: [modelResponse.modelId, modelResponse.knob, modelResponse.group, modelResponse.button],
      set: values,
    });
}

/**
 * All priors from all signed jobs, anew: for a changed method or a restored database; signatures keep them up otherwise. One workshop after
 * the other, each whole or not at all; what is signed meanwhile waits.
 *
 * @param onWorkshop hears how many are done of how many
 */
export async function relearnAll(
  db: Database,
  at: Date,
  onWorkshop: (done: number, of: number) => void = () => {},
): Promise<{ models: number; machines: number }> {
  const shops = await db.select({ id: workshop.id }).from(workshop).orderBy(workshop.id);
  const learnt = { models: 0, machines: 0 };
  for (const [i, { id }] of shops.entries()) {
    const one = await relearnWorkshop(db, id, at);
    learnt.models += one.models;
    learnt.machines += one.machines;
    onWorkshop(i + 1, shops.length);
  }
  return learnt;
}

export async function relearnWorkshop(db: Database, workshopId: string, at: Date) {
  // Not a person’s write: nobody waits for it.
  // eslint-disable-next-line no-restricted-syntax
  return db.transaction(async (tx) => {
    // As a signature does: nothing is learnt of these models meanwhile.
    const models = await tx.select().from(model).where(eq(model.workshopId, workshopId)).for("no key update");
    await tx.delete(machineResponse).where(eq(machineResponse.workshopId, workshopId));
    await tx.delete(modelResponse).where(eq(modelResponse.workshopId, workshopId));
    // The database adds up what its rows say: one pass, nothing carried over the wire.
    await tx.execute(sql`
      insert into machine_response (workshop_id, machine_id, knob, group_no, button, model_id, weight, weighted, jobs, at)
      select workshop_id, machine_id, knob, group_no, button, (array_agg(model_id order by at desc))[1], sum(1 / (sd * sd)), sum(value / (sd * sd)), count(*), max(at)
      from response where workshop_id = ${workshopId} group by workshop_id, machine_id, knob, group_no, button`);
    const rows = await tx
      .select()
      .from(machineResponse)
      .where(eq(machineResponse.workshopId, workshopId))
      .orderBy(desc(machineResponse.at));
    const byKnob = group(rows, (r) => `${r.modelId} ${learntKey(r)}`);
    let learnt = 0;
    for (const row of models)
      for (const [id, start] of startOf(modelNow(row))) {
        const own = byKnob.get(`${row.id} ${id}`);
        if (!own) continue;
        await keep(tx, { workshopId, modelId: row.id }, own.slice(0, NEWEST), start, at);
        learnt++;
      }
    return { models: learnt, machines: rows.length };
  });
}
