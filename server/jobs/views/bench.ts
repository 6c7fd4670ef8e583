import { LRUCache } from "lru-cache";
import { stationInHand } from "../../../core/sheet";
import { type Job, figureOf, runOf, standingOf } from "../../../core/job";
import { jobFrom } from "../../../db/queries/job-from";
import { countOpen, openJobs, sheetRows } from "../../../db/queries/jobs";
import type { Mark } from "../../../db/queries/mark";
import { database } from "../../database";
import { unlessBroken } from "../../unless-broken";

export type Tile = Awaited<ReturnType<typeof benchOf>>["tiles"][number];

type Progress = ReturnType<typeof progressOf>;

// One of a job, with its revision: a write makes a new revision, so nothing here is ever out of date, nor kept when it is.
// As many as are looked at by turns, in all workshops: a page of a bench never pushes out more than itself.
const known = new LRUCache<string, { revision: number; progress: Progress }>({ max: 2000 });

/** More open jobs than this are not counted: “over 200” says as much. */
const COUNTED = 200;

export interface BenchQuestion {
  now?: number;
  /** Where the page before ended. */
  after?: Mark | null;
  limit?: number;
}

/**
 * The machines in hand, newest jobs first, a page of them: what was begun today is never behind what was left lying. On the page, those
 * ready for hands come before what is due next.
 */
export async function benchOf(workshopId: string, { now = Date.now(), after = null, limit = 24 }: BenchQuestion = {}) {
  const found = await openJobs(database(), workshopId, after, limit + 1);
  const jobs = found.slice(0, limit);
  const end = found.length > limit ? jobs.at(-1)! : null;
  // Where all are on one page, they are counted by looking.
  const open = end || after ? await countOpen(database(), workshopId, COUNTED + 1) : jobs.length;
  return {
    tiles: await tilesOf(workshopId, jobs, now),
    /** How many are open in all, and whether that many were counted and no further. */
    open: Math.min(open, COUNTED),
    over: open > COUNTED,
    next: end && { at: end.startedAt, id: end.id },
  };
}

async function tilesOf(workshopId: string, jobs: Awaited<ReturnType<typeof openJobs>>, now: number) {
  const progress = new Map<string, Progress>();
  for (const job of jobs) {
    const found = known.get(job.id);
    if (found?.revision === job.revision) progress.set(job.id, found.progress);
  }
  const missing = jobs.filter((job) => !progress.has(job.id)).map((job) => job.id);
  if (missing.length > 0)
    for (const row of await sheetRows(database(), workshopId, missing)) {
      const made = unlessBroken("a job", () => progressOf(jobFrom(row)));
      if (!made) continue;
      known.set(row.id, { revision: row.revision, progress: made });
      progress.set(row.id, made);
    }
  const tiles = jobs.map(({ id, maker, model, site }) => {
    const at = progress.get(id);
    const stands = at && unlessBroken("a job", () => standsNow(at, now));
    return { jobId: id, model: `${maker} ${model}`, site, now: at?.now ?? null, ...(stands ?? UNKNOWN) };
  });
  return tiles.sort((a, b) => rankOf(a) - rankOf(b));
}

/** A job whose records make no sense keeps its place on the bench, and takes no other down with it. */
const UNKNOWN: ReturnType<typeof standsAt> = {
  inHand: "This sheet can’t be worked out",
  needs: "",
  until: null,
  clocks: [],
  due: null,
  done: 0,
  of: 1,
};

/** Needs you first, the newest job before older ones; then whatever is due soonest. */
function rankOf({ until }: { until: number | null }): number {
  return until ?? 0;
}

/** Everybody’s page asks at once whenever somebody wrote: what time alone moves on is looked at once a second. */
const lately = new WeakMap<Progress, { at: number; stands: ReturnType<typeof standsAt> }>();

function standsNow(progress: Progress, now: number) {
  const last = lately.get(progress);
  if (last && now >= last.at && now - last.at < 1000) return last.stands;
  const stands = standsAt(progress, now);
  lately.set(progress, { at: now, stands });
  return stands;
}

/** Where a job stands at a moment: time alone moves it on. */
function standsAt({ standing, clocks }: Progress, now: number) {
  const stations = standing.at(now);
  const inHand = stationInHand(stations);
  const waits = inHand?.state === "running";
  const due = clocks.find((t) => t.dueAt <= now);
  return {
    inHand: inHand?.station.title ?? "Done",
    needs: inHand?.station.needs ?? "",
    /** When what it waits for is due, ms; null when hands are needed now. */
    until: waits ? (inHand.until ?? null) : null,
    /** Clocks that run beside the work, soonest first. */
    clocks,
    due: due?.label ?? null,
    done: stations.filter((s) => s.state === "done" || s.state === "skipped").length,
    of: stations.length,
  };
}

function progressOf(job: Job) {
  const standing = standingOf(job);
  // The first knob of the sheet that was read: its figure as it stands now.
  const read = standing.loops.find((l) => l.log.length > 0);
  const now =
    read && read.loop.judged === "pressure"
      ? figureOf(runOf(read.log, "as-left"), read.loop, standing.kind.pump)
      : null;
  const clocks = job.timers
    .filter((t) => t.endedAt === null)
    .map((t) => ({ label: t.label, dueAt: t.dueAt.getTime() }))
    .sort((a, b) => a.dueAt - b.dueAt);
  return { standing, clocks, now: now && { value: now.value, U: now.U, resolution: now.resolution } };
}
