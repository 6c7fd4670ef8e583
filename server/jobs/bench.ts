import { LRUCache } from "lru-cache";
import { KINDS } from "../../core/kind";
import { pressureCheck } from "../../core/pressure";
import { openJobs, standingRows } from "../../db/queries/jobs";
import { machinesOf } from "../../db/queries/machines";
import { database } from "../database";
import { runOf, summarise } from "./events";
import { standOf } from "./stand";

export type Tile = Awaited<ReturnType<typeof tilesOf>>[number];

type Progress = ReturnType<typeof progressOf>;

// By job and revision: a write makes a new revision, so nothing here is ever out of date.
const known = new LRUCache<string, Progress>({ max: 2000 });

/** The machines in hand, each with where its job stands. */
export async function tilesOf(workshopId: string) {
  const jobs = await openJobs(database(), workshopId);
  const progress = new Map<string, Progress>();
  for (const job of jobs) {
    const found = known.get(`${job.id} ${job.revision}`);
    if (found) progress.set(job.id, found);
  }
  const missing = jobs.filter((job) => !progress.has(job.id)).map((job) => job.id);
  if (missing.length > 0)
    for (const row of await standingRows(database(), missing)) {
      const made = progressOf(row);
      known.set(`${row.id} ${row.revision}`, made);
      progress.set(row.id, made);
    }
  return jobs.flatMap(({ id, maker, model, site, tolerance }) => {
    const at = progress.get(id);
    return at ? [{ jobId: id, model: `${maker} ${model}`, site, tolerance, ...at }] : [];
  });
}

function progressOf(row: Awaited<ReturnType<typeof standingRows>>[number]) {
  const { stations, inHand, entries } = standOf(row);
  const now = summarise(runOf(entries, "as-left"));
  return {
    inHand: inHand?.title ?? "Done",
    needs: inHand?.needs ?? "",
    done: stations.filter((s) => s.state === "done").length,
    of: stations.length,
    now: now && { value: now.value, U: now.U, resolution: now.resolution },
  };
}

const SHOWN = 200;

/** The register as the bench lists it, with whether a pressure check can be started. */
export async function registerOf(workshopId: string) {
  const all = await machinesOf(database(), workshopId, SHOWN);
  return all.map(({ kind, ...m }) => ({ ...m, kind: KINDS[kind].label, check: pressureCheck(KINDS[kind]) }));
}
