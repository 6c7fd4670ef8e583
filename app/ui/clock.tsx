import { useEffect, useEffectEvent, useState } from "react";
import { remaining } from "./remaining";
import { useLookAgain } from "./use-look-again";

/** Between two looks at a clock, ms. */
const EVERY = 250;

/**
 * The server's time, ticking here. A clock is kept on the server; this one only shows it, set anew by every answer, so that it can't
 * drift and doesn't depend on the device's own clock.
 *
 * @param at the server's time in the answer, ms
 */
export function useServerNow(at: number): number {
  return useServerTime(at, (now) => now);
}

/** What is shown of that time: drawn anew when it is another, not at every look. */
function useServerTime<T extends number | string>(at: number, shown: (now: number) => T): T {
  const first = shown(at);
  const [state, setState] = useState({ at, shown: first });
  const look = useEffectEvent((now: number) => {
    const next = shown(now);
    setState((old) => (old.at === at && old.shown === next ? old : { at, shown: next }));
  });
  useEffect(() => {
    const offset = at - Date.now();
    // A device whose clock is set back has none of it here.
    const tick = () => look(Math.max(Date.now() + offset, at));
    tick();
    const timer = setInterval(tick, EVERY);
    return () => clearInterval(timer);
  }, [at]);
  return state.at === at ? state.shown : first;
}

/** How often a page is asked for when a moment has come, and how long an answer may take, ms. */
const TRIES = 3;
const PATIENCE = 3000;

/** Asks for the page again when the next of these moments has come: time alone moves a sheet on. */
export function useDue(moments: readonly number[], at: number) {
  const lookAgain = useLookAgain();
  const next = Math.min(...moments.filter((m) => m > at), Infinity);
  useEffect(() => {
    if (next === Infinity) return;
    let left = TRIES;
    const look = () => {
      lookAgain();
      // What something else broke off is asked for again; an answer ends this, whatever it says.
      if (--left > 0) timer = setTimeout(look, PATIENCE);
    };
    // A day is the longest that setTimeout can be trusted with here; the next answer sets it anew.
    let timer = setTimeout(look, Math.min(864e5, next - at + 80));
    return () => clearTimeout(timer);
  }, [next, at, lookAgain]);
}

/** A running clock in figures. Not read out every second: the text around it says what it is. */
export function Countdown({ dueAt, at, className = "" }: { dueAt: number; at: number; className?: string }) {
  // Looked at as often as any clock, drawn when its figures change.
  const left = useServerTime(at, (now) => remaining(dueAt - now));
  return (
    <span role="timer" aria-live="off" className={`figure ${className}`}>
      {left}
    </span>
  );
}
