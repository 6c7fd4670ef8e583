import { UNREACHABLE } from "./unreachable";

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
  return actionResult?.outcome === UNREACHABLE || actionResult?.view ? false : defaultShouldRevalidate;
}
