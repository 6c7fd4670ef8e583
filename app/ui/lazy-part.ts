import { type ComponentType, lazy } from "react";
import { whenBack } from "./reach";

/** Parts of pages that come when they are looked at, or when nothing else is to do: whichever is first. */

// Any component: what it takes is its own business.
// eslint-disable-next-line @typescript-eslint/no-explicit-any
type Load<T extends ComponentType<any>> = () => Promise<{ default: T }>;

/** After the page that brings it, ms. */
const SOON = 1000;
const parts = new Set<() => Promise<unknown>>();
/** The first page stands: parts that other pages bring are fetched soon after them. */
let quiet = false;

/** Like React’s lazy; what can’t be fetched without a connection is waited for, and takes nothing else off the page. */
// eslint-disable-next-line @typescript-eslint/no-explicit-any
export function lazyPart<T extends ComponentType<any>>(load: Load<T>) {
  const untilThere: Load<T> = () => load().catch(() => whenBack().then(untilThere));
  parts.add(load);
  if (quiet) setTimeout(fetchParts, SOON);
  return lazy(untilThere);
}

/** Fetches what pages have not asked for yet. */
export function fetchParts(): void {
  quiet = true;
  for (const load of parts) load().catch(() => {});
  parts.clear();
}
