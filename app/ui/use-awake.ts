import { useEffect } from "react";

/** Keeps the screen on while a clock runs: one that goes dark in the middle is a lost shot, or a wait nobody sees end. */
export function useAwake(running: boolean): void {
  useEffect(() => {
    if (!running || !("wakeLock" in navigator)) return;
    let held: Promise<WakeLockSentinel | null> | null = null;
    // Refused, it is no matter: the clock runs on. The browser lets go of it with every look at another page: it is asked for again.
    const hold = () => {
      if (document.visibilityState === "visible") held = navigator.wakeLock.request("screen").catch(() => null);
    };
    hold();
    document.addEventListener("visibilitychange", hold);
    return () => {
      document.removeEventListener("visibilitychange", hold);
      void held?.then((lock) => lock?.release());
    };
  }, [running]);
}
