import { and, desc, eq, inArray, sql } from "drizzle-orm";
import { forMachine, poolModel, shownResponse } from "../../core/learn";
import { LOOP_IDS, type LoopId, loopsOf } from "../../core/loop";
import { KINDS, usualCard } from "../../core/kind";
import { OPV_TOLERANCE } from "../../core/pressure";
import { USUAL_SCHOOLS } from "../../core/school";
import type { Queries, SheetRow } from "../../db/queries/jobs";
import type { Database, Transaction } from "../../db/client";
import { machineResponse, model, modelResponse, response } from "../../db/schema";
import type { LearntLoop } from "../../db/schema/learnt";
import { adjustEvents } from "./events";
import { type Stand, opvOf } from "./stand";

/** Responses learnt on one machine serve the next of its model. Kept up at every signature, for the one model it concerns. */

/** Machines asked at most: beyond that more change nothing that matters. */
const NEWEST = 200;

type ModelRow = SheetRow["machine"]["model"];

/** The response each knob of a model is taken to have where nothing was learnt. */
function startOf(row: ModelRow): Partial<Record<LoopId, { mean: number; sd: number }>> {
  const kind = KINDS[row.kind];
  const card = { ...usualCard(kind), ...row.card };
  const loops = loopsOf({
    kind: { ...kind, opv: card.opvAccess },
    card,
    schools: USUAL_SCHOOLS,
    spec: [],
    opv: opvOf(row),
    brew: OPV_TOLERANCE.regulate,
  });
  return Object.fromEntries(loops.flatMap((l) => (l.knob ? [[l.id, l.knob.response]] : [])));
}

/** What a job that begins now may take for granted of its knobs: the model’s prior, and what this machine has shown before. */
export async function learntFor(
  db: Queries,
  machine: { id: string; model: ModelRow },
): Promise<Partial<Record<LoopId, LearntLoop>>> {
  const [models, owns] = await Promise.all([
    db.select().from(modelResponse).where(eq(modelResponse.modelId, machine.model.id)),
    db.select().from(machineResponse).where(eq(machineResponse.machineId, machine.id)),
  ]);
  const start = startOf(machine.model);
  const learnt: Partial<Record<LoopId, LearntLoop>> = {};
  for (const loop of LOOP_IDS) {
    const pooled = models.find((m) => m.loop === loop);
    const own = owns.find((o) => o.loop === loop);
    const prior = pooled ?? start[loop];
    if (!prior || (!pooled && !own)) continue;
    const { mean, sd } = forMachine(
      prior,
      own ? { value: own.weighted / own.weight, sd: 1 / Math.sqrt(own.weight) } : null,
    );
    learnt[loop] = { mean, sd, machines: pooled?.machines ?? 0, own: own?.jobs ?? 0 };
  }
  return learnt;
}

/** What a job showed of its knobs, once it is signed; faults and unfinished loops teach nothing. */
export async function keepResponses(tx: Transaction, row: SheetRow, stand: Stand, at: Date): Promise<void> {
  for (const { loop, entries, record } of stand.loops) {
    if (!loop.knob || !record.accepted || record.faultTaken || !record.events.includes("move")) continue;
    const { direction, scatter = 0, backlash = 0 } = loop.knob;
    const shown = shownResponse(adjustEvents(entries, loop), direction, { scatter, backlash });
    if (!shown) continue;
    await learnFrom(tx, row.machine.model, { jobId: row.id, loop: loop.id, machineId: row.machineId, ...shown, at });
  }
}

type ShownRow = Omit<typeof response.$inferInsert, "modelId" | "at"> & { at: Date };

/** One more thing shown: kept, added to its machine’s figure, and its model’s prior worked out again. */
export async function learnFrom(tx: Transaction, of: ModelRow, shown: ShownRow): Promise<void> {
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
  await relearn(tx, of, shown.loop, shown.at);
}

async function addToMachine(
  tx: Transaction,
  {
    machineId,
    modelId,
    loop,
    value,
    sd,
    at,
  }: { machineId: string; modelId: string; loop: LoopId; value: number; sd: number; at: Date },
): Promise<void> {
  const weight = 1 / sd ** 2;
  await tx
    .insert(machineResponse)
    .values({ machineId, modelId, loop, weight, weighted: weight * value, jobs: 1, at })
    .onConflictDoUpdate({
      target: [machineResponse.machineId, machineResponse.loop],
      set: {
        weight: sql`${machineResponse.weight} + excluded.weight`,
        weighted: sql`${machineResponse.weighted} + excluded.weighted`,
        jobs: sql`${machineResponse.jobs} + 1`,
        at,
      },
    });
}

/** One model’s knob, worked out again from one figure per machine. */
async function relearn(db: Queries & Pick<Database, "insert">, row: ModelRow, loop: LoopId, at: Date): Promise<void> {
  const start = startOf(row)[loop];
  if (!start) return;
  const machines = await db
    .select({ weight: machineResponse.weight, weighted: machineResponse.weighted })
    .from(machineResponse)
    .where(and(eq(machineResponse.modelId, row.id), eq(machineResponse.loop, loop)))
    .orderBy(desc(machineResponse.at))
    .limit(NEWEST);
  await keep(db, row.id, loop, machines, start, at);
}

async function keep(
  db: Pick<Database, "insert">,
  modelId: string,
  loop: LoopId,
  machines: { weight: number; weighted: number }[],
  start: { mean: number; sd: number },
  at: Date,
): Promise<void> {
  const shown = machines.map((m) => ({ value: m.weighted / m.weight, sd: 1 / Math.sqrt(m.weight) })).reverse();
  const { mean, sd, between, machines: count } = poolModel(shown, start);
  const values = { mean, sd, between, machines: count, at };
  await db
    .insert(modelResponse)
    .values({ modelId, loop, ...values })
    .onConflictDoUpdate({ target: [modelResponse.modelId, modelResponse.loop], set: values });
}

/** All priors from all signed jobs, anew. For a changed method or a restored database; signatures keep them up otherwise. */
export async function relearnAll(db: Database, at: Date): Promise<{ models: number; machines: number }> {
  // Not a person’s write: nobody waits for it, and nothing else is written meanwhile.
  // eslint-disable-next-line no-restricted-syntax
  return db.transaction(async (tx) => {
    await tx.delete(machineResponse);
    await tx.delete(modelResponse);
    // The database adds up what its rows say: one pass, nothing carried over the wire.
    await tx.execute(sql`
      insert into machine_response (machine_id, loop, model_id, weight, weighted, jobs, at)
      select machine_id, loop, (array_agg(model_id))[1], sum(1 / (sd * sd)), sum(value / (sd * sd)), count(*), max(at)
      from response group by machine_id, loop`);
    const rows = await tx
      .select()
      .from(machineResponse)
      .orderBy(machineResponse.modelId, machineResponse.loop, desc(machineResponse.at));
    const ids = [...new Set(rows.map((r) => r.modelId))];
    const models = ids.length ? await tx.select().from(model).where(inArray(model.id, ids)) : [];
    let learnt = 0;
    for (const row of models) {
      const start = startOf(row);
      for (const loop of LOOP_IDS) {
        const own = rows.filter((r) => r.modelId === row.id && r.loop === loop);
        if (own.length === 0 || !start[loop]) continue;
        await keep(tx, row.id, loop, own.slice(0, NEWEST), start[loop], at);
        learnt++;
      }
    }
    return { models: learnt, machines: rows.length };
  });
}
