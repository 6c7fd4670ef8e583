import { Suspense, useEffect, useRef, useState } from "react";
import { Link, useFetcher } from "react-router";
import type { Preferences } from "~db/schema";
import { Button } from "~app/ui/button";
import { buzz, ring, soundIs } from "~app/ui/buzz";
import { lazyPart } from "~app/ui/lazy-part";

// News is rare: what shows it comes when there is some.
const Toast = lazyPart(() => import("~app/ui/toast"));

interface Clock {
  id: string;
  jobId: string;
  label: string;
  site: string;
  /** ms */
  dueAt: number;
}

interface Props {
  clocks: Clock[];
  /** The server's time in the answer, ms. */
  at: number;
  alerts: Preferences["alerts"];
}

/** Says it when a clock is due, on whatever page somebody is: words, a sound, and a notification where that was allowed. */
export function Alerts({ clocks, at, alerts }: Props) {
  const [due, setDue] = useState<Clock[]>([]);
  const told = useRef(new Set<string>());
  const sound = alerts?.sound ?? true;
  const notify = alerts?.notify === "on";
  useEffect(() => soundIs(sound), [sound]);
  useEffect(() => {
    const offset = at - Date.now();
    const timers = clocks.map((clock) => {
      const wait = clock.dueAt - (Date.now() + offset);
      // What was due before this page was opened is on the tiles; it does not ring.
      if (wait <= 0 || wait > 864e5 || told.current.has(clock.id)) return undefined;
      return setTimeout(() => {
        told.current.add(clock.id);
        setDue((all) => [...all.filter((c) => c.id !== clock.id), clock]);
        ring();
        buzz("due");
        if (notify && "Notification" in window && Notification.permission === "granted")
          new Notification(`${clock.site}: ${clock.label}`, { tag: clock.id });
      }, wait);
    });
    return () => timers.forEach((t) => clearTimeout(t));
  }, [clocks, at, notify]);
  // A clock that somebody ended needs no word any more.
  const shown = due.filter((d) => clocks.some((c) => c.id === d.id));
  const newest = shown.at(-1);
  return (
    <>
      {clocks.length > 0 && alerts === undefined && <Ask />}
      {newest && (
        <Suspense>
          <Toast
            key={newest.id}
            label="Clocks that are due"
            onSeen={() => setDue((all) => all.filter((c) => c.id !== newest.id))}
            title={
              <Link
                to={`/jobs/${newest.jobId}`}
                className="line-clamp-2 min-w-0 leading-tight font-semibold underline underline-offset-4"
              >
                {newest.site}: {newest.label.toLowerCase()} is due
              </Link>
            }
          >
            {shown.length > 1 && <span className="shrink-0">+ {shown.length - 1}</span>}
          </Toast>
        </Suspense>
      )}
    </>
  );
}

/** Asked once, when the first clock runs; changed in the settings. Two of its answers need no scripts. */
function Ask() {
  const fetcher = useFetcher<{ saved?: boolean }>();
  if (fetcher.state !== "idle" || fetcher.data?.saved) return null;
  const allowed = async () => {
    const granted = "Notification" in window && (await Notification.requestPermission()) === "granted";
    const notify = granted ? "on" : "off";
    await fetcher.submit({ intent: "alerts", sound: "on", notify }, { method: "post", action: "/settings" });
  };
  return (
    <aside aria-label="When a timer ends" className="no-print border-b-2 border-rule bg-brass-wash px-4 py-2">
      <fetcher.Form method="post" action="/settings" className="flex flex-wrap items-center gap-3">
        <input type="hidden" name="intent" value="alerts" />
        <input type="hidden" name="notify" value="off" />
        <p className="mr-auto">A timer is running. How should we notify you when it ends?</p>
        <Button type="button" onClick={() => void allowed()}>
          Sound and notification
        </Button>
        <Button name="sound" value="on">
          Sound only
        </Button>
        <Button name="sound" value="off">
          On the screen only
        </Button>
      </fetcher.Form>
    </aside>
  );
}
