import { useEffect, useState } from "react";
import { remaining } from "./remaining";
import { useLookAgain } from "./use-look-again";

/**
 * The server's time, ticking here. A clock is kept on the server; this one only shows it, set anew by every answer, so that it can't
 * drift and doesn't depend on the device's own clock.
 *
 * @param at the server's time in the answer, ms
 */
export function useServerNow(at: number, everyMs = 250): number {
  const [now, setNow] = useState(at);
  useEffect(() => {
    const offset = at - Date.now();
    const tick = () => setNow(Date.now() + offset);
    tick();
    const timer = setInterval(tick, everyMs);
    return () => clearInterval(timer);
  }, [at, everyMs]);
  return Math.max(now, at);
}

/** Asks for the page again when the next of these moments has come: time alone moves a sheet on. */
export function useDue(moments: readonly number[], at: number) {
  const lookAgain = useLookAgain();
  const next = Math.min(...moments.filter((m) => m > at), Infinity);
  useEffect(() => {
    if (next === Infinity) return;
    // A day is the longest that setTimeout can be trusted with here; the next answer sets it anew.
    const timer = setTimeout(() => lookAgain(), Math.min(864e5, next - at + 80));
    return () => clearTimeout(timer);
  }, [next, at, lookAgain]);
}

/** A running clock in figures. Not read out every second: the text around it says what it is. */
export function Countdown({ dueAt, at, className = "" }: { dueAt: number; at: number; className?: string }) {
  const now = useServerNow(at);
  return (
    <span role="timer" aria-live="off" className={`figure ${className}`}>
      {remaining(dueAt - now)}
    </span>
  );
}
