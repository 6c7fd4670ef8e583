import { NOTHING, type Task } from "../../core/sheet";
import type { SignedIn } from "../auth";
import { endTimer, startTimer } from "../jobs/commands/clocks";
import { addNote } from "../jobs/commands/notes";
import { addEntry, addTick } from "../jobs/commands/tasks";

/** Tasks that need nothing of the machine in hand, done as a person would whose work goes well: for made-up visits. */

export interface Hands {
  target(): { by: SignedIn; jobId: string; commandId: string };
  /** Waits until a clock has run. */
  wait(seconds: number): Promise<void>;
  /** What is typed, where the usual will not do. */
  typed?: string | undefined;
  /** What it is read with. */
  instrumentId?: string | undefined;
  /** ISO day */
  today: string;
}

/** Longer than any warm-up, s. */
const WARM = 3600;

/** @throws RangeError for a task that takes more than words, a choice or a clock */
export async function workPlain(task: Task, { target, wait, typed, instrumentId, today }: Hands): Promise<unknown> {
  const type = (usual: string, more = {}) =>
    addEntry(target(), { task: task.id, typed: typed ?? usual, unit: "", sure: true, instrumentId, ...more });
  switch (task.kind) {
    case "condition":
      return addNote(target(), { station: "look-over", area: "", text: typed ?? "No damage seen." });
    case "tick":
    case "heat":
      return addTick(target(), { key: task.id });
    case "text":
      return type("All there.");
    case "work":
      return type(NOTHING);
    case "choice":
      return type(task.options[0]!.value);
    case "hardness":
      return type("40");
    case "purge":
      return type("16 L");
    case "cartridge":
      return type(today, { months: "12", capacity: "", perDay: "" });
    case "figure":
      return type(String((task.usual[0] + task.usual[1]) / 2));
    case "timer":
    case "bursts":
      await startTimer(target(), { task: task.id });
      await wait(task.kind === "timer" ? task.seconds + 1 : 20);
      return endTimer(target(), { task: task.id, outcome: "done", sure: true });
    case "warm":
      await wait(WARM);
      return endTimer(target(), { task: task.id, outcome: "done", sure: true });
    default:
      throw new RangeError(`Nobody said how ${task.id} is worked off.`);
  }
}
