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
/** Jobs that changed, and their newest revisions. */
type News = Map<string, number>;

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
  // All that came since the last look: a save of one’s own that the page knows must not hide a colleague’s right after it.
  const waiting = useRef<{ timer: ReturnType<typeof setTimeout>; at: number; news: News } | null>(null);

  const look = useEffectEvent((news: News) => {
    waiting.current = null;
    const isKnown = ([job, revision]: [string, number]) => {
      const now = latest.current;
      return now?.jobId === job && (now.revision >= revision || isShown(job, revision));
    };
    let ours = false;
    const unless = () => {
      const unknown = [...news].filter((one) => !isKnown(one));
      ours = unknown.some(([job]) => shown?.jobId === job);
      return unknown.length === 0;
    };
    // What happens on other machines is no news to somebody at work on this one.
    lookAgain(unless, () => ours && say("Brought up to date: somebody else has written in it."));
  });
  const changed = useEffectEvent((what: string) => {
    const [job = "", revision = "0"] = what.split(" ");
    const news: News = waiting.current?.news ?? new Map<string, number>();
    news.set(job, Math.max(Number(revision), news.get(job) ?? 0));
    const at = Date.now() + (!shown || job === "" || shown.jobId === job ? SOON : GATHERED);
    if (waiting.current) {
      if (waiting.current.at <= at) return;
      clearTimeout(waiting.current.timer);
    }
    waiting.current = { at, news, timer: setTimeout(() => look(news), at - Date.now()) };
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
