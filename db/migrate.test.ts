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

const name = `migrate_${randomUUID().replaceAll("-", "_")}`;
const home = connect(process.env.DATABASE_URL!);
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

beforeAll(async () => {
  await home.execute(sql.raw(`CREATE DATABASE ${name}`));
  const url = new URL(process.env.DATABASE_URL!);
  url.pathname = `/${name}`;
  db = connect(url.href);
  await migrateTo(8);
});
afterAll(async () => {
  await poolOf(db).end();
  await home.execute(sql.raw(`DROP DATABASE ${name} WITH (FORCE)`));
  await poolOf(home).end();
});

test("what was registered twice becomes one, figures that can’t be are retired, and the rules hold from then on", async () => {
  const [shop, model, a, b, s1, s2] = Array.from({ length: 6 }, () => randomUUID()).sort();
  const machines = [randomUUID(), randomUUID()].sort();
  const [bad, good] = [randomUUID(), randomUUID()];
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

  const rows = async (query: string) => (await db.execute(sql.raw(query))).rows;
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
