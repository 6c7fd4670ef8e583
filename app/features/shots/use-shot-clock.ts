import { useCallback, useEffect, useRef, useState } from "react";
import { v7 as uuidv7 } from "uuid";
import { buzz } from "~app/ui/buzz";
import { isShown, noteShown } from "~app/ui/shown";
import { serverOffset } from "~app/ui/server-time";
import { useAwake } from "~app/ui/use-awake";
import { useLookAgain } from "~app/ui/use-look-again";
import { type ShotClock, type Tap, nextTap, tapped } from "~core/shot";

/** The shot clock of a job: shown at once where it is tapped, kept on this device until the server has it, the same on every phone. */

interface Kept {
  clockId: string | null;
  clock: ShotClock;
  waiting: Waiting[];
}

interface Waiting {
  commandId: string;
  clockId: string;
  what: Tap | "cleared";
  moment: number;
}

type Server = { clockId: string; clock: ShotClock; by: string } | null;

const EMPTY: Kept = { clockId: null, clock: {}, waiting: [] };
const RETRY = 2000;

export function useShotClock(jobId: string, revision: number, server: Server, at: number) {
  const store = `shot-clock:${jobId}`;
  const lookAgain = useLookAgain();
  const [kept, setKept] = useState<Kept>(() =>
    server ? { clockId: server.clockId, clock: server.clock, waiting: [] } : EMPTY,
  );
  const [problem, setProblem] = useState("");
  // The server’s time less this device’s. Differences on one device are exact whatever it is.
  const [offset, setOffset] = useState(0);
  const now = useRef(kept);
  const sending = useRef(false);

  useEffect(() => noteShown(jobId, revision), [jobId, revision]);
  useEffect(() => setOffset(serverOffset(at)), [at]);

  const change = useCallback(
    (next: Kept) => {
      now.current = next;
      setKept(next);
      // After the paint: the finger sees its tap first.
      setTimeout(() => {
        try {
          if (next.waiting.length > 0) localStorage.setItem(store, JSON.stringify(next));
          else localStorage.removeItem(store);
        } catch {
          // A full or forbidden store: the clock still runs on this page.
        }
      });
    },
    [store],
  );

  const send = useCallback(async () => {
    if (sending.current) return;
    sending.current = true;
    for (let tap = now.current.waiting[0]; tap; tap = now.current.waiting[0]) {
      const said = await post(jobId, tap);
      if (said === "again") {
        setTimeout(() => void send(), RETRY);
        break;
      }
      const waiting = now.current.waiting.filter((w) => w.commandId !== tap.commandId);
      if (said === "") change({ ...now.current, waiting });
      else {
        // Somebody else was first: what the server has is what counts.
        setProblem(said);
        change({ ...EMPTY, waiting: waiting.filter((w) => w.clockId !== tap.clockId) });
        lookAgain();
      }
    }
    sending.current = false;
  }, [change, jobId, lookAgain]);

  useEffect(() => {
    const stored = readKept(store);
    if (!stored) return;
    change(stored);
    void send();
  }, [change, send, store]);

  const running = kept.clock.pump !== undefined && kept.clock.stop === undefined;
  useAwake(running);

  const before = useRef(server);
  useEffect(() => {
    const mine = now.current;
    const ended = before.current !== null && server === null && before.current.clockId === mine.clockId;
    before.current = server;
    if (mine.waiting.length > 0) return;
    if (ended) change(EMPTY);
    else if (server)
      change({
        clockId: server.clockId,
        clock: server.clockId === mine.clockId ? { ...mine.clock, ...server.clock } : server.clock,
        waiting: [],
      });
  }, [change, server]);

  const tap = useCallback(
    (what: Tap | "cleared") => {
      const moment = Math.round(Date.now() + offset);
      const { clockId, clock, waiting } = now.current;
      setProblem("");
      if (what === "cleared") {
        if (clockId) change({ ...EMPTY, waiting: [...waiting, { commandId: uuidv7(), clockId, what, moment }] });
        return void send();
      }
      const next = tapped(clock, what, moment);
      if (typeof next === "string") return setProblem(next);
      const id = clockId ?? uuidv7();
      if (what === "stop") buzz("tapped");
      change({ clockId: id, clock: next, waiting: [...waiting, { commandId: uuidv7(), clockId: id, what, moment }] });
      void send();
    },
    [change, offset, send],
  );

  /** The shot was recorded: the clock is free for the next one. */
  const done = useCallback(() => {
    before.current = null;
    change(EMPTY);
  }, [change]);

  return { ...kept, offset, problem, tap, done, next: nextTap(kept.clock) };
}

/** "" when it is kept, "again" when nobody answered, else why it was refused. */
async function post(jobId: string, tap: Waiting): Promise<string> {
  const body = new FormData();
  for (const [name, value] of Object.entries(tap)) body.set(name, String(value));
  try {
    const answer = await fetch(`/jobs/${jobId}/tap`, { method: "POST", body });
    if (answer.status >= 500) return "again";
    const said = (await answer.json()) as {
      outcome: string;
      revision: number;
      result?: { error?: Record<string, string[]> };
    };
    if (said.outcome === "saved") {
      // One’s own tap is on the screen already; with somebody else’s in between, the page looks again.
      if (isShown(jobId, said.revision - 1)) noteShown(jobId, said.revision);
      return "";
    }
    return Object.values(said.result?.error ?? {}).flat()[0] ?? "That tap was not taken.";
  } catch {
    return "again";
  }
}

function readKept(store: string): Kept | null {
  try {
    const kept = JSON.parse(localStorage.getItem(store) ?? "null") as Kept | null;
    return kept && Array.isArray(kept.waiting) && kept.waiting.length > 0 ? kept : null;
  } catch {
    return null;
  }
}
