import { group as grouped } from "d3-array";
import { and, asc, desc, eq, sql } from "drizzle-orm";
import type { KnobAt } from "../../core/knobs";
import type { Phase } from "../../core/intake";
import type { Dimension } from "../../core/quantity";
import type { Database } from "../client";
import { pastFigure, pastVisit, transfer } from "../schema";

export interface PastVisit {
  readonly id: string;
  /** ISO day */
  readonly on: string;
  readonly by: string;
  readonly work: string;
  readonly note: string;
  /** The file it came with. */
  readonly file: string;
  readonly figures: readonly (KnobAt & {
    readonly phase: Phase;
    readonly dimension: Dimension;
    readonly value: number;
  })[];
}

/** Visits to a machine from before this product, newest first: of files that count. */
export async function pastOfMachine(
  db: Pick<Database, "select">,
  { workshopId, machineId, limit }: { workshopId: string; machineId: string; limit: number },
): Promise<PastVisit[]> {
  const visits = await db
    .select({
      ...{ transferId: pastVisit.transferId, line: pastVisit.line, on: pastVisit.doneOn, by: pastVisit.doneBy },
      ...{ work: pastVisit.work, note: pastVisit.note, file: transfer.about },
    })
    .from(pastVisit)
    .innerJoin(
      transfer,
      and(
        eq(transfer.workshopId, pastVisit.workshopId),
        eq(transfer.id, pastVisit.transferId),
        eq(transfer.state, "done"),
      ),
    )
    .where(and(eq(pastVisit.workshopId, workshopId), eq(pastVisit.machineId, machineId)))
    .orderBy(desc(pastVisit.doneOn), asc(pastVisit.line))
    .limit(limit);
  if (visits.length === 0) return [];
  const { knob, group, button, phase, dimension, value } = pastFigure;
  const figures = await db
    .select({ transferId: pastFigure.transferId, line: pastFigure.line, knob, group, button, phase, dimension, value })
    .from(pastFigure)
    .where(
      and(
        eq(pastFigure.workshopId, workshopId),
        sql`(${pastFigure.transferId}, ${pastFigure.line}) in (select * from unnest(${sql.param(visits.map((v) => v.transferId))}::uuid[], ${sql.param(visits.map((v) => v.line))}::int[]))`,
      ),
    )
    .orderBy(pastFigure.no);
  const of = grouped(figures, (f) => `${f.transferId} ${f.line}`);
  return visits.map(({ transferId, line, ...visit }) => {
    const id = `${transferId} ${line}`;
    return { id, ...visit, figures: of.get(id) ?? [] };
  });
}
