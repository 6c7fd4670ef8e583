import { useEffect, useEffectEvent, useRef } from "react";
import { isShown } from "./shown";
import { useLookAgain } from "./use-look-again";

/** What of a job this page shows, so that its own writes are not loaded twice. */
export interface Shown {
  jobId: string;
  revision: number;
}

/** Pages showing this very job look soon; others gather what happens meanwhile. ms */
const SOON = 250;
const GATHERED = 1500;
/** Before a stream that was refused is asked for again, ms, doubled each time. */
const PAUSE = 1000;
const LONGEST_PAUSE = 30_000;

/** Loads the page's data again whenever the server says that something in it has changed. */
export function useNews(href: string, shown: Shown | null) {
  const lookAgain = useLookAgain();
  const waiting = useRef<{ timer: ReturnType<typeof setTimeout>; at: number } | null>(null);

  const look = useEffectEvent((job: string, revision: number) => {
    waiting.current = null;
    const known = () => shown?.jobId === job && (shown.revision >= revision || isShown(job, revision));
    lookAgain(known);
  });
  const changed = useEffectEvent((what: string) => {
    const [job = "", revision = "0"] = what.split(" ");
    const wait = !shown || job === "" || shown.jobId === job ? SOON : GATHERED;
    const at = Date.now() + wait;
    if (waiting.current) {
      if (waiting.current.at <= at) return;
      clearTimeout(waiting.current.timer);
    }
    waiting.current = { at, timer: setTimeout(() => look(job, Number(revision)), wait) };
  });

  useEffect(() => {
    let source: EventSource;
    let again: ReturnType<typeof setTimeout> | undefined;
    let pause = PAUSE;
    const open = () => {
      source = new EventSource(href);
      source.addEventListener("changed", (event) => changed(String(event.data)));
      source.addEventListener("open", () => {
        // What happened while nobody listened is unknown.
        if (pause > PAUSE) changed("");
        pause = PAUSE;
      });
      source.addEventListener("error", () => {
        // A lost line is taken up again by the browser; an answer that is no stream is final for it, but not for us.
        if (source.readyState !== EventSource.CLOSED) return;
        again = setTimeout(open, pause);
        pause = Math.min(LONGEST_PAUSE, 2 * pause);
      });
    };
    open();
    return () => {
      clearTimeout(again);
      source.close();
      if (waiting.current) clearTimeout(waiting.current.timer);
      waiting.current = null;
    };
  }, [href]);
}
