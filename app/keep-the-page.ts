import { useEffect } from "react";
import { isRouteErrorResponse, useMatches } from "react-router";
import { fetchAhead } from "./ui/fetch-ahead";
import { unreached } from "./ui/reach";
import { sayChanged } from "./ui/use-draft";
import { noteSaved, savedBy } from "./ui/saved";
import { unreachable, wentNowhere } from "./ui/unreachable";

/**
 * A lost connection never takes away what is on the screen. A form that went nowhere is answered here, in the shape of the server’s
 * answers; a page that could not be loaded again stays as it was loaded last.
 */

const KEPT = 60;
/** After the first page stands, before the scripts of the others are fetched, ms. */
const QUIET = 1500;
/** What pages brought, newest last, by route and address. */
const last = new Map<string, unknown>();

const keyOf = (route: string, params: object) => `${route} ${JSON.stringify(params)}`;

function keep(key: string, data: unknown) {
  last.delete(key);
  last.set(key, data);
  for (const old of last.keys()) {
    if (last.size <= KEPT) break;
    last.delete(old);
  }
}

interface Result {
  type: "data" | "error";
  result: unknown;
}

/** For the root route: everything this browser asks of the server comes by here. */
export async function keepThePage(
  args: { request: Request; params: object },
  next: () => Promise<Record<string, Result>>,
): Promise<Record<string, Result>> {
  const write = args.request.method !== "GET";
  const sent = write ? args.request.clone() : null;
  const results = await next();
  // Not said in the types: set where the question is a part’s own and no page waits for it.
  const aside = Boolean((args as { fetcherKey?: unknown }).fetcherKey);
  for (const [route, { type, result }] of Object.entries(results)) {
    const saved = sent && (await savedBy(sent, result));
    if (saved) noteSaved(saved);
    if (type !== "error") continue;
    // What an action threw comes wrapped, with the status it would have had.
    const nowhere = wentNowhere(result) || wentNowhere((result as { data?: unknown } | null)?.data);
    if (!nowhere && !(!write && isRouteErrorResponse(result) && result.status === 503)) continue;
    if (args.request.signal.aborted) continue;
    const key = keyOf(route, args.params);
    if (write) results[route] = { type: "data", result: unreachable() };
    else if (last.has(key)) results[route] = { type: "data", result: last.get(key) };
    else if (aside) results[route] = { type: "data", result: null };
    unreached();
  }
  return results;
}

/** Told by the router to its own scripts: which files each page is made of. */
interface Manifest {
  routes: Record<string, { module: string; imports?: string[] } | undefined>;
}

/** The scripts of all pages, with what they bring when it is looked at. */
function allScripts(): string[] {
  const { routes = {} } = (window as { __reactRouterManifest?: Manifest }).__reactRouterManifest ?? {};
  return Object.values(routes).flatMap((route) => (route ? [route.module, ...(route.imports ?? [])] : []));
}

/** Something else than the page came with: chosen before the scripts were there, or put back by the browser. */
function isChosen({ options, selectedIndex }: HTMLSelectElement): boolean {
  return (
    selectedIndex !==
    Math.max(
      0,
      [...options].findIndex((o) => o.defaultSelected),
    )
  );
}

/** Remembers what the page on the screen was loaded with, and makes the others ready to be opened. */
export function useKeptPage(): void {
  const matches = useMatches();
  useEffect(() => {
    // From here on forms are the application’s own.
    document.documentElement.dataset.live = "";
    for (const select of document.querySelectorAll("select")) if (isChosen(select)) sayChanged(select);
    const soon = setTimeout(() => fetchAhead(allScripts()), QUIET);
    return () => clearTimeout(soon);
  }, []);
  useEffect(() => {
    for (const { id, params, loaderData } of matches) if (loaderData !== undefined) keep(keyOf(id, params), loaderData);
  }, [matches]);
}
