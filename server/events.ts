import { EventEmitter } from "node:events";
import pg from "pg";
import { sql } from "drizzle-orm";
import type { Transaction } from "../db/client";
import type { SignedIn } from "./auth";
import { eventStream } from "./event-stream";
import { log, traceOf } from "./log";
import { ENDED, isOpen } from "./sessions";

/**
 * News of changed jobs, between tabs and between processes, over LISTEN/NOTIFY: one listening connection per process.
 * Only ids and revisions travel; who hears of them asks for the page again and is checked like always.
 */
const CHANNEL = "job_changed";
const news = new EventEmitter().setMaxListeners(0);
let listening: Promise<void> | undefined;

/** Says that a job of this workshop has changed. Within the write's transaction: heard when it is committed, or not at all. */
export async function tell(tx: Transaction, workshopId: string, jobId: string, revision: number): Promise<void> {
  await tx.execute(sql`select pg_notify(${CHANNEL}, ${`${workshopId} ${jobId} ${revision}`})`);
}

async function listen(): Promise<void> {
  const client = new pg.Client({ connectionString: process.env.DATABASE_URL });
  const lost = () => {
    client.removeAllListeners();
    client.on("error", () => {});
    listening = undefined;
    // Somebody is still waiting for news: come back when the database does.
    if (news.eventNames().length > 0) setTimeout(() => void hear(), 1000).unref();
  };
  client.on("error", lost);
  client.on("end", lost);
  client.on("notification", ({ channel, payload = "" }) => {
    if (channel === ENDED) return void news.emit(ended(payload));
    const [workshopId, ...changed] = payload.split(" ");
    if (workshopId) news.emit(workshopId, changed.join(" "));
  });
  await client.connect();
  await client.query(`LISTEN ${CHANNEL}; LISTEN ${ENDED}`);
  // What happened while nobody listened is unknown: let all look again.
  for (const name of news.eventNames()) if (!isEnd(name)) news.emit(name, "");
}

async function hear(): Promise<void> {
  listening ??= listen();
  try {
    await listening;
  } catch (error) {
    listening = undefined;
    log.warn(traceOf(error), "not listening for news");
    if (news.eventNames().length > 0) setTimeout(() => void hear(), 1000).unref();
  }
}

const ENDS = "ended ";
const ended = (sessionId: string) => ENDS + sessionId;
const isEnd = (name: string | symbol) => typeof name === "string" && name.startsWith(ENDS);

/**
 * A server-sent event stream that says "changed", with id and revision, whenever a job of this workshop has. It ends with the session it
 * was opened in: at once where that is ended, within a beat where it runs out.
 */
export function streamOf({ workshop: { id: workshopId }, sessionId }: SignedIn, signal: AbortSignal): Response {
  return eventStream(signal, (say, end) => {
    const changed = (what: string) => say(`event: changed\ndata: ${what}\n\n`);
    news.on(workshopId, changed);
    const alive = setInterval(() => {
      say(": alive\n\n");
      // While the records do not answer it stays: nothing is told on it then either.
      isOpen(sessionId).then(
        (open) => open || end(),
        () => {},
      );
    }, 20_000);
    news.on(ended(sessionId), end);
    say("retry: 2000\n\n");
    void hear();
    return () => {
      clearInterval(alive);
      news.off(workshopId, changed);
      news.off(ended(sessionId), end);
    };
  });
}
