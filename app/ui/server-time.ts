/**
 * What the server’s clock is ahead of this device’s, as well as can be told. Every answer says when it was written and is seen some time
 * later, so each sample comes out too small, never too large: the largest is the best. The first document is known to the moment it began
 * to arrive, not only to when its scripts ran.
 */
let best = -Infinity;
let asDocument = false;

/** @param at the server’s time in an answer that has just been seen, ms */
export function serverOffset(at: number): number {
  best = Math.max(best, at - Date.now());
  if (!asDocument) {
    asDocument = true;
    const [document] = performance.getEntriesByType("navigation") as PerformanceNavigationTiming[];
    // Only the page that the document itself brought; one that was walked to is newer than it.
    if (document && document.responseStart > 0 && new URL(document.name).pathname === location.pathname)
      best = Math.max(best, at - (performance.timeOrigin + document.responseStart));
  }
  return best;
}
