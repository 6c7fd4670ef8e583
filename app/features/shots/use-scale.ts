import { useEffect, useRef, useState } from "react";
import type { ShotClockState } from "./clock";
import { type Weighed, elapsed } from "~core/shot";

/** What the scale said of the shot in hand. */
export interface FromScale {
  grams: number | null;
  weighed: Weighed[];
  /** g at the moment of the stop, and at rest after it. */
  atStop: number | null;
  atRest: number | null;
}

const NOTHING: FromScale = { grams: null, weighed: [], atStop: null, atRest: null };
/** s between figures that go into the forecast, and after the stop until the cup is at rest. */
const BETWEEN = 1;
const REST = 5000;

/** Listens to the bench scale while it is switched on. */
export function useScale(jobId: string, on: boolean, clock: ShotClockState): FromScale {
  const [said, setSaid] = useState<FromScale>(NOTHING);
  const now = useRef(clock);
  useEffect(() => {
    now.current = clock;
  }, [clock]);
  const { clockId } = clock;
  useEffect(() => setSaid(NOTHING), [clockId, on]);
  useEffect(() => {
    if (!on) return;
    const source = new EventSource(`/jobs/${jobId}/scale`);
    source.addEventListener("grams", (event) => {
      const grams = Number(event.data);
      const { clock: taps, offset } = now.current;
      setSaid((before) => {
        if (taps.pump === undefined) return { ...NOTHING, grams };
        const at = elapsed(taps, Date.now() + offset);
        const rested = taps.stop !== undefined && Date.now() + offset - taps.stop > REST;
        const last = before.weighed.at(-1);
        const due = taps.stop === undefined && grams > 0.5 && (!last || at - last.at >= BETWEEN);
        return {
          grams,
          weighed: due ? [...before.weighed, { at, grams, by: "scale" as const }] : before.weighed,
          atStop: taps.stop === undefined ? null : (before.atStop ?? before.grams),
          atRest: rested ? (before.atRest ?? grams) : null,
        };
      });
    });
    return () => source.close();
  }, [jobId, on]);
  return said;
}
