import type { Standing } from "../../../core/job";
import { type Station, type Task, tasksNow } from "../../../core/sheet";
import { moment } from "../../moment";
import { Refused } from "../../refused";

/** The task of a station that can be worked on now, or was. */
export function taskOf(standing: Standing, id: string): { task: Task; station: Station; done: boolean } {
  for (const { station, state, why } of standing.at(moment().getTime())) {
    const task = tasksNow(station, standing.records).find((t) => t.id === id);
    if (!task) continue;
    if (state === "blocked") throw new Refused(`Not yet: ${station.title.toLowerCase()}. ${why}`);
    return { task, station, done: state === "done" };
  }
  throw new Refused("That is not on this sheet now. Load the page again.");
}
