import { randomBytes, randomUUID } from "node:crypto";
import { eq, ne, sql } from "drizzle-orm";
import { connect, poolOf } from "../client";
import * as t from ".";

/** Nonsense that the database refuses, whoever writes it: each rule tried by a row that is good but for one thing. */

const db = connect(process.env.DATABASE_URL!);
afterAll(() => poolOf(db).end());

type Row = Record<string, unknown>;

function rolledBack(error: Error) {
  if (!/rollback/i.test(error.message)) throw error;
}

/**
 * Writes a copy of a good row with something changed, and takes it back.
 * @returns the rule that refused it; "" when it was taken
 */
async function copyOf(table: string, where: string, change: Row): Promise<string> {
  const back = new Error("taken back");
  try {
    await db.transaction(async (tx) => {
      const { rows } = await tx.execute<{ row: Row }>(
        sql.raw(`select to_jsonb(r) as row from ${table} r where ${where} limit 1`),
      );
      if (!rows[0]) throw new Error(`Nothing in ${table} to copy.`);
      const row = { ...rows[0].row, ...("id" in rows[0].row ? { id: randomUUID() } : {}), ...change };
      await tx.execute(
        sql`insert into ${sql.raw(table)} select (jsonb_populate_record(null::${sql.raw(table)}, ${JSON.stringify(row)}::jsonb)).*`,
      );
      throw back;
    });
  } catch (error) {
    if (error === back) return "";
    const cause = ((error as Error).cause ?? error) as { constraint?: string; column?: string; message: string };
    return cause.constraint ?? cause.message;
  }
  return "";
}

const OURS = "workshop_id = (select id from workshop where name like 'Low Tide%')";
let openJob: string;
const OPEN = "job_id in (select id from job where state = 'open')";
/** A good row of each table that may be copied, and what has to be its own. */
const COPY: Record<string, { where: string; own?: () => Row }> = {
  reading: { where: OPEN, own: () => ({ supersedes: null }) },
  adjustment: { where: OPEN, own: () => ({ supersedes: null }) },
  entry: { where: OPEN, own: () => ({ supersedes: null }) },
  tick: { where: OPEN, own: () => ({ key: randomUUID() }) },
  note: { where: OPEN },
  timer: { where: `${OPEN} and ended_at is not null`, own: () => ({ task: randomUUID() }) },
  shot: { where: OPEN, own: () => ({ supersedes: null, clock_id: null }) },
  job: { where: "state = 'signed'", own: () => ({}) },
  result: { where: "true", own: () => ({ no: 999 }) },
  programme: { where: OPEN, own: () => ({ group_no: 4, button: "double-long" }) },
  signature: { where: OURS, own: () => ({ job_id: openJob }) },
  owner_link: { where: "true", own: () => ({ token_hash: randomBytes(32).toString("hex") }) },
  instrument: { where: "in_kit" },
  model: { where: "true" },
  machine: { where: "true", own: () => ({ serial: randomUUID() }) },
  spec_version: { where: "true", own: () => ({ version: 9999 }) },
  account: { where: "true", own: () => ({ email: randomUUID() }) },
};

beforeAll(async () => {
  // A programme of a job that is still open, so that one can be copied; and a job of the other workshop’s that takes records.
  const [open] = await db
    .select()
    .from(t.job)
    .where(sql`state = 'open' and ${sql.raw(OURS)}`)
    .limit(1);
  openJob = open!.id;
  const [other] = await db.select().from(t.job).where(ne(t.job.workshopId, open!.workshopId)).limit(1);
  await db
    .insert(t.job)
    .values({ ...other!, id: randomUUID(), state: "open", signedAt: null })
    .onConflictDoNothing();
  await db.insert(t.programme).values({
    id: randomUUID(),
    workshopId: open!.workshopId,
    jobId: open!.id,
    machineId: open!.machineId,
    group: 3,
    button: "double-long",
    at: new Date(),
    target: 36,
    mean: 36,
    shots: 3,
    verdict: "holds",
  });
});

test.each(Object.keys(COPY))(
  "a good row of %s is taken: what the others are refused for is what was changed",
  async (table) => {
    const { where, own } = COPY[table]!;
    expect(await copyOf(table, where, own?.() ?? {})).toBe("");
  },
);

const words: [table: string, column: string, value: unknown, rule: string][] = [
  ["reading", "knob", "no-such", "reading_knob_word"],
  ["reading", "place", "moon", "reading_place"],
  ["reading", "u", -1, "reading_u"],
  ["reading", "u", 0, "reading_u"],
  ["reading", "value", "NaN", "reading_value"],
  ["reading", "indicated", "Infinity", "reading_indicated"],
  ["reading", "sequence", 0, "reading_sequence"],
  ["reading", "at", "infinity", "reading_moment"],
  ["reading", "group_no", 1, "reading_at"],
  ["adjustment", "knob", "spanner", "adjustment_knob_word"],
  ["adjustment", "amount", "NaN", "adjustment_amount"],
  ["job", "state", "paused", "job_signed_at"],
  ["job", "signed_at", null, "job_signed_at"],
  ["job", "level", "tepid", "job_level"],
  ["job", "decision_rule", "coin", "job_decision_rule"],
  ["job", "scopes", ["pressure", "astrology"], "job_scope_words"],
  ["timer", "outcome", "maybe", "timer_outcome"],
  ["timer", "outcome", null, "timer_ended"],
  ["timer", "ended_by", null, "timer_ended"],
  ["timer", "due_at", "-infinity", "timer_due_at"],
  ["result", "phase", "as-hoped", "result_phase"],
  ["result", "verdict", "fine", "result_verdict"],
  ["result", "k", 0, "result_k"],
  ["result", "u", 0, "result_u"],
  ["result", "n", 0, "result_n"],
  ["result", "p_inside", 1.5, "result_p_inside"],
  ["result", "method", "by ear", "result_method"],
  ["result", "dimension", "charm", "result_dimension"],
  ["result", "lower", 99, "result_limits"],
  ["programme", "verdict", "fine", "programme_verdict"],
  ["programme", "button", "turbo", "programme_button"],
  ["signature", "hash", "short", "signature_hash"],
  ["owner_link", "token_hash", "guess", "owner_link_hash"],
  ["instrument", "quantity", "charm", "instrument_quantity"],
  ["instrument", "place", "moon", "instrument_place"],
  ["instrument", "due_on", "infinity", "instrument_due_on"],
  ["model", "kind", "K99", "model_kind"],
  ["model", "opv_raises", "upwards", "model_opv_raises"],
  ["machine", "gauge_place", "moon", "machine_gauge_place"],
  ["account", "role", "owner", "account_role"],
];
test.each(words)("%s.%s: %j is refused", async (table, column, value, rule) => {
  const { where, own } = COPY[table]!;
  expect(await copyOf(table, where, { ...own?.(), [column]: value })).toBe(rule);
});

describe("nothing points over the wall", () => {
  /** What there is of the other workshop. */
  const theirs = async (table: string) => {
    const { rows } = await db.execute<{ id: string }>(
      sql.raw(
        `select x.id from ${table} x join workshop w on w.id = x.workshop_id where w.name like 'Chandlery%'
        order by ${table === "job" ? "x.state" : "x.id"} limit 1`,
      ),
    );
    return rows[0]!.id;
  };
  test.each([
    ["reading", "instrument_id", "instrument", "reading_read_with"],
    ["reading", "by", "account", "reading_by"],
    ["reading", "job_id", "job", "reading_of_job"],
    ["adjustment", "job_id", "job", "adjustment_of_job"],
    ["entry", "by", "account", "entry_by"],
    ["shot", "scale_id", "instrument", "shot_weighed_on"],
    ["timer", "ended_by", "account", "timer_ended_by"],
    ["job", "machine_id", "machine", "job_on_machine"],
    ["job", "spec_version_id", "spec_version", "job_spec_version"],
    ["job", "started_by", "account", "job_started_by"],
    ["result", "model_id", "model", "result_of_model"],
    ["machine", "site_id", "site", "machine_at_site"],
    ["machine", "model_id", "model", "machine_of_model"],
    ["instrument", "machine_id", "machine", "instrument_of_machine"],
    ["spec_version", "card_id", "spec_card", "spec_version_card"],
  ])("%s.%s is none of another workshop’s", async (table, column, of, rule) => {
    const { where, own } = COPY[table]!;
    expect(await copyOf(table, `${OURS} and ${where}`, { ...own?.(), [column]: await theirs(of) })).toBe(rule);
  });

  test("a workshop’s usual card is one of its own", async () => {
    const update = db.execute(
      sql`update workshop set spec_card_id = ${await theirs("spec_card")} where name like 'Low Tide%'`,
    );
    await expect(update.catch((e: { cause?: unknown }) => Promise.reject(e.cause))).rejects.toMatchObject({
      constraint: "workshop_spec_card",
    });
  });
});

test.each([
  ["reading", "another knob’s", "knob"],
  ["adjustment", "another knob’s", "knob"],
  ["entry", "another task’s", "task"],
])("a correction in %s is of the same job and not of %s line", async (table, _, same) => {
  const { rows } = await db.execute<{ id: string; job_id: string; same: string }>(
    sql.raw(`select id, job_id, ${same} as same from ${table} r where ${OPEN}
      and not exists (select 1 from ${table} l where l.supersedes = r.id) order by id`),
  );
  const one = rows[0]!;
  const stray = rows.find((r) => r.job_id !== one.job_id || r.same !== one.same)!;
  expect(await copyOf(table, `id = '${one.id}'`, { supersedes: one.id })).toBe("");
  // The trigger says it first; the key says it where the trigger is not there.
  expect(await copyOf(table, `id = '${one.id}'`, { supersedes: stray.id })).toMatch(/^A correction belongs/);
  await db
    .transaction(async (tx) => {
      await tx.execute(sql.raw(`alter table ${table} disable trigger ${table}_corrects_its_own`));
      const bad = tx.execute(
        sql`insert into ${sql.raw(table)} select (jsonb_populate_record(null::${sql.raw(table)}, to_jsonb(r) || jsonb_build_object('id', gen_random_uuid(), 'supersedes', ${stray.id}::text))).* from ${sql.raw(table)} r where id = ${one.id}`,
      );
      await expect(bad.catch((e: { cause?: unknown }) => Promise.reject(e.cause))).rejects.toMatchObject({
        constraint: `${table}_corrects`,
      });
      tx.rollback();
    })
    .catch(rolledBack);
});

test("one job is open on a machine, and a shot’s clock is its own job’s", async () => {
  expect(await copyOf("job", "state = 'open'", {})).toBe("job_one_open");
  const [a, b] = await db
    .select()
    .from(t.job)
    .where(sql`state = 'open' and ${sql.raw(OURS)}`)
    .limit(2);
  const clock = randomUUID();
  const { workshopId, startedBy: by } = a!;
  await db.insert(t.shotClock).values({ id: clock, workshopId, jobId: a!.id, by });
  const tap = { id: randomUUID(), workshopId, by, clockId: clock, what: "pump" as const, moment: new Date() };
  await db
    .transaction(async (tx) => {
      // A clock begins with its first tap: without that, a tap of another job’s clock is a tap of none.
      await tx.execute(sql`alter table shot_tap disable trigger shot_tap_keeps_clock`);
      const stray = tx.insert(t.shotTap).values({ ...tap, jobId: b!.id });
      await expect(stray.catch((e: { cause?: unknown }) => Promise.reject(e.cause))).rejects.toMatchObject({
        constraint: "shot_tap_of_clock",
      });
      tx.rollback();
    })
    .catch(rolledBack);
});

test("what a job showed is of a job there is", async () => {
  const [m] = await db.select().from(t.machine).limit(1);
  const shown = {
    workshopId: m!.workshopId,
    machineId: m!.id,
    modelId: m!.modelId,
    knob: "opv",
    value: 2,
    sd: 0.1,
  } as const;
  const stray = db.insert(t.response).values({ ...shown, jobId: randomUUID(), moves: 1 });
  await expect(stray.catch((e: { cause?: unknown }) => Promise.reject(e.cause))).rejects.toMatchObject({
    constraint: "response_of_job",
  });
});

const KEPT = [
  "note",
  "photo",
  "tick",
  "entry",
  "entry_instrument",
  "timer",
  "reading",
  "adjustment",
  "repair",
  "finding",
  "signature",
  "seal",
  "workshop_key",
  "result",
  "result_instrument",
  "shot",
  "shot_clock",
  "shot_tap",
  "programme",
  "response",
  "spec_version",
  "owner_link",
  "job",
  "command",
];
test.each(KEPT)("%s is not emptied", async (table) => {
  const emptied = db.execute(sql.raw(`truncate ${table} cascade`));
  await expect(emptied.catch((e: { cause?: unknown }) => Promise.reject(e.cause))).rejects.toThrow("append-only");
});

test("every table with a workshop’s rows carries the workshop in every key and index but its own number", async () => {
  const { rows } = await db.execute<{ of: string; name: string; leads: string }>(sql`
    select c.relname as of, i.relname as name, a.attname as leads
    from pg_index x join pg_class c on c.oid = x.indrelid join pg_class i on i.oid = x.indexrelid
    join pg_attribute a on a.attrelid = c.oid and a.attnum = x.indkey[0]
    where c.relnamespace = 'public'::regnamespace and not x.indisprimary
      and exists (select 1 from pg_attribute w where w.attrelid = c.oid and w.attname = 'workshop_id')`);
  const others = rows.filter((r) => r.leads !== "workshop_id").map((r) => r.name);
  expect(others.sort()).toEqual(ELSEWHERE);
});

/** Known by a number or word of their own, whichever workshop asks; or by machine and model, which are one workshop’s. */
const ELSEWHERE = [
  "account_email",
  "calendar_link_token_hash",
  "command_age",
  "machine_response_knob",
  "model_response_knob",
  "owner_link_token_hash",
  "passkey_credential",
  "response_knob",
  "shot_tap_once",
  "timer_one_open",
];

test("a signature’s document stands while what lists say of it is filled in once", async () => {
  const [any] = await db.select().from(t.signature).where(eq(t.signature.kept, true)).limit(1);
  const change = db.update(t.signature).set({ skipped: 7 }).where(eq(t.signature.id, any!.id));
  await expect(change.catch((e: { cause?: unknown }) => Promise.reject(e.cause))).rejects.toThrow("append-only");
});
