import { EventEmitter } from "node:events";
import pg from "pg";
import { sql } from "drizzle-orm";
import type { Transaction } from "../db/client";
import type { SignedIn } from "./auth";
import { eventStream } from "./event-stream";
import { log, traceOf } from "./log";
import { ENDED, isOpen } from "./sessions";
import { Told } from "./told";

/**
 * News of changed jobs, between tabs and between processes, over LISTEN/NOTIFY: one listening connection per process.
 * Only ids and revisions travel; who hears of them asks for the page again and is checked like always.
 */
const CHANNEL = "job_changed";
const news = new EventEmitter().setMaxListeners(0);
/** Longer than a phone is on its way through a cellar, ms; our choice. */
const KEPT = 300_000;
const MOST_KEPT = 2000;
const told = new Told(KEPT, MOST_KEPT);
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
    told.end();
    // Somebody is still waiting for news: come back when the database does.
    if (news.eventNames().length > 0) setTimeout(() => void hear(), 1000).unref();
  };
  client.on("error", lost);
  client.on("end", lost);
  client.on("notification", ({ channel, payload = "" }) => {
    if (channel === ENDED) return void news.emit(ended(payload));
    const [workshopId, ...changed] = payload.split(" ");
    if (!workshopId) return;
    told.note(Date.now(), workshopId, changed.join(" "));
    news.emit(workshopId, changed.join(" "));
  });
  await client.connect();
  await client.query(`LISTEN ${CHANNEL}; LISTEN ${ENDED}`);
  told.begin(Date.now());
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
 *
 * @param since when the page was made that listens, ms since 1970: what has changed from then on is told first. Each event carries a moment
 *   as its id, so that a browser that takes a lost line up again says by itself from when on it has heard nothing.
 */
export function streamOf(
  { workshop: { id: workshopId }, sessionId }: SignedIn,
  signal: AbortSignal,
  since: number | null,
): Response {
  return eventStream(signal, (say, end) => {
    const changed = (what: string) => say(`id: ${Date.now()}\nevent: changed\ndata: ${what}\n\n`);
    news.on(workshopId, changed);
    const alive = setInterval(() => {
      say(`id: ${Date.now()}\n\n`);
      // While the records do not answer it stays: nothing is told on it then either.
      isOpen(sessionId).then(
        (open) => open || end(),
        () => {},
      );
    }, 20_000);
    news.on(ended(sessionId), end);
    say("retry: 2000\n\n");
    // Where listening begins only now, whoever waits is told to look.
    if (since !== null && listening) for (const what of told.since(since, workshopId) ?? [""]) changed(what);
    void hear();
    return () => {
      clearInterval(alive);
      news.off(workshopId, changed);
      news.off(ended(sessionId), end);
    };
  });
}
