/** Whose turn it is: so many at once, and those who wait are taken one of each in the round, so that nobody’s many keep another’s one waiting. */

export interface Turns {
  /**
   * Does something when it is its turn.
   *
   * @param whose those of one wait behind each other, not before others
   * @returns "too many" where so much of theirs waits that it is not taken
   */
  take<T>(whose: string, work: () => Promise<T>, stop?: AbortSignal): Promise<T | "too many">;
}

/**
 * @param atOnce how many in all
 * @param each how many at once of one; as many as in all where it is not said
 * @param waiting how many of one may wait
 */
export function turns({ atOnce, each = atOnce, waiting }: { atOnce: number; each?: number; waiting: number }): Turns {
  let running = 0;
  const runningOf = new Map<string, number>();
  /** In the order in which they are taken: whoever was taken goes to its end. */
  const queues = new Map<string, (() => void)[]>();

  const next = () => {
    for (const [whose, queue] of queues) {
      if (running >= atOnce) return;
      if ((runningOf.get(whose) ?? 0) >= each) continue;
      const go = queue.shift()!;
      queues.delete(whose);
      if (queue.length > 0) queues.set(whose, queue);
      begin(whose);
      go();
    }
  };
  const begin = (whose: string) => {
    running += 1;
    runningOf.set(whose, (runningOf.get(whose) ?? 0) + 1);
  };
  const end = (whose: string) => {
    running -= 1;
    const left = runningOf.get(whose)! - 1;
    if (left > 0) runningOf.set(whose, left);
    else runningOf.delete(whose);
    next();
  };
  const waitFor = (whose: string, stop: AbortSignal | undefined) =>
    new Promise<void>((resolve, reject) => {
      const queue = queues.get(whose) ?? [];
      queues.set(whose, queue);
      const go = () => {
        stop?.removeEventListener("abort", gone);
        resolve();
      };
      const gone = () => {
        queue.splice(queue.indexOf(go), 1);
        if (queue.length === 0) queues.delete(whose);
        reject(stop!.reason as Error);
      };
      stop?.addEventListener("abort", gone, { once: true });
      queue.push(go);
    });

  return {
    async take(whose, work, stop) {
      stop?.throwIfAborted();
      if (running < atOnce && (runningOf.get(whose) ?? 0) < each) begin(whose);
      else if ((queues.get(whose)?.length ?? 0) >= waiting) return "too many";
      else await waitFor(whose, stop);
      try {
        return await work();
      } finally {
        end(whose);
      }
    },
  };
}
