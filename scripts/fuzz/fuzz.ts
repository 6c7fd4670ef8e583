import { randomUUID } from "node:crypto";
import { request as httpRequest } from "node:http";
import { randomLcg } from "d3-random";
import { and, asc, eq, isNull, sql } from "drizzle-orm";
import { connect, poolOf } from "../../db/client";
import { entry, instrument, job, machine, model, owner, ownerLink, shot, specCard, workshop } from "../../db/schema";
import { linkTokenOf } from "../../server/open-links";
import { type FormAction, type Ids, formsOf, pagesOf } from "./forms";
import { type Sent, mutated, mutatedPage } from "./mutate";
import { signedIn } from "../lib/signed-in";

/**
 * Sends every form of the application what it does not expect: seeded, one after the other, so that a slow answer is that body’s own.
 * Fails on an answer of 5xx, on a row that was half saved, and on a body that holds the process up.
 */
const count = Number(process.argv[2] ?? 2000);
const seed = Number(process.argv[3] ?? 0.5);
const slow = Number(process.env.SLOWNESS ?? 1);
const base = process.env.BASE_URL!;
const db = connect(process.env.DATABASE_URL!);
const random = randomLcg(seed);

/** Longer than a good call of its action by this much, ms: counted. By far more: the process was held up, and that fails. */
const LONG = 200;
const HELD_UP = 3000;

const ids = await idsOf();
const actions = formsOf(ids);
let cookie = await signedIn(base);

const wrong: string[] = [];
const usual = new Map<FormAction, number>();
for (const action of actions) {
  const times = [];
  for (let i = 0; i < 3; i++) {
    const answer = await send(goodBody(action, action.good()), action);
    times.push(answer.ms);
    if (answer.status >= 500) wrong.push(`${answer.status} ${action.name}, a good body`);
  }
  usual.set(action, Math.max(...times));
}
await restore();

/**
 * What grows with more than the length of a text: each field of each form, as long as a form takes, of signs that patterns go back over. One that
 * is slow is measured at half its length too, so that it is said how it grows. What a text costs it costs every time: a pause of the machine
 * (a disk that writes back, another program) does not come back with the same text, so the quickest of a few counts.
 */
const LENGTHS = [40_000, 20_000, 10_000];
const SIGNS = [" ", "1", "1,", "a ", "\u2028 ", "=", '";'];
/** Over a good call by this much, ms: that is not the length alone. */
const GROWS = 500;
const AGAIN = 4;
let probes = 0;
for (const action of actions) {
  for (const field of Object.keys(action.good()).filter((name) => !["commandId", "intent"].includes(name)))
    for (const sign of SIGNS) {
      const took = async (length: number) => {
        const good = action.good();
        const text = `${good[field]}${sign.repeat(length / sign.length)}\u2028x`;
        probes++;
        return send(goodBody(action, { ...good, [field]: text }), action);
      };
      const first = await took(LENGTHS[0]!);
      if (first.status >= 500) wrong.push(`${first.status} ${action.name}, ${field} of ${LENGTHS[0]} signs`);
      const most = usual.get(action)! + GROWS * slow;
      if (first.ms <= most || (await quickest(() => took(LENGTHS[0]!))) <= most) continue;
      const said = [];
      for (const length of LENGTHS) said.push(`${(await quickest(() => took(length))).toFixed(0)} ms at ${length}`);
      wrong.push(`${action.name}, ${field} of ${JSON.stringify(sign)}: ${said.join(", ")}`);
    }
  await restore();
}

const statuses = new Map<number, number>();
const sentIds = new Map<string, boolean>();
let long = 0;
let longest = { ms: 0, over: 0, what: "" };
for (let i = 0; i < count; i++) {
  const action = actions[Math.floor(random() * actions.length)]!;
  const good = action.good();
  const sent = mutated(action.path, good, random, ids);
  const answer = await send(sent, action);
  statuses.set(answer.status, (statuses.get(answer.status) ?? 0) + 1);
  const what = `${action.name}: ${sent.method} ${sent.path.slice(0, 80)} ${sent.type} ${String(sent.body ?? "").slice(0, 400)}`;
  if (answer.status >= 500) wrong.push(`${answer.status} ${what}`);
  const over = answer.ms - usual.get(action)!;
  if (over > LONG) long++;
  if (over > HELD_UP * slow) {
    const ms = await quickest(() => send(anew(sent), action));
    if (ms - usual.get(action)! > HELD_UP * slow) wrong.push(`took ${ms.toFixed(0)} ms ${what}`);
  }
  if (answer.ms > longest.ms) longest = { ms: answer.ms, over, what };
  if (good.commandId && String(sent.body).includes(good.commandId)) sentIds.set(good.commandId, answer.status < 400);
  // Some of them sign out, sign the job or start another: the rest goes on as before.
  if (i % 200 === 199) {
    await restore();
    cookie = await signedIn(base);
  }
  if (i % 10_000 === 9_999) console.error(`${i + 1} of ${count} bodies sent, ${wrong.length} answered wrongly.`);
}
const pages = pagesOf(ids);
for (let i = 0; i < count / 2; i++) {
  const sent = mutatedPage(pages[Math.floor(random() * pages.length)]!, random, ids);
  const answer = await send(sent, {});
  statuses.set(answer.status, (statuses.get(answer.status) ?? 0) + 1);
  if (answer.status >= 500) wrong.push(`${answer.status} ${sent.method} ${sent.path}`);
}
for (const stream of ["/news.data", `/jobs/${ids.job}/scale.data`, "/news", `/jobs/${ids.job}/scale`]) {
  const answer = await send({ method: "GET", path: stream }, {});
  if (answer.status >= 500) wrong.push(`${answer.status} GET ${stream}`);
}
wrong.push(...(await halfSaved()));

console.log(
  `Fuzz, seed ${seed}: ${count} bodies to ${actions.length} forms, ${Math.ceil(count / 2)} addresses. Answers: ${[
    ...statuses,
  ]
    .sort(([a], [b]) => a - b)
    .map(([status, n]) => `${status} × ${n}`)
    .join(", ")}.`,
);
console.log(`${probes} texts of ${LENGTHS[0]} signs, one in each field of each form at a time.`);
console.log(
  `Over a good call by more than ${LONG} ms: ${long}. Longest ${longest.ms.toFixed(0)} ms (${longest.what.slice(0, 160)}).`,
);
for (const line of wrong.slice(0, 20)) console.error(`✘ ${JSON.stringify(line)}`);
await poolOf(db).end();
process.exit(wrong.length === 0 ? 0 : 1);

function goodBody(action: FormAction, fields: Record<string, string>): Sent {
  return {
    method: "POST",
    path: action.path,
    type: "application/x-www-form-urlencoded",
    body: new URLSearchParams(fields).toString(),
  };
}

/** Milliseconds of the quickest of a few, one after the other. */
async function quickest(call: () => Promise<{ ms: number }>): Promise<number> {
  const times = [];
  for (let i = 0; i < AGAIN; i++) times.push((await call()).ms);
  return Math.min(...times);
}

/** The same body as a command of its own: one that was sent before is answered without its work. */
function anew(sent: Sent): Sent {
  const id = /(?<=commandId=)[0-9a-f-]{36}/;
  return typeof sent.body === "string" ? { ...sent, body: sent.body.replace(id, randomUUID()) } : sent;
}

function send(sent: Sent, action: { open?: boolean }): Promise<{ status: number; ms: number; error?: Error }> {
  const start = performance.now();
  const body = sent.body === undefined ? undefined : Buffer.from(sent.body);
  return new Promise((resolve) => {
    const asked = httpRequest(
      `${base}${sent.path}`,
      {
        method: sent.method,
        headers: {
          Origin: base,
          ...(action.open ? {} : { Cookie: cookie }),
          ...(sent.type ? { "Content-Type": sent.type } : {}),
          ...(body ? { "Content-Length": body.length } : {}),
          ...sent.headers,
        },
        timeout: 20_000 * slow,
      },
      (answer) => {
        answer.resume();
        // A stream has no end: its beginning is the answer.
        if (/event-stream/.test(answer.headers["content-type"] ?? "")) answer.destroy();
        answer.on("close", () => resolve({ status: answer.statusCode!, ms: performance.now() - start }));
        answer.on("end", () => resolve({ status: answer.statusCode!, ms: performance.now() - start }));
      },
    );
    asked.on("timeout", () => asked.destroy(new Error(`No answer: ${sent.path}`)));
    // Cut off is an answer too, and never the right one.
    asked.on("error", (error) => resolve({ status: 599, ms: performance.now() - start, error }));
    asked.end(body);
  });
}

/** A machine, a sheet half way and a signed one to work on, and things of the other workshop. */
async function idsOf(): Promise<Ids> {
  const [lowtide] = await db.select().from(workshop).where(eq(workshop.name, "Low Tide Espresso Works"));
  const [strange] = await db
    .select()
    .from(workshop)
    .where(sql`${workshop.id} <> ${lowtide!.id}`)
    .limit(1);
  const first = async <T>(rows: Promise<T[]>) => (await rows)[0];
  const jobOf = (workshopId: string, state: "open" | "signed") =>
    first(
      db
        .select({ id: job.id, machineId: job.machineId })
        .from(job)
        .where(and(eq(job.workshopId, workshopId), eq(job.state, state)))
        .orderBy(asc(job.startedAt))
        .limit(1),
    );
  const withShots = await first(
    db
      .select({ id: job.id, shot: shot.id })
      .from(shot)
      .innerJoin(job, eq(job.id, shot.jobId))
      .where(and(eq(job.workshopId, lowtide!.id), eq(job.state, "open")))
      .limit(1),
  );
  const open = withShots ?? (await jobOf(lowtide!.id, "open"))!;
  const instrumentOf = (workshopId: string, quantity: "pressure" | "mass") =>
    first(
      db
        .select({ id: instrument.id })
        .from(instrument)
        .where(
          and(eq(instrument.workshopId, workshopId), eq(instrument.quantity, quantity), eq(instrument.inKit, true)),
        )
        .limit(1),
    );
  const [of] = await db.select({ id: model.id }).from(model).where(eq(model.workshopId, lowtide!.id)).limit(1);
  const [link] = await db
    .select()
    .from(ownerLink)
    .where(and(eq(ownerLink.workshopId, lowtide!.id), isNull(ownerLink.revokedAt)))
    .limit(1);
  const [someone] = await db.select({ id: owner.id }).from(owner).where(eq(owner.workshopId, lowtide!.id)).limit(1);
  const [row] = await db.select({ id: entry.id }).from(entry).where(eq(entry.jobId, open.id)).limit(1);
  const [card] = await db
    .select({ id: specCard.id })
    .from(specCard)
    .where(and(eq(specCard.workshopId, lowtide!.id), eq(specCard.origin, "trade")));
  const [bare] = await db
    .select({ id: machine.id })
    .from(machine)
    .where(
      and(
        eq(machine.workshopId, lowtide!.id),
        sql`not exists (select 1 from job j where j.machine_id = ${machine.id} and j.state = 'open')`,
      ),
    )
    .limit(1);
  return {
    job: open.id,
    signed: (await jobOf(lowtide!.id, "signed"))!.id,
    machine: (bare ?? (await jobOf(lowtide!.id, "signed"))!).id,
    model: of!.id,
    spec: card!.id,
    instrument: (await instrumentOf(lowtide!.id, "pressure"))!.id,
    scale: (await instrumentOf(lowtide!.id, "mass"))!.id,
    entry: row?.id ?? randomUUID(),
    shot: withShots?.shot ?? randomUUID(),
    token: linkTokenOf("owner", link!)!,
    owner: someone!.id,
    transfer: randomUUID(),
    strange: {
      job: (await jobOf(strange!.id, "open"))!.id,
      machine: (await jobOf(strange!.id, "open"))!.machineId,
      instrument: (await instrumentOf(strange!.id, "pressure"))!.id,
    },
  };
}

/** Puts back what the run needs: the instrument in the kit, the wrong tries forgotten, the job open. */
async function restore() {
  await db.execute(sql`DELETE FROM sign_in_attempt`);
  await db.execute(sql`UPDATE instrument SET in_kit = true WHERE id = ${ids.instrument}`);
}

/** Commands that were refused and left something, or were taken and left nothing. */
async function halfSaved(): Promise<string[]> {
  const tables = [
    "note",
    "photo",
    "tick",
    "entry",
    "timer",
    "reading",
    "adjustment",
    "finding",
    "shot",
    "shot_tap",
    "signature",
    "owner_link",
    "machine",
    "model",
    "spec_card",
    "instrument",
    "job",
  ];
  const found: string[] = [];
  for (const [id, taken] of sentIds) {
    if (!/^[0-9a-f-]{36}$/.test(id)) continue;
    const union = tables.map((t) => `select '${t}' as t from "${t}" where id = '${id}'`).join(" union all ");
    const { rows } = await db.execute<{ t: string }>(sql.raw(union));
    const { rows: commands } = await db.execute(sql`select 1 from command where id = ${id}`);
    if (rows.length > 0 && commands.length === 0) found.push(`${id} stands in ${rows[0]!.t} without its command`);
    if (rows.length > 0 && !taken) found.push(`${id} was refused and stands in ${rows[0]!.t}`);
    if (commands.length > 0 && !taken) found.push(`${id} was refused and its command stands`);
  }
  return found;
}
