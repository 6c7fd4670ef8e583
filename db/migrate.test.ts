import { randomUUID } from "node:crypto";
import { cpSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { fileURLToPath } from "node:url";
import { sql } from "drizzle-orm";
import { migrate } from "drizzle-orm/node-postgres/migrator";
import { type Database, connect, poolOf } from "./client";
import { migrateUp } from "./migrate";

/** A database of an earlier version, with what it let in, is brought up to date. */

const home = connect(process.env.DATABASE_URL!);
let name: string;
let db: Database;

/** The migrations up to and with this one, as an earlier version shipped them. */
async function migrateTo(last: number) {
  const folder = mkdtempSync(join(tmpdir(), "migrations-"));
  try {
    cpSync(fileURLToPath(new URL("./migrations", import.meta.url)), folder, { recursive: true });
    const file = join(folder, "meta", "_journal.json");
    const journal = JSON.parse(readFileSync(file, "utf8")) as { entries: { idx: number }[] };
    writeFileSync(file, JSON.stringify({ ...journal, entries: journal.entries.filter((e) => e.idx <= last) }));
    await migrate(db, { migrationsFolder: folder });
  } finally {
    rmSync(folder, { recursive: true });
  }
}

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
