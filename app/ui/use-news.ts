import { useEffect, useEffectEvent, useRef } from "react";
import { say } from "./say";
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
  // Asked late, when what a save of one’s own has under way may have brought it: the page as it is then, not as it was.
  const latest = useRef(shown);
  useEffect(() => {
    latest.current = shown;
  });
  const waiting = useRef<{ timer: ReturnType<typeof setTimeout>; at: number } | null>(null);

  const look = useEffectEvent((job: string, revision: number) => {
    waiting.current = null;
    const known = () => {
      const now = latest.current;
      return now?.jobId === job && (now.revision >= revision || isShown(job, revision));
    };
    // What happens on other machines is no news to somebody at work on this one.
    lookAgain(known, () => shown?.jobId === job && say("Brought up to date: somebody else has written in it."));
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
