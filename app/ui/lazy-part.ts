import { type ComponentType, createElement, lazy } from "react";
import { whenBack } from "./reach";

/** Parts of pages that come when they are looked at. */

// Any component: what it takes is its own business.
// eslint-disable-next-line @typescript-eslint/no-explicit-any
type Part = ComponentType<any>;
type Load<T extends Part> = () => Promise<{ default: T }>;

/** On the server: what is still to be loaded. */
const parts = new Set<() => Promise<unknown>>();

/** A part that fails on a page begun anew for it, within this time, is broken and not just unreached. ms */
const MINUTE = 60_000;

/** Once the connection is back; a browser that kept the failure has to begin the page anew, with everything that was typed. */
const again = <T extends Part>(load: Load<T>): Promise<{ default: T }> =>
  whenBack()
    .then(load)
    .catch(() => {
      if (begunAnew()) return { default: Missing as unknown as T };
      location.reload();
      return new Promise(() => {});
    });

/** Whether this page was begun anew just before; from now on it was. */
function begunAnew(): boolean {
  try {
    const [path, at] = (sessionStorage.getItem("begun-anew") ?? "").split(" ");
    if (path === location.pathname && Date.now() - Number(at) < MINUTE) return true;
    sessionStorage.setItem("begun-anew", `${location.pathname} ${Date.now()}`);
    return false;
  } catch {
    // Where nothing can be kept, a page that begins anew would do so without end.
    return true;
  }
}

const Missing = () =>
  createElement(
    "p",
    { role: "status", className: "p-2" },
    "A part of this page could not be loaded. ",
    createElement("a", { href: "", className: "underline underline-offset-4" }, "Load the page again"),
  );

/**
 * Like React’s lazy; what can’t be fetched without a connection is waited for, and takes nothing else off the page. The server has all of
 * them before it draws its first page: what a page is made of stands in its document, whether scripts come or not.
 */
export function lazyPart<T extends Part>(load: Load<T>): ComponentType<React.ComponentProps<T>> {
  if (typeof document === "undefined") return partThere(load);
  return lazy(() => load().catch(() => again(load))) as unknown as ComponentType<React.ComponentProps<T>>;
}

function partThere<T extends Part>(load: Load<T>): ComponentType<React.ComponentProps<T>> {
  let part: T | undefined;
  parts.add(async () => (part = (await load()).default));
  return function Part(props) {
    if (!part) throw new Error("Drawn before the server had all of its parts.");
    return createElement(part, props);
  };
}

/** For the server: every part, and those that parts bring. */
export async function allParts(): Promise<void> {
  while (parts.size > 0) {
    const loads = [...parts];
    parts.clear();
    await Promise.all(loads.map((load) => load()));
  }
}
