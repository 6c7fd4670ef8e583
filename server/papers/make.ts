import { aside } from "../aside/threads";
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
      const pdf = await aside({ kind: "report", of }, { stop: stop.signal });
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
