import { and, desc, eq, inArray, isNotNull, like } from "drizzle-orm";
import type { WarmLevel } from "../../core/warmup";
import { timer } from "../schema";
import type { Queries } from "./jobs";
import { lastVisits } from "./last-visits";

const REMEMBERED = 12;
/** Visits looked through for them: not each warms the machine up. */
const VISITS = 40;

/** How long this machine took to each level of warm-up, s, newest first. */
export async function warmUpTimes(
  db: Queries,
  workshopId: string,
  machineId: string,
): Promise<Map<WarmLevel, number[]>> {
  const visits = lastVisits(db, workshopId, machineId, VISITS);
  const rows = await db
    .select({ task: timer.task, at: timer.at, endedAt: timer.endedAt })
    .from(timer)
    .where(
      and(
        eq(timer.workshopId, workshopId),
        inArray(timer.jobId, visits),
        like(timer.task, "warm.%"),
        eq(timer.outcome, "done"),
        isNotNull(timer.endedAt),
      ),
    )
    .orderBy(desc(timer.at))
    .limit(3 * REMEMBERED);
  const times = new Map<WarmLevel, number[]>();
  for (const { task, at, endedAt } of rows) {
    const level = task.slice("warm.".length) as WarmLevel;
    const seconds = (endedAt!.getTime() - at.getTime()) / 1000;
    // A machine switched on while warm says nothing about heating up.
    if (seconds >= 20) times.set(level, [...(times.get(level) ?? []), seconds]);
  }
  return times;
}
