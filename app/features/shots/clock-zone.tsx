import { memo, useDeferredValue, useRef, useState } from "react";
import type { ShotsView } from "~server/jobs/views/shots";
import { ClockPanel, Forecast, WeighNow } from "./clock";
import { ShotEntry } from "./shot-entry";
import { useScale } from "./use-scale";
import { useShotClock } from "./use-shot-clock";
import { useKeys } from "~app/ui/keys";
import type { EntryAnswer } from "~app/ui/use-entry";
import type { ShotClock, Weighed } from "~core/shot";

// The form is drawn again when a clock is stopped, not with every tap: what a finger touches has to answer at once.
const Entry = memo(ShotEntry);
const NO_CLOCK: ShotClock = {};

/** The clock with all that runs along with it, and the form it fills. */
export function ClockZone({
  view,
  newId,
  onSaved,
  open,
}: {
  view: ShotsView;
  newId: string;
  onSaved: (answer: EntryAnswer) => void;
  /** The form for a new shot; shut while one is corrected. */
  open: boolean;
}) {
  const clock = useShotClock(view.job.id, view.job.revision, view.clock, view.at);
  const [weighed, setWeighed] = useState<{ clockId: string | null; all: Weighed[] }>({ clockId: null, all: [] });
  const [asking, setAsking] = useState(false);
  const [listening, setListening] = useState(false);
  const scale = useScale(view.job.id, listening, clock);
  const filled = useRef<{ times?: number; scale?: number }>({});
  const typed = weighed.clockId === clock.clockId ? weighed.all : [];
  const stored = view.stored.find((p) => p.by === view.carried.by && String(p.group) === view.carried.group);
  const stopped = clock.clock.stop !== undefined;
  // The clock first, the form a moment later.
  const forForm = useDeferredValue(stopped ? clock.clock : NO_CLOCK);
  const idForForm = useDeferredValue(stopped ? clock.clockId : null);
  useKeys({
    pump: () => clock.tap("pump"),
    drop: () => clock.tap("first-drop"),
    stop: () => clock.tap("stop"),
    clear: () => setAsking(clock.clock.pump !== undefined),
  });
  return (
    <>
      <ClockPanel clock={clock} asking={asking} onAsk={setAsking}>
        <Forecast
          clock={clock}
          expected={view.expected}
          weighed={listening ? scale.weighed : typed}
          stored={stored?.grams ?? null}
        />
        {listening ? (
          <p className="figure text-3xl font-semibold" role="status" aria-live="off">
            {scale.grams === null ? "–.–" : scale.grams.toFixed(1)} g
            <span className="ml-3 text-base font-normal">on the bench scale, simulated</span>
          </p>
        ) : (
          <WeighNow clock={clock} onWeigh={(one) => setWeighed({ clockId: clock.clockId, all: [...typed, one] })} />
        )}
        <label className="flex min-h-11 cursor-pointer items-center gap-3 text-sm">
          <input
            type="checkbox"
            checked={listening}
            onChange={(e) => setListening(e.target.checked)}
            className="size-5 shrink-0 accent-ink"
          />
          Read the bench scale (simulated)
        </label>
      </ClockPanel>
      {open && (
        <Entry
          key={view.tries.at(-1)?.id ?? "none"}
          view={view}
          newId={newId}
          clockId={idForForm}
          clock={forForm}
          filled={filled}
          atRest={scale.atRest}
          atStop={scale.atStop}
          onRecorded={clock.done}
          onSaved={onSaved}
        />
      )}
    </>
  );
}
