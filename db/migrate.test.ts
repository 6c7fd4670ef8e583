import { randomUUID } from "node:crypto";
import { readFileSync } from "node:fs";
import { sql } from "drizzle-orm";
import { type Database, connect, poolOf } from "./client";
import { migrateUp } from "./migrate";

/** A database of an earlier version, with what it let in, is brought up to date. */

const home = connect(process.env.DATABASE_URL!);
let name: string;
let db: Database;

/** The migrations up to and with this one, as an earlier version shipped them. */
const migrateTo = (last: number) => migrateUp(db, { upTo: last + 1 });

beforeEach(async () => {
  name = `migrate_${randomUUID().replaceAll("-", "_")}`;
  await home.execute(sql.raw(`CREATE DATABASE ${name}`));
  const url = new URL(process.env.DATABASE_URL!);
  url.pathname = `/${name}`;
  db = connect(url.href);
});
afterEach(async () => {
  await poolOf(db).end();
  await home.execute(sql.raw(`DROP DATABASE ${name} WITH (FORCE)`));
});
afterAll(() => poolOf(home).end());

const rows = async (query: string) => (await db.execute(sql.raw(query))).rows;

test("what was registered twice becomes one, figures that can’t be are retired, and the rules hold from then on", async () => {
  const [shop, model, a, b, s1, s2] = Array.from({ length: 6 }, () => randomUUID()).sort();
  const machines = [randomUUID(), randomUUID()].sort();
  const [bad, good] = [randomUUID(), randomUUID()];
  await migrateTo(8);
  await db.execute(
    sql.raw(`
    INSERT INTO workshop (id, name, town, contact) VALUES ('${shop}', 'Shop', 'Saltby', '');
    INSERT INTO model (id, workshop_id, maker, name, kind, opv_response, opv_response_sd, opv_raises)
      VALUES ('${model}', '${shop}', 'Maker', 'Model', 'K7', 2, 0.7, 'clockwise');
    INSERT INTO owner (id, workshop_id, name) VALUES ('${a}', '${shop}', 'Harbour Office'), ('${b}', '${shop}', 'harbour office');
    INSERT INTO site (id, workshop_id, owner_id, name, town, altitude)
      VALUES ('${s1}', '${shop}', '${a}', 'Quay', 'Saltby', 3), ('${s2}', '${shop}', '${b}', 'QUAY', 'Saltby', 99999);
    INSERT INTO machine (id, workshop_id, model_id, site_id, serial, gauge_place)
      VALUES ('${machines[0]}', '${shop}', '${model}', '${s1}', 'AB-1', 'none'), ('${machines[1]}', '${shop}', '${model}', '${s2}', 'ab-1', 'none');
    INSERT INTO instrument (id, workshop_id, name, place, lowest, highest, resolution, error, repeatability)
      VALUES ('${bad}', '${shop}', 'Broken', 'group', 0, 16, 0.1, '{"form": "limit", "limit": 1e308}', 'Infinity'),
             ('${good}', '${shop}', 'Fine', 'group', 0, 16, 0.1, '{"form": "limit", "limit": 0.1}', 0.05)`),
  );
  await migrateUp(db);

  expect(await rows("SELECT id FROM owner")).toEqual([{ id: a }]);
  expect(await rows("SELECT id, owner_id FROM site")).toEqual([{ id: s1, owner_id: a }]);
  expect(await rows("SELECT id, site_id, serial FROM machine ORDER BY id")).toEqual([
    { id: machines[0], site_id: s1, serial: "AB-1" },
    { id: machines[1], site_id: s1, serial: `ab-1 (${machines[1]!.slice(0, 8)})` },
  ]);
  expect(await rows("SELECT name, in_kit, repeatability, error FROM instrument ORDER BY name")).toEqual([
    { name: "Broken", in_kit: false, repeatability: 0.1, error: { form: "limit", limit: 1 } },
    { name: "Fine", in_kit: true, repeatability: 0.05, error: { form: "limit", limit: 0.1 } },
  ]);
  await expect(rows(`UPDATE instrument SET repeatability = 'Infinity'`)).rejects.toThrow();
  await expect(
    rows(`INSERT INTO owner (id, workshop_id, name) VALUES ('${b}', '${shop}', 'HARBOUR OFFICE')`),
  ).rejects.toThrow();
});

test("one word becomes knob, group and button; a job keeps its scopes and what its machine was, a signed one too", async () => {
  const [shop, model, owner, site, machine, person, gauge] = Array.from({ length: 7 }, () => randomUUID());
  const [open, signed] = [randomUUID(), randomUUID()];
  const [first, second] = [randomUUID(), randomUUID()];
  await migrateTo(9);
  const job = (id: string, type: string) =>
    `('${id}', '${shop}', '${machine}', '${type}', 'K11', '{}', 'simple', '{"lower": 8.5}', '${person}')`;
  const reading = (id: string, jobId: string, sequence: number, loop: string) =>
    `('${id}', '${jobId}', '${person}', ${sequence}, '${loop}', '${gauge}', 'group', 0, 0, '9', 'bar', 9, 9, 0.1, 0.05, '[]')`;
  await db.execute(
    sql.raw(`
    INSERT INTO workshop (id, name, town, contact) VALUES ('${shop}', 'Shop', 'Saltby', '');
    INSERT INTO account (id, workshop_id, email, name, role, password_hash, preferences)
      VALUES ('${person}', '${shop}', 'a@b.example', 'A', 'lead', '', '{}');
    INSERT INTO model (id, workshop_id, maker, name, kind, opv_response, opv_response_sd, opv_raises, card)
      VALUES ('${model}', '${shop}', 'Maker', 'Model', 'K11', 2.5, 0.7, 'anticlockwise', '{"doseButtons": 4}');
    INSERT INTO owner (id, workshop_id, name) VALUES ('${owner}', '${shop}', 'Owner');
    INSERT INTO site (id, workshop_id, owner_id, name, town, altitude) VALUES ('${site}', '${shop}', '${owner}', 'Quay', 'Saltby', 340);
    INSERT INTO machine (id, workshop_id, model_id, site_id, serial, gauge_place, gauge_to_group)
      VALUES ('${machine}', '${shop}', '${model}', '${site}', 'A-1', 'pump', -1);
    INSERT INTO instrument (id, workshop_id, name, place, lowest, highest, resolution, error, repeatability)
      VALUES ('${gauge}', '${shop}', 'Gauge', 'group', 0, 16, 0.1, '{"form": "limit", "limit": 0.1}', 0.05);
    INSERT INTO job (id, workshop_id, machine_id, type, kind, schools, decision_rule, tolerance, started_by)
      VALUES ${job(open, "service")}, ${job(signed, "check")};
    INSERT INTO reading (id, job_id, by, sequence, loop, instrument_id, place, to_group, to_group_u, typed, unit, indicated, value, u, u_common, budget)
      VALUES ${reading(first, open, 1, "double-long-2")}, ${reading(second, signed, 1, "opv")};
    INSERT INTO adjustment (id, job_id, by, sequence, loop, amount, typed) VALUES ('${randomUUID()}', '${open}', '${person}', 2, 'dose-1', 3, '3');
    INSERT INTO response (job_id, loop, machine_id, model_id, value, sd, moves) VALUES ('${open}', 'line-regulator', '${machine}', '${model}', 2, 0.2, 1);
    UPDATE job SET state = 'signed' WHERE id = '${signed}'`),
  );
  await migrateUp(db);

  expect(await rows("SELECT knob, group_no, button FROM reading ORDER BY knob")).toEqual([
    { knob: "button", group_no: 2, button: "double-long" },
    { knob: "opv", group_no: null, button: null },
  ]);
  expect(await rows("SELECT knob, group_no, button FROM adjustment")).toEqual([
    { knob: "button", group_no: 1, button: "double" },
  ]);
  expect(await rows("SELECT knob, group_no, button FROM response")).toEqual([
    { knob: "line-regulator", group_no: null, button: null },
  ]);
  const jobs = await rows("SELECT state, scopes, particulars FROM job ORDER BY state");
  expect(jobs.map((j) => j.state)).toEqual(["open", "signed"]);
  expect(jobs[0]!.scopes).toContain("work");
  expect(jobs[1]!.scopes).toEqual(["pressure"]);
  expect(jobs[1]!.particulars).toEqual({
    kind: "K11",
    card: { doseButtons: 4 },
    opv: { responseMean: 2.5, responseSd: 0.7, raises: "anticlockwise" },
    gauge: { place: "pump", toGroup: -1, toGroupU: 0 },
    altitude: 340,
  });
  // What the migration had to lift stands again: signed jobs and records take no change, corrections keep to their knob.
  await expect(rows(`UPDATE job SET complaint = 'x' WHERE id = '${signed}'`)).rejects.toThrow();
  await expect(rows("UPDATE reading SET value = 1")).rejects.toThrow();
  const stray = `INSERT INTO reading SELECT (jsonb_populate_record(NULL::reading, to_jsonb(r) || jsonb_build_object(
    'id', gen_random_uuid(), 'group_no', 1, 'supersedes', r.id))).* FROM reading r WHERE r.id = '${first}'`;
  await expect(rows(stray)).rejects.toThrow();
  await expect(rows(stray.replace("'group_no', 1", "'group_no', 5"))).rejects.toThrow();
  await rows(stray.replace("'group_no', 1, ", ""));
});

const LATEST = 26;
/** The version whose web processes may still run while the newest migrations are done. */
const BEFORE = 12;

type Values = Record<string, unknown>;

/** A row of every table a version had, by what its columns were called in any of them; which exist is asked of the database. */
function rowsOf() {
  const [shop, person, model, owner, site, machine, other, gauge, scale, card, version] = Array.from(
    { length: 11 },
    () => randomUUID(),
  );
  const [open, signed, clock, entry, reading] = Array.from({ length: 5 }, () => randomUUID());
  const at = "2026-05-04T09:00:00Z";
  const id = () => randomUUID();
  const inJob = (job: string) => ({ id: id(), workshop_id: shop, job_id: job, by: person, at });
  const opv = { loop: "opv", knob: "opv" };
  const job = (own: string, on: string) => ({
    id: own,
    workshop_id: shop,
    machine_id: on,
    type: "check",
    opv_school: "regulate",
    decision_rule: "simple",
    tolerance: { lower: 8.5, upper: 9.5 },
    started_by: person,
    started_at: at,
    kind: "K7",
    schools: {},
    scopes: ["pressure"],
    particulars: { kind: "K7" },
    spec_version_id: version,
  });
  const readingOf = (own: string, job: string, sequence: number) => ({
    ...inJob(job),
    id: own,
    sequence,
    quantity: "pressure",
    ...opv,
    instrument_id: gauge,
    place: "group",
    to_group: 0,
    to_group_u: 0,
    typed: "9",
    unit: "bar",
    indicated: 9,
    value: 9,
    u: 0.1,
    u_common: 0.05,
    budget: [],
  });
  const learnt = { ...opv, workshop_id: shop, model_id: model, at };
  const instrument = (own: string, name: string, quantity: string) => ({
    id: own,
    item_id: own,
    workshop_id: shop,
    name,
    quantity,
    place: "group",
    lowest: 0,
    highest: 16,
    resolution: 0.1,
    error: { form: "limit", limit: 0.1 },
    repeatability: 0.05,
  });
  const shot = {
    ...inJob(open!),
    sequence: 1,
    pull: {},
    u_dose: 0.1,
    u_yield: 0.1,
    clock_id: clock,
    scale: "Scale",
    scale_id: scale,
  };
  const rows: [table: string, row: Values][] = [
    ["workshop", { id: shop, name: "Shop", town: "Saltby", contact: "" }],
    [
      "account",
      {
        id: person,
        workshop_id: shop,
        email: "a@b.example",
        name: "A",
        role: "lead",
        password_hash: "",
        preferences: {},
      },
    ],
    [
      "model",
      {
        id: model,
        workshop_id: shop,
        maker: "M",
        name: "N",
        kind: "K7",
        opv_response: 2,
        opv_response_sd: 0.7,
        opv_raises: "clockwise",
      },
    ],
    ["owner", { id: owner, workshop_id: shop, name: "Owner" }],
    ["site", { id: site, workshop_id: shop, owner_id: owner, name: "Quay", town: "Saltby" }],
    ["machine", { id: machine, workshop_id: shop, model_id: model, site_id: site, serial: "A-1", gauge_place: "none" }],
    ["machine", { id: other, workshop_id: shop, model_id: model, site_id: site, serial: "A-2", gauge_place: "none" }],
    ["instrument", instrument(gauge!, "Gauge", "pressure")],
    ["instrument", instrument(scale!, "Scale", "mass")],
    ["spec_card", { id: card, workshop_id: shop, name: "Card" }],
    ["spec_version", { id: version, workshop_id: shop, card_id: card, version: 1, lines: [] }],
    ["job", job(open!, machine!)],
    ["job", job(signed!, other!)],
    ["note", { ...inJob(open!), station: "look-over", text: "Sound." }],
    [
      "photo",
      { ...inJob(open!), station: "look-over", mime: "image/webp", width: 1, height: 1, size: 1, data: "\\x00" },
    ],
    ["tick", { ...inJob(open!), key: "tools" }],
    [
      "entry",
      { ...inJob(open!), id: entry, task: "water.hardness", value: { form: "figure", value: 80, instrument: "Gauge" } },
    ],
    [
      "entry",
      { ...inJob(open!), task: "water.hardness", value: { form: "struck", reason: "slip" }, supersedes: entry },
    ],
    ["timer", { ...inJob(open!), task: "warm.boiler-ready", label: "Boiler ready", due_at: at }],
    ["reading", readingOf(reading!, open!, 1)],
    ["reading", { ...readingOf(id(), open!, 1), supersedes: reading, reason: "misread" }],
    ["reading", readingOf(id(), signed!, 1)],
    ["adjustment", { ...inJob(open!), sequence: 2, ...opv, turns: 0.25, amount: 0.25, typed: "1/4" }],
    ["repair", { ...inJob(open!), sequence: 3, ...opv, text: "Spring renewed" }],
    ["finding", { ...inJob(open!), ...opv, fault: "stuck", text: "" }],
    ["shot_tap", { ...inJob(open!), clock_id: clock, what: "pump", moment: at }],
    ["shot", shot],
    [
      "programme",
      {
        id: id(),
        workshop_id: shop,
        job_id: signed,
        machine_id: machine,
        loop: "dose-1",
        group_no: 1,
        button: "double",
        at,
        target: 36,
        mean: 36,
        shots: 3,
        verdict: "holds",
      },
    ],
    ["response", { ...learnt, job_id: signed, machine_id: machine, value: 2, sd: 0.2, moves: 1 }],
    ["machine_response", { ...learnt, machine_id: machine, weight: 25, weighted: 50, jobs: 1 }],
    ["model_response", { ...learnt, mean: 2, sd: 0.3, between: 0.2, machines: 1 }],
    ["signature", { ...inJob(signed!), name: "A", document: { version: 3, stations: [] }, hash: "0".repeat(64) }],
    ["owner_link", { ...inJob(signed!), token: "x".repeat(32) }],
    ["command", { id: id(), workshop_id: shop, account_id: person, kind: "tick", payload_hash: "x" }],
  ];
  return { rows, signed: signed!, machine: machine! };
}

const columnsNow = async () => {
  const found = await rows(
    "select table_name, column_name from information_schema.columns where table_schema = 'public'",
  );
  return (found as { table_name: string; column_name: string }[]).map((c) => `${c.table_name}.${c.column_name}`);
};

/** Writes them as a version with these columns does. @returns how many of each table */
async function write(all: [string, Values][], columns: readonly string[]): Promise<Map<string, number>> {
  const counts = new Map<string, number>();
  const known = new Set(columns);
  for (const [table, row] of all) {
    const own = Object.entries(row).filter(([column]) => known.has(`${table}.${column}`));
    if (!known.has(`${table}.id`) && !known.has(`${table}.model_id`) && own.length === 0) continue;
    await db.execute(
      sql`insert into ${sql.raw(table)} (${sql.raw(own.map(([c]) => `"${c}"`).join(", "))})
        select ${sql.raw(own.map(([c]) => `"${c}"`).join(", "))} from jsonb_populate_record(null::${sql.raw(table)}, ${JSON.stringify(Object.fromEntries(own))}::jsonb)`,
    );
    counts.set(table, (counts.get(table) ?? 0) + 1);
  }
  return counts;
}

const countsNow = async (tables: Iterable<string>) => {
  const counts = new Map<string, number>();
  for (const table of tables) counts.set(table, Number((await rows(`select count(*) from ${table}`))[0]!.count));
  return counts;
};

const signing = (job: string) =>
  `UPDATE job SET state = 'signed', signed_at = '2026-05-04T12:00:00Z' WHERE id = '${job}'`;

test.each(Array.from({ length: LATEST }, (_, version) => version))(
  "a database of version %d comes up to date with all its rows, and is held to every rule",
  async (version) => {
    await migrateTo(version);
    const { rows: all, signed } = rowsOf();
    const counts = await write(all, await columnsNow());
    expect(counts.get("reading")).toBe(3);
    await rows(signing(signed));
    await migrateUp(db);
    expect(await countsNow(counts.keys())).toEqual(counts);
    const loose = await rows(
      "select conname from pg_constraint where not convalidated and connamespace = 'public'::regnamespace",
    );
    expect(loose).toEqual([]);
    const without = await rows(`select table_name from information_schema.columns
      where table_schema = 'public' and column_name = 'workshop_id' and is_nullable = 'YES'`);
    expect(without).toEqual([]);
    // Those that the migration fills in; from then on the version writes them itself.
    if (counts.has("entry") && version < 12)
      expect(await rows("select i.name from entry_instrument u join instrument i on i.id = u.instrument_id")).toEqual([
        { name: "Gauge" },
      ]);
    if (counts.has("shot"))
      expect(
        await rows(
          "select i.name from shot s join shot_clock c on c.id = s.clock_id join instrument i on i.id = s.scale_id",
        ),
      ).toEqual([{ name: "Scale" }]);
    // Done once: the next start finds nothing to do.
    await migrateUp(db);
    await expect(rows("truncate reading cascade")).rejects.toThrow();
  },
);

test("while old web processes still run, what they write is taken and filled in, and what they read is there", async () => {
  const was = JSON.parse(
    readFileSync(
      new URL(`./migrations/meta/${String(BEFORE).padStart(4, "0")}_snapshot.json`, import.meta.url),
      "utf8",
    ),
  ) as { tables: Record<string, { name: string; columns: Record<string, { name: string; type: string }> }> };
  const columns = Object.values(was.tables).flatMap((t) => Object.values(t.columns).map((c) => `${t.name}.${c.name}`));
  await migrateUp(db);
  const now = new Set(await columnsNow());
  expect(columns.filter((c) => !now.has(c))).toEqual([]);

  const { rows: all, signed, machine } = rowsOf();
  const [openJob, signedJob] = all.filter(([table]) => table === "job");
  const ofSigned = all.filter(([table, row]) => table !== "job" && row.job_id === signed);
  const rest = all.filter(([table, row]) => table !== "job" && row.job_id !== signed);
  const before = rest.slice(
    0,
    rest.findIndex(([table]) => table === "note"),
  );
  const after = rest.slice(before.length);
  await write([...before, signedJob!, ...ofSigned.filter(([table]) => table !== "owner_link")], columns);
  await rows(signing(signed));
  await write([openJob!, ...after, ...ofSigned.filter(([table]) => table === "owner_link")], columns);
  for (const table of [
    "reading",
    "tick",
    "entry",
    "timer",
    "shot",
    "shot_tap",
    "programme",
    "response",
    "signature",
    "spec_version",
    "machine_response",
  ])
    expect([table, await rows(`select count(*)::int as loose from ${table} where workshop_id is null`)]).toEqual([
      table,
      [{ loose: 0 }],
    ]);
  expect(await rows("select count(*)::int as clocks from shot_clock")).toEqual([{ clocks: 1 }]);
  // Its signature keeps no results yet: the next start does.
  expect(await rows("select kept from signature")).toEqual([{ kept: false }]);
  expect(
    await rows(`select count(*)::int as open from job where machine_id = '${machine}' and state = 'open'`),
  ).toEqual([{ open: 1 }]);
});

/** Those that are done beside the application, statement by statement: up to which, and how many of them stand last. */
test.each([
  [14, 2],
  [16, 1],
])(
  "cut off before it is noted as done, a migration beside the application is begun again and ends alike: %p",
  async (upTo, last) => {
    await migrateTo(BEFORE);
    const { rows: all, signed } = rowsOf();
    const counts = await write(all, await columnsNow());
    await rows(signing(signed));
    await migrateUp(db, { upTo });
    const shape = () =>
      rows(`select conrelid::regclass::text as of, conname, pg_get_constraintdef(oid) as rule from pg_constraint
      where connamespace = 'public'::regnamespace order by 1, 2`);
    const indexes = () => rows("select indexname, indexdef from pg_indexes where schemaname = 'public' order by 1");
    const before = [await shape(), await indexes()];
    await rows(
      `delete from drizzle.__drizzle_migrations where id in (select id from drizzle.__drizzle_migrations order by created_at desc limit ${last})`,
    );
    await migrateUp(db, { upTo });
    expect([await shape(), await indexes()]).toEqual(before);
    expect(await countsNow(counts.keys())).toEqual(counts);
  },
);

test("two starts at one moment: the second waits and finds it done", async () => {
  await Promise.all([migrateUp(db), migrateUp(db), migrateUp(db)]);
  expect((await rows("select count(*)::int as done from drizzle.__drizzle_migrations"))[0]!.done).toBe(LATEST + 1);
});

test("a migration held up by somebody’s lock tries again, and stops nobody for long", async () => {
  await migrateTo(BEFORE);
  const holder = await poolOf(db).connect();
  await holder.query("begin");
  await holder.query("lock table reading in access share mode");
  const done = migrateUp(db);
  // Longer than it waits for a lock at a time.
  await new Promise((resolve) => setTimeout(resolve, 2500));
  // Meanwhile nobody who reads stands behind it for good.
  expect(await rows("select count(*)::int as read from reading")).toEqual([{ read: 0 }]);
  await holder.query("commit");
  holder.release();
  await done;
  expect(await columnsNow()).toContain("reading.workshop_id");
}, 30_000);
