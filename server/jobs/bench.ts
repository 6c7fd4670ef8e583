import { pressureCheck } from "../../core/pressure";
import { KINDS } from "../../core/kind";
import { openJobs } from "../../db/queries/jobs";
import { machinesOf } from "../../db/queries/machines";
import { database } from "../database";
import { runOf, summarise } from "./events";
import { standOf } from "./stand";

export type Tile = Awaited<ReturnType<typeof tilesOf>>[number];

/** The machines in hand, each with where its job stands. */
export async function tilesOf(workshopId: string) {
  const jobs = await openJobs(database(), workshopId);
  return jobs.map((job) => {
    const { stations, inHand, entries } = standOf(job);
    const now = summarise(runOf(entries, "as-left"));
    return {
      jobId: job.id,
      model: `${job.machine.model.maker} ${job.machine.model.name}`,
      site: job.machine.site.name,
      inHand: inHand?.title ?? "Done",
      needs: inHand?.needs ?? "",
      done: stations.filter((s) => s.state === "done").length,
      of: stations.length,
      tolerance: job.tolerance,
      now: now && { value: now.value, U: now.U, resolution: now.resolution },
    };
  });
}

const SHOWN = 200;

/** The register as the bench lists it, with whether a pressure check can be started. */
export async function registerOf(workshopId: string) {
  const all = await machinesOf(database(), workshopId, SHOWN);
  return all.map(({ kind, ...m }) => ({ ...m, kind: KINDS[kind].label, check: pressureCheck(KINDS[kind]) }));
}
