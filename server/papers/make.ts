import { Worker } from "node:worker_threads";
import type { LabelsOf } from "./labels";
import type { PaperOf } from "./report";

/** Papers being made in this process: one of a key at a time, each with how far it is, and each can be stopped. */

export interface Progress {
  readonly done: number;
  readonly of: number;
  readonly what: string;
}

interface Making {
  progress: Progress;
  readonly made: Promise<Uint8Array | null>;
  readonly stop: AbortController;
}

const making = new Map<string, Making>();

/** Laid out one after the other: two at once take twice as long each. */
let last: Promise<unknown> = Promise.resolve();

/** Longest that a paper may take, ms. */
const LONGEST = 120_000;

/** What the worker lays out. */
export type Paper =
  { readonly kind: "report"; readonly of: PaperOf } | { readonly kind: "labels"; readonly of: LabelsOf };

export interface Maker {
  /** Gathers what is on it, telling how far it is. */
  gather(tell: (progress: Progress) => void, stop: AbortSignal): Promise<PaperOf>;
  keep(pdf: Uint8Array): Promise<void>;
}

/** How far a paper is that is being made; null where it is not. */
export const progressOf = (key: string): Progress | null => making.get(key)?.progress ?? null;

export function stopMaking(key: string): void {
  making.get(key)?.stop.abort();
}

/**
 * Makes a paper, or joins in where it is being made.
 *
 * @returns null where it was stopped
 */
export function make(key: string, maker: Maker): Promise<Uint8Array | null> {
  const known = making.get(key);
  if (known) return known.made;
  const stop = new AbortController();
  const begun: Making = { progress: { done: 0, of: 1, what: "Beginning" }, stop, made: Promise.resolve(null) };
  const made = (async () => {
    try {
      const of = await maker.gather((progress) => (begun.progress = progress), stop.signal);
      const pdf = await inTurn({ kind: "report", of }, stop.signal);
      await maker.keep(pdf);
      return pdf;
    } catch (error) {
      if (stop.signal.aborted) return null;
      throw error;
    } finally {
      making.delete(key);
    }
  })();
  making.set(key, Object.assign(begun, { made }));
  // Who asked may have gone by then.
  made.catch(() => {});
  return made;
}

/** A paper of which nothing is kept. @throws where it was stopped */
export const layOutLabels = (of: LabelsOf, stop: AbortSignal): Promise<Uint8Array> =>
  inTurn({ kind: "labels", of }, stop);

function inTurn(paper: Paper, stop: AbortSignal): Promise<Uint8Array> {
  const turn = last.then(() => layOut(paper, stop));
  last = turn.catch(() => {});
  return turn;
}

/** Built beside the server, and used from there by sources too; see vite.papers.config.ts. */
const here = import.meta.url;
const built = here.lastIndexOf("/build/server/");
const WORKER =
  built < 0 ? new URL("../../build/papers/worker.js", here) : new URL(`${here.slice(0, built)}/build/papers/worker.js`);

/** Kept for the next paper: its fonts are read and its code is warm. */
let idle: Worker | null = null;

function layOut(paper: Paper, stop: AbortSignal): Promise<Uint8Array> {
  stop.throwIfAborted();
  const worker = idle ?? new Worker(WORKER);
  idle = null;
  // A process that ends does not wait for a worker with nothing to do.
  worker.ref();
  return new Promise<Uint8Array>((resolve, reject) => {
    const late = setTimeout(() => reject(new Error("The paper takes too long.")), LONGEST).unref();
    stop.addEventListener("abort", () => reject(new Error("Stopped.")), { once: true });
    worker.once("message", ({ pdf, error }: { pdf?: Uint8Array; error?: string }) => {
      clearTimeout(late);
      if (pdf) resolve(pdf);
      else reject(new Error(error));
    });
    worker.once("error", reject);
    worker.once("exit", (code) => reject(new Error(`The paper was not made (${code}).`)));
    worker.postMessage(paper);
  }).then(
    (pdf) => {
      // Those of this paper; the worker has others of its own, without which nothing comes back from it.
      for (const event of ["message", "error", "exit"]) worker.removeAllListeners(event);
      worker.once("error", () => (idle = null));
      worker.unref();
      idle = worker;
      return pdf;
    },
    (error: unknown) => {
      void worker.terminate();
      throw error;
    },
  );
}
