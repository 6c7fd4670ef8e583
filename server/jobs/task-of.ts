import { type Task, tasksNow } from "../../core/sheet";
import type { SheetRow } from "../../db/queries/jobs";
import { Refused } from "../refused";
import { type Stand, standOf } from "./stand";

/** The task of a station that can be worked on now, or was. */
export function taskOf(row: SheetRow, id: string): { task: Task; done: boolean; stand: Stand } {
  const stand = standOf(row);
  for (const { station, state, why } of stand.at(Date.now())) {
    const task = tasksNow(station, stand.records).find((t) => t.id === id);
    if (!task) continue;
    if (state === "blocked") throw new Refused(`Not yet: ${station.title.toLowerCase()}. ${why}`);
    return { task, done: state === "done", stand };
  }
  throw new Refused("That is not on this sheet now. Load the page again.");
}
