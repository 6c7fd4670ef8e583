/** Revisions of jobs this page knows of beyond what its loader brought: an answer that came with the news need not be asked for again. */
const known = new Map<string, number>();

export function noteShown(jobId: string, revision: number): void {
  known.set(jobId, Math.max(revision, known.get(jobId) ?? 0));
}

export function isShown(jobId: string, revision: number): boolean {
  return (known.get(jobId) ?? -1) >= revision;
}

/**
 * Whether a page loads again after a write: not when the answer brought all that it changed, nor when the server was not reached and
 * there is nothing new to load.
 */
export function unlessAnswered({
  actionResult,
  defaultShouldRevalidate,
}: {
  actionResult?: { outcome?: string; view?: unknown };
  defaultShouldRevalidate: boolean;
}): boolean {
  return actionResult?.outcome === UNREACHABLE.outcome || actionResult?.view ? false : defaultShouldRevalidate;
}

const UNREACHABLE = { outcome: "unreachable" } as const;

/** The answer of a page’s action, or that the server was not reached. */
export async function orUnreachable<T>(serverAction: () => Promise<T>): Promise<T | typeof UNREACHABLE> {
  try {
    return await serverAction();
  } catch (error) {
    // Only a lost connection is answered here; redirects and refusals of the server go their way.
    if (!(error instanceof TypeError)) throw error;
    return UNREACHABLE;
  }
}
