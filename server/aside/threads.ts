import { Worker } from "node:worker_threads";
import type { Separator } from "../../core/intake";
import { workshopInForce } from "../../db/wall";
import type { FileRow, Form } from "../intake/rows";
import type { LabelsOf } from "../papers/labels";
import type { PaperOf } from "../papers/report";
import { Refused } from "../refused";
import { type Turns, turns } from "./turns";

/**
 * What takes longer than a page may hold its process up is done in threads beside it: papers are laid out in one, tables are read in another. Each
 * does one thing at a time, within its time and its memory; workshops take turns, whatever one of them asks for.
 */

export type Task =
  | { readonly kind: "report"; readonly of: PaperOf }
  | { readonly kind: "labels"; readonly of: LabelsOf }
  | { readonly kind: "file"; readonly path: string; readonly form: Form; readonly count: number }
  | { readonly kind: "text"; readonly text: string; readonly separator: Separator; readonly most: number };

export type Answer = { readonly made: unknown } | { readonly error: string; readonly unreadable: boolean };

interface Made {
  report: Uint8Array;
  labels: Uint8Array;
  file: FileRow[];
  text: Omit<FileRow, "bytes">[];
}

interface Lane {
  readonly turns: Turns;
  /** Longest that one of its tasks may take, ms. */
  readonly longest: number;
  /** What is said where it took longer, or more memory than there is. */
  readonly tooMuch: string;
  /** Kept for the next one: its fonts are read and its code is warm. */
  idle: Worker | null;
}

/** Waiting of one workshop, at most. Our choice: a minute of papers. */
const MOST_WAITING = 20;
const lane = (longest: number, tooMuch: string): Lane => ({
  turns: turns({ atOnce: 1, waiting: MOST_WAITING }),
  longest,
  tooMuch,
  idle: null,
});
const papers = lane(120_000, "The paper takes too long.");
const tables = lane(10_000, "This table takes too long to read. Cut the file in pieces.");
const LANES: Readonly<Record<Task["kind"], Lane>> = { report: papers, labels: papers, file: tables, text: tables };

/** Heap of a thread, MB. Our choice: forty photos, or a million lines looked through. */
const MEMORY = 512;

/** Built beside the server (vite.aside.config.ts); where this runs from its sources, so does the thread. */
const here = import.meta.url;
const built = here.lastIndexOf("/build/server/");
const SOURCE = `import("tsx/esm/api").then((tsx) => { tsx.register(); return import("${new URL("./worker.ts", here).href}"); })`;
const limits = { resourceLimits: { maxOldGenerationSizeMb: MEMORY } };
const begun = () =>
  built < 0
    ? new Worker(SOURCE, { eval: true, ...limits })
    : new Worker(new URL(`${here.slice(0, built)}/build/aside/worker.js`), limits);

/**
 * Does a task beside this process, when it is its workshop’s turn.
 *
 * @throws Refused where a table can’t be read, or the workshop has too much waiting
 */
export async function aside<K extends Task["kind"]>(
  task: Extract<Task, { kind: K }>,
  { stop, field }: { stop?: AbortSignal; field?: string } = {},
): Promise<Made[K]> {
  const lane = LANES[task.kind];
  const whose = workshopInForce() ?? "nobody";
  const made = await lane.turns.take(whose, () => inThread(lane, task, { stop, field }), stop);
  if (made === "too many")
    throw new Refused(
      "So much of this is being done for the workshop that this would wait for minutes. Try later.",
      field,
    );
  return made as Made[K];
}

/** What a thread came to: made, or in words why nothing can be made of it. */
type Outcome = { readonly made: unknown } | { readonly unreadable: string };

async function inThread(
  lane: Lane,
  task: Task,
  { stop, field }: { stop?: AbortSignal | undefined; field?: string | undefined },
) {
  stop?.throwIfAborted();
  const worker = lane.idle ?? begun();
  lane.idle = null;
  // A process that ends does not wait for a thread with nothing to do.
  worker.ref();
  let late: NodeJS.Timeout | undefined;
  let gone = () => {};
  try {
    const outcome = await new Promise<Outcome>((resolve, reject) => {
      late = setTimeout(() => reject(new Refused(lane.tooMuch, field)), lane.longest).unref();
      gone = () => reject(new Error("Stopped."));
      stop?.addEventListener("abort", gone, { once: true });
      worker.once("message", (answer: Answer) => {
        if ("made" in answer) resolve(answer);
        else if (answer.unreadable) resolve({ unreadable: answer.error });
        else reject(new Error(answer.error));
      });
      worker.once("error", (error: NodeJS.ErrnoException) =>
        reject(error.code === "ERR_WORKER_OUT_OF_MEMORY" ? new Refused(lane.tooMuch, field) : error),
      );
      worker.once("exit", (code) => reject(new Error(`Nothing came back (${code}).`)));
      worker.postMessage(task);
    });
    // Those of this task; the thread has others of its own, without which nothing comes back from it.
    for (const event of ["message", "error", "exit"]) worker.removeAllListeners(event);
    worker.once("error", () => (lane.idle = null));
    worker.unref();
    lane.idle = worker;
    if ("unreadable" in outcome) throw new Refused(outcome.unreadable, field);
    return outcome.made;
  } catch (error) {
    // Whatever else happened, the next task has a new one.
    if (lane.idle !== worker) void worker.terminate();
    throw error;
  } finally {
    clearTimeout(late);
    stop?.removeEventListener("abort", gone);
  }
}
