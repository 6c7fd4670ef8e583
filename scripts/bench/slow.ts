import { chromium, type Page } from "@playwright/test";
import { table } from "./measure";
import { visitor } from "./visitor";
import { BROWSER } from "../lib/packages.mjs";

/**
 * Pages on a processor slowed six times behind a slow line (1.6 Mbit/s, 150 ms there and back), each beside the same page as it is here:
 * when something is seen, when it can be worked with, how long scripts hold the finger up, and how many files that takes. First visits,
 * nothing kept. How long the finger is held up is counted in the page’s own processor time, so that whatever else runs here does not count:
 * what each task takes beyond 50 ms, slowed, and as it is here.
 */

const base = process.env.BASE_URL!;
const TRIES = 5;
const SLOW = { rate: 6, latency: 150, bytesPerSecond: (1.6e6 / 8) | 0 };

const { cookie } = await visitor(base);
const [name, value] = cookie.split("=");
const bench = await (await fetch(base, { headers: { Cookie: cookie } })).text();
const job = /\/jobs\/[0-9a-f-]{36}/.exec(bench)?.[0];
if (!job) throw new Error("The demo has no open job.");

interface Seen {
  paint: number;
  usable: number;
  files: number;
  tasks: readonly number[];
}

async function visit(page: Page, path: string, slow: boolean): Promise<Seen> {
  const client = await page.context().newCDPSession(page);
  if (slow) {
    await client.send("Network.enable");
    await client.send("Network.emulateNetworkConditions", {
      offline: false,
      latency: SLOW.latency,
      downloadThroughput: SLOW.bytesPerSecond,
      uploadThroughput: SLOW.bytesPerSecond,
    });
    await client.send("Emulation.setCPUThrottlingRate", { rate: SLOW.rate });
  } else await browser.startTracing(page, { categories: ["toplevel"] });
  let files = 0;
  page.on("requestfinished", (r) => void (r.resourceType() === "script" && !live && files++));
  let live = false;
  await page.goto(base + path, { waitUntil: "commit" });
  // Forms are the application’s own from here on; before that they are the browser’s, and work as well.
  await page.waitForFunction(() => "live" in document.documentElement.dataset, null, { polling: 50, timeout: 60_000 });
  live = true;
  const times = await page.evaluate(() => ({
    paint: performance.getEntriesByName("first-contentful-paint")[0]?.startTime ?? 0,
    usable: performance.now(),
  }));
  const tasks = slow ? [] : tasksIn(await browser.stopTracing());
  return { files, tasks, ...times };
}

interface Event {
  name: string;
  ph: string;
  pid: number;
  tid: number;
  ts: number;
  dur?: number;
  tdur?: number;
  args: { name?: string };
}

/** Processor time of each task on the page’s main thread, ms: of the thread that worked most among those of its kind. */
function tasksIn(trace: Buffer): number[] {
  const { traceEvents } = JSON.parse(trace.toString()) as { traceEvents: Event[] };
  const threadOf = (e: Event) => `${e.pid} ${e.tid}`;
  const mains = new Map<string, { end: number; all: number[] }>();
  for (const e of traceEvents)
    if (e.name === "thread_name" && e.args.name === "CrRendererMain") mains.set(threadOf(e), { end: 0, all: [] });
  for (const e of traceEvents.filter((e) => e.ph === "X" && e.name.endsWith("RunTask")).sort((a, b) => a.ts - b.ts)) {
    const main = mains.get(threadOf(e));
    // What runs inside another task is part of it.
    if (!main || e.ts < main.end) continue;
    main.end = e.ts + (e.dur ?? 0);
    main.all.push((e.tdur ?? 0) / 1000);
  }
  const sum = (all: readonly number[]) => all.reduce((a, b) => a + b, 0);
  return [...mains.values()].map((m) => m.all).sort((a, b) => sum(b) - sum(a))[0] ?? [];
}

/** What tasks take beyond 50 ms each, were they so many times slower. */
const blocked = (tasks: readonly number[], times: number) =>
  tasks.reduce((all, ms) => all + Math.max(0, times * ms - 50), 0);

const middle = (all: readonly number[]) => [...all].sort((a, b) => a - b)[all.length >> 1]!;
const seconds = (ms: number) => (ms / 1000).toFixed(1);

const browser = await chromium.launch({ executablePath: BROWSER, args: ["--no-sandbox", "--disable-gpu"] });
const rows = [["phone, first visit", "seen, s", "usable, s", "here", "times", "blocked, s", "here", "files"]];
for (const [title, path] of [
  ["bench", "/"],
  ["sheet", job],
  ["shots", `${job}/shots`],
] as const) {
  const tries = async (slow: boolean) => {
    const all: Seen[] = [];
    for (let i = 0; i < TRIES; i++) {
      const context = await browser.newContext({ viewport: { width: 390, height: 844 } });
      await context.addCookies([{ name: name!, value: value!, url: base }]);
      all.push(await visit(await context.newPage(), path, slow));
      await context.close();
    }
    return (of: (seen: Seen) => number) => middle(all.map(of));
  };
  const [slow, here] = [await tries(true), await tries(false)];
  const usable = [slow((s) => s.usable), here((s) => s.usable)] as const;
  rows.push([
    title,
    seconds(slow((s) => s.paint)),
    seconds(usable[0]),
    seconds(usable[1]),
    (usable[0] / usable[1]).toFixed(1),
    seconds(here((s) => blocked(s.tasks, SLOW.rate))),
    seconds(here((s) => blocked(s.tasks, 1))),
    String(slow((s) => s.files)),
  ]);
}
await browser.close();
console.log(`\nA processor slowed ${SLOW.rate} times, 1.6 Mbit/s, ${SLOW.latency} ms\n${table(rows)}`);
process.exit(0);
