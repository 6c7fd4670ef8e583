import { randomLcg } from "d3-random";
import { timesOf } from "../../core/shot";
import { cupAt, pourFrom } from "../../core/twin";
import { tapsOf } from "../../db/queries/shots";
import { database } from "../database";
import { eventStream } from "../event-stream";

/**
 * A simulated for the bench scale: it weighs a made-up shot that follows the job’s own clock, and says what it shows as an event stream,
 * one line of grams at a time. A real scale takes its place by speaking the same lines.
 */

/** ms between figures, and between looks at the clock. */
const EVERY = 250;
const LOOK = 1000;

export function scaleStream(workshopId: string, jobId: string, target: number, signal: AbortSignal): Response {
  return eventStream(signal, (say) => {
    let clock: Awaited<ReturnType<typeof tapsOf>> = null;
    let looked = 0;
    let ended = false;
    const look = async () => {
      looked = Date.now();
      // While the records don’t answer, the scale goes on with what it knew.
      clock = await tapsOf(database(), workshopId, jobId).catch(() => clock);
    };
    const tell = () => {
      const now = Date.now();
      if (now - looked > LOOK) void look();
      say(`event: grams\ndata: ${gramsOf(clock, target, now).toFixed(1)}\n\n`);
    };
    // Whoever left while the clock was looked up hears nothing more.
    void look().then(() => !ended && tell());
    const timer = setInterval(tell, EVERY);
    return () => {
      ended = true;
      clearInterval(timer);
    };
  });
}

/** What the scale shows: tared while no clock runs. */
function gramsOf(open: Awaited<ReturnType<typeof tapsOf>>, target: number, now: number): number {
  if (!open?.clock.pump) return 0;
  // The same clock is the same shot on every phone.
  const twin = pourFrom(randomLcg(Number.parseInt(open.clockId.replaceAll("-", "").slice(-12), 16) / 16 ** 12), target);
  const { total } = timesOf(open.clock);
  return cupAt(twin, (now - open.clock.pump) / 1000, total ?? undefined);
}
