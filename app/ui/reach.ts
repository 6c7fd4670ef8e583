import { useEffect, useEffectEvent, useSyncExternalStore } from "react";

/** Whether the workshop’s server can be reached, as far as this page knows: told by sends and loads that failed, and by the browser. */

/** Until it is looked for the first time, and after each time it was not there, ms. */
const FIRST = 1000;
const RETRY = 3000;

let lost = false;
let looking: Promise<void> | null = null;
const listeners = new Set<() => void>();

function set(now: boolean) {
  if (lost === now) return;
  lost = now;
  for (const tell of listeners) tell();
}

/** Something did not reach the server: from now on it is looked for until it answers. */
export function unreached(): void {
  set(true);
  void whenBack();
}

/** Resolves when the server, and its records behind it, answer again. */
export function whenBack(): Promise<void> {
  looking ??= new Promise<void>((resolve) => {
    let timer: ReturnType<typeof setTimeout> | undefined;
    const look = async () => {
      clearTimeout(timer);
      const back =
        navigator.onLine &&
        (await fetch("/alive").then(
          (answer) => answer.ok,
          () => false,
        ));
      if (!back) return void (timer = setTimeout(look, RETRY));
      window.removeEventListener("online", look);
      looking = null;
      // First those who wait: what is told next may take them off the page.
      resolve();
      set(false);
    };
    window.addEventListener("online", look);
    timer = setTimeout(look, FIRST);
  });
  return looking;
}

function subscribe(tell: () => void) {
  listeners.add(tell);
  window.addEventListener("offline", unreached);
  return () => {
    listeners.delete(tell);
    window.removeEventListener("offline", unreached);
  };
}

/** True while the server is known to be out of reach. */
export function useUnreachable(): boolean {
  return useSyncExternalStore(
    subscribe,
    () => lost,
    () => false,
  );
}

/** Runs once the connection is back, each time `waiting` becomes something else than null. */
export function useWhenBack(waiting: unknown, then: () => void): void {
  const run = useEffectEvent(then);
  useEffect(() => {
    if (waiting === null || waiting === undefined) return;
    let left = false;
    void whenBack().then(() => {
      if (!left) run();
    });
    return () => {
      left = true;
    };
  }, [waiting]);
}
