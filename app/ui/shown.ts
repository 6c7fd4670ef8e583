/** Revisions of jobs this page knows of beyond what its loader brought: an answer that came with the news need not be asked for again. */
const known = new Map<string, number>();

export function noteShown(jobId: string, revision: number): void {
  known.set(jobId, Math.max(revision, known.get(jobId) ?? 0));
}

export function isShown(jobId: string, revision: number): boolean {
  return (known.get(jobId) ?? -1) >= revision;
}

/** For the pages around one whose answer brought all that it changed: nothing of theirs is asked for again. */
export function unlessAnswered({
  actionResult,
  defaultShouldRevalidate,
}: {
  actionResult?: { view?: unknown };
  defaultShouldRevalidate: boolean;
}): boolean {
  return actionResult?.view ? false : defaultShouldRevalidate;
}
