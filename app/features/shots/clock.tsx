import { useEffect, useState } from "react";
import type { ShotsView } from "~server/jobs/views/shots";
import type { useShotClock } from "./use-shot-clock";
import { Button } from "~app/ui/button";
import { useKeyOf } from "~app/ui/keys";
import type { KeyAction } from "~core/keys";
import { buzz, ring } from "~app/ui/buzz";
import { parseQuantity, unitById } from "~core/quantity";
import { LONGEST, type Tap, type Weighed, elapsed, forecast, timesOf } from "~core/shot";

export type ShotClockState = ReturnType<typeof useShotClock>;

const LABEL: Record<Tap, string> = { pump: "Pump on", "first-drop": "First drop", stop: "Stop" };
const KEY: Record<Tap, KeyAction> = { pump: "pump", "first-drop": "drop", stop: "stop" };

/** One clock, three taps. The button is the tap that comes next; the one after it stands beside, small. */
export function ClockPanel({
  clock,
  asking,
  onAsk,
  children,
}: {
  clock: ShotClockState;
  /** Whether to clear it was asked: it is never cleared by one key or tap alone. */
  asking: boolean;
  onAsk: (asking: boolean) => void;
  children?: React.ReactNode;
}) {
  const { firstDrop, total } = timesOf(clock.clock);
  return (
    <section aria-label="Shot clock" data-clock="" className="grid gap-3">
      <div className="flex items-end justify-between gap-3">
        <p className="figure text-7xl leading-none font-semibold">
          <Seconds clock={clock} />
          <span className="ml-2 text-2xl">s</span>
        </p>
        <p className="text-right text-sm text-soft">
          {firstDrop !== null && (
            <>
              first drop at <span className="figure">{firstDrop.toFixed(1)} s</span>
              <br />
            </>
          )}
          counted from the pump
        </p>
      </div>
      {clock.next ? (
        <div className="flex gap-2">
          <Button
            type="button"
            look="main"
            data-land=""
            className="min-h-24 flex-1 text-2xl"
            onClick={() => clock.tap(clock.next!)}
          >
            {LABEL[clock.next]}
            <Key of={KEY[clock.next]} />
          </Button>
          {clock.next === "first-drop" && (
            <Button type="button" className="min-h-24" onClick={() => clock.tap("stop")}>
              {LABEL.stop}
              <Key of={KEY.stop} />
            </Button>
          )}
        </div>
      ) : (
        <p className="border-l-4 border-brass pl-3 font-semibold">
          Stopped at <span className="figure">{total?.toFixed(1)} s</span>. Weigh the cup and save the shot.
        </p>
      )}
      {children}
      {clock.problem && (
        <p role="alert" className="border-l-4 border-alarm pl-2 font-semibold text-alarm">
          {clock.problem}
        </p>
      )}
      {clock.clock.pump !== undefined &&
        (asking ? (
          <div role="group" aria-label="Clear the timer?" className="grid gap-2 border-l-4 border-alarm pl-3">
            <p>Clear the timer? This shot’s times are lost.</p>
            <span className="flex flex-wrap gap-4">
              <Button type="button" autoFocus onClick={() => onAsk(false)}>
                Keep it
              </Button>
              <Button
                type="button"
                onClick={() => {
                  onAsk(false);
                  clock.tap("cleared");
                }}
              >
                Clear it
              </Button>
            </span>
          </div>
        ) : (
          <Button type="button" look="quiet" className="justify-self-start" onClick={() => onAsk(true)}>
            Clear the timer
          </Button>
        ))}
    </section>
  );
}

function Key({ of }: { of: KeyAction }) {
  const key = useKeyOf()(of);
  if (!key) return null;
  return (
    <kbd
      aria-hidden="true"
      className="rounded border border-current px-1.5 text-base font-normal opacity-80 max-wide:hidden"
    >
      {key}
    </kbd>
  );
}

/** Time that runs by itself, and by itself only: nothing else is drawn again with it. */
function useElapsed({ clock, offset }: Pick<ShotClockState, "clock" | "offset">, everyMs: number): number {
  const [seconds, setSeconds] = useState(0);
  useEffect(() => {
    const look = () => setSeconds(elapsed(clock, Date.now() + offset));
    look();
    if (clock.pump === undefined || clock.stop !== undefined) return;
    const timer = setInterval(look, everyMs);
    // A phone that slept wakes with the right time, not with the last one drawn.
    document.addEventListener("visibilitychange", look);
    return () => {
      clearInterval(timer);
      document.removeEventListener("visibilitychange", look);
    };
  }, [clock, offset, everyMs]);
  return seconds;
}

function Seconds({ clock }: { clock: ShotClockState }) {
  const seconds = useElapsed(clock, 100);
  return (
    <span role="timer" aria-live="off" aria-label="Seconds of the shot">
      {Math.min(seconds, 10 * LONGEST).toFixed(1)}
    </span>
  );
}

/** A figure read off the scale while it runs: typed, Enter, and the forecast knows more. */
export function WeighNow({ clock, onWeigh }: { clock: ShotClockState; onWeigh: (weighed: Weighed) => void }) {
  const [typed, setTyped] = useState("");
  const [problem, setProblem] = useState("");
  if (clock.clock["first-drop"] === undefined || clock.clock.stop !== undefined) return null;
  const note = () => {
    const parsed = parseQuantity(typed, "mass", unitById("g"));
    const grams = parsed.ok ? parsed.value : 0;
    if (!(grams > 0 && grams < 400)) return setProblem("Type the grams the scale shows, like 14.");
    setProblem("");
    setTyped("");
    onWeigh({ at: elapsed(clock.clock, Date.now() + clock.offset), grams });
  };
  return (
    <div className="grid gap-1">
      <label className="flex items-center gap-2">
        <span className="font-semibold">On the scale now, g</span>
        <input
          value={typed}
          onChange={(e) => setTyped(e.target.value)}
          onKeyDown={(e) => {
            if (e.key === "Enter") note();
          }}
          inputMode="decimal"
          autoComplete="off"
          aria-invalid={problem ? true : undefined}
          className="figure h-11 w-24 rounded-md border-2 border-edge bg-sheet px-2 text-lg aria-invalid:border-alarm"
        />
      </label>
      {problem && (
        <p role="alert" className="border-l-4 border-alarm pl-2 text-sm font-semibold text-alarm">
          {problem}
        </p>
      )}
    </div>
  );
}

/** While it runs: what is in the cup now and when to stop, surer with every figure of the scale. */
export function Forecast({
  clock,
  expected,
  weighed,
  stored,
}: {
  clock: ShotClockState;
  expected: ShotsView["expected"];
  weighed: readonly Weighed[];
  /** g the button in use was left giving, where it is one. */
  stored: number | null;
}) {
  const seconds = useElapsed(clock, 250);
  const firstDrop = timesOf(clock.clock).firstDrop;
  const said = forecast({
    elapsed: seconds,
    firstDrop,
    weighed,
    expected,
    target: expected.target,
    drip: expected.drip,
  });
  const runs = clock.clock.pump !== undefined && clock.clock.stop === undefined;
  const due = runs && said !== null && said.stopIn <= 0.3;
  // Eyes are on the cup.
  useEffect(() => {
    if (!due) return;
    buzz("tapped");
    ring();
  }, [due]);
  if (!said || !runs) return null;
  return (
    <div className={`grid gap-1 border-l-8 p-3 ${due ? "border-alarm bg-alarm-wash" : "border-brass bg-brass-wash"}`}>
      <p className="figure text-2xl leading-tight font-bold" data-forecast="">
        {due ? "Stop now" : `Stop in ${Math.ceil(said.stopIn)} s`}
        <span className="ml-2 text-base font-normal">± {Math.max(1, Math.ceil(2 * said.uStop))} s</span>
      </p>
      <p className="figure text-sm">
        About {said.grams.toFixed(0)} g in the cup, {expected.target.toFixed(0)} g wanted;{" "}
        {expected.drip.mean.toFixed(1)} ± {(2 * expected.drip.u).toFixed(1)} g still drip after the stop.
        {stored !== null && ` The button by itself stops at about ${stored.toFixed(0)} g.`}
      </p>
    </div>
  );
}
