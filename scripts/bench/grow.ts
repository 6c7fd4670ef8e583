import { sql } from "drizzle-orm";
import { type Database, poolOf } from "../../db/client";

/** Many whole visits, copied from those of the demo, table by table, in one statement each: so that what is measured carries what real ones do. */

/** Records of a visit, and which columns hold ids that change with the copy. */
const RECORDS: { table: string; own: string[] }[] = [
  { table: "note", own: ["id"] },
  { table: "tick", own: ["id"] },
  { table: "entry", own: ["id", "supersedes"] },
  { table: "entry_instrument", own: ["entry_id"] },
  { table: "timer", own: ["id"] },
  { table: "reading", own: ["id", "supersedes"] },
  { table: "adjustment", own: ["id", "supersedes"] },
  { table: "repair", own: ["id", "supersedes"] },
  { table: "finding", own: ["id"] },
  { table: "shot_clock", own: ["id"] },
  { table: "shot", own: ["id", "supersedes", "clock_id"] },
  { table: "shot_tap", own: ["id", "clock_id"] },
  { table: "programme", own: ["id"] },
  { table: "signature", own: ["id"] },
  { table: "result", own: [] },
  { table: "result_instrument", own: [] },
  { table: "response", own: [] },
  { table: "owner_link", own: ["id"] },
];

/** SQL of the token of an owner’s link that was grown: known to whoever measures. @param id SQL of the link’s id */
export const tokenOfGrown = (id: string) => `md5(${id}::text || 'link')`;

export interface Growth {
  /** Workshops, machines in each, signed visits to each machine. */
  workshops: number;
  machines: number;
  visits: number;
  /** Their first machines have an open job each. */
  open: number;
  /** Begins their serials and names. */
  mark: string;
  /** The first of them is the demo’s own workshop. */
  own: boolean;
}

/** Prepares the database for {@link grow}: a function that makes ids in the order of time, as the application does. */
export async function prepareGrowth(db: Database): Promise<void> {
  await db.execute(sql`
    CREATE OR REPLACE FUNCTION made_id(at timestamptz, name text) RETURNS uuid LANGUAGE sql IMMUTABLE AS $$
      SELECT (lpad(to_hex((extract(epoch from at) * 1000)::bigint), 12, '0') || '7' || substr(h, 1, 3) || '8' || substr(h, 4, 15))::uuid
      FROM (SELECT md5(name) AS h) hashed $$`);
  // Whole visits of the demo’s past: a service of a café’s machine, and a handover with shots and buttons.
  await db.execute(sql`
    CREATE TABLE template AS SELECT j.*, row_number() OVER (ORDER BY m.serial) - 1 AS n FROM (
      SELECT DISTINCT ON (j.machine_id) j.* FROM job j JOIN machine m ON m.workshop_id = j.workshop_id AND m.id = j.machine_id
      WHERE j.state = 'signed' AND ((m.serial = 'HE2-3301' AND 'temperature' = ANY(j.scopes)) OR (m.serial = 'NTB-10877' AND 'shots' = ANY(j.scopes)))
      ORDER BY j.machine_id, j.started_at DESC) j JOIN machine m ON m.workshop_id = j.workshop_id AND m.id = j.machine_id`);
}

/** @param onTable hears which table is being filled */
export async function grow(db: Database, growth: Growth, onTable: (table: string) => void = () => {}): Promise<void> {
  const { workshops, machines, visits, open, mark, own } = growth;
  const client = await poolOf(db).connect();
  const run = (text: string) => client.query(text);
  const columnsOf = async (table: string) =>
    (
      await client.query<{ c: string }>(
        `select column_name as c from information_schema.columns where table_name = '${table}' and table_schema = 'public' order by ordinal_position`,
      )
    ).rows.map((r) => r.c);
  const copy = async (table: string, from: string, given: Record<string, string>) => {
    onTable(table);
    const columns = await columnsOf(table);
    await run(
      `INSERT INTO ${table} (${columns.map((c) => `"${c}"`).join(", ")}) SELECT ${columns.map((c) => given[c] ?? `r."${c}"`).join(", ")} FROM ${from}`,
    );
  };
  try {
    // What is copied kept every rule when it was written; checking it again row by row would take the hour.
    await run("SET session_replication_role = replica");
    await run("BEGIN");
    const first = "(SELECT workshop_id FROM template LIMIT 1)";
    await run(`CREATE TEMP TABLE made_shop ON COMMIT DROP AS
      SELECT n, CASE WHEN ${own} AND n = 1 THEN ${first} ELSE gen_random_uuid() END AS id, NOT (${own} AND n = 1) AS fresh FROM generate_series(1, ${workshops}) AS n`);
    // In the order of where they are needed: a workshop’s people, models, places, instruments and cards are copies with ids of their own.
    const theirs = (id: string) => `CASE WHEN made.fresh THEN md5(${id}::text || made.id)::uuid ELSE ${id} END`;
    const shops = (table: string) =>
      `made_shop made JOIN ${table} r ON made.fresh AND r.workshop_id = ${first} AND r.machine_id IS NULL`;
    const every = (table: string) => shops(table).replace(" AND r.machine_id IS NULL", "");
    await copy("workshop", `made_shop made JOIN workshop r ON made.fresh AND r.id = ${first}`, {
      id: "made.id",
      name: `'${mark} ' || made.n`,
      spec_card_id: "NULL",
    });
    await copy("account", every("account"), {
      id: theirs("r.id"),
      workshop_id: "made.id",
      email: "made.id || r.email",
    });
    for (const table of ["model", "owner"])
      await copy(table, every(table), { id: theirs("r.id"), workshop_id: "made.id" });
    await copy("site", every("site"), { id: theirs("r.id"), workshop_id: "made.id", owner_id: theirs("r.owner_id") });
    await copy("instrument", shops("instrument"), {
      id: theirs("r.id"),
      item_id: theirs("r.item_id"),
      workshop_id: "made.id",
    });
    await copy("spec_card", every("spec_card"), { id: theirs("r.id"), workshop_id: "made.id" });
    await copy("spec_version", every("spec_version"), {
      id: theirs("r.id"),
      workshop_id: "made.id",
      card_id: theirs("r.card_id"),
      by: "NULL",
    });
    await run(`CREATE TEMP TABLE made_machine ON COMMIT DROP AS
      SELECT gen_random_uuid() AS id, s.id AS shop, s.fresh, g.n, g.n % (SELECT count(*) FROM template) AS like_n FROM made_shop s, generate_series(1, ${machines}) AS g(n)`);
    await copy(
      "machine",
      "made_machine mm JOIN template t ON t.n = mm.like_n JOIN machine r ON r.id = t.machine_id JOIN made_shop made ON made.id = mm.shop",
      {
        id: "mm.id",
        workshop_id: "mm.shop",
        model_id: theirs("r.model_id"),
        site_id: theirs("r.site_id"),
        serial: `'${mark}-' || mm.n || '-' || left(mm.id::text, 4)`,
        search: `lower('${mark}-' || mm.n) || ' ' || r.search`,
      },
    );
    await run(`CREATE TEMP TABLE made_job ON COMMIT DROP AS
      SELECT made_id(at, mm.id::text || v) AS id, mm.id AS machine_id, mm.shop, mm.fresh, mm.like_n, at, v = 0 AS is_open
      FROM made_machine mm, generate_series(0, ${visits}) AS v, LATERAL (SELECT now() - make_interval(days => 30 * v, mins => mm.n) AS at) moment
      WHERE v > 0 OR mm.n <= ${open}`);
    await run("CREATE INDEX ON made_job (like_n)");
    const jobs = (table: string, more = "") =>
      `made_job mj JOIN template t ON t.n = mj.like_n JOIN ${table} r ON ${more || "r.job_id = t.id"} JOIN made_shop made ON made.id = mj.shop`;
    const shared = { workshop_id: "mj.shop", job_id: "mj.id", machine_id: "mj.machine_id" };
    const people = { by: theirs("r.by"), ended_by: theirs("r.ended_by"), started_by: theirs("r.started_by") };
    await copy("job", jobs("job", "r.id = t.id"), {
      ...shared,
      ...people,
      id: "mj.id",
      state: "CASE WHEN mj.is_open THEN 'open' ELSE 'signed' END",
      started_at: "mj.at",
      signed_at: "CASE WHEN mj.is_open THEN NULL ELSE mj.at + interval '1 hour' END",
      spec_version_id: theirs("r.spec_version_id"),
      complaint: "r.complaint",
    });
    for (const { table, own: ids } of RECORDS) {
      const given: Record<string, string> = {
        ...shared,
        ...people,
        at: "mj.at + (r.at - t.started_at)",
        instrument_id: theirs("r.instrument_id"),
        scale_id: theirs("r.scale_id"),
        model_id: theirs("r.model_id"),
        token_hash: `encode(sha256(convert_to(${tokenOfGrown("made_id(mj.at, mj.id || r.id::text)")}, 'UTF8')), 'hex')`,
        ...Object.fromEntries(
          ids.map((c) => [c, `CASE WHEN r."${c}" IS NULL THEN NULL ELSE made_id(mj.at, mj.id || r."${c}"::text) END`]),
        ),
      };
      const columns = new Set(await columnsOf(table));
      const signedOnly = ["signature", "result", "result_instrument", "response", "programme", "owner_link"].includes(
        table,
      );
      // An open job has come as far as its knobs.
      const kept =
        signedOnly || ["reading", "adjustment", "repair", "finding", "shot"].includes(table)
          ? " WHERE NOT mj.is_open"
          : "";
      await copy(
        table,
        `${jobs(table)}${kept} ORDER BY mj.at`,
        Object.fromEntries(Object.entries(given).filter(([c]) => columns.has(c))),
      );
    }
    // Of commands only those of the last weeks are kept: as many as a visit writes.
    onTable("command");
    await run(`INSERT INTO command (id, workshop_id, account_id, kind, payload_hash, at)
      SELECT made_id(mj.at, mj.id::text || g.n), mj.shop, ${theirs("t.started_by")}, 'entry', md5(g.n::text) || md5(mj.id::text), mj.at
      FROM made_job mj JOIN template t ON t.n = mj.like_n JOIN made_shop made ON made.id = mj.shop, generate_series(1, 55) AS g(n)
      WHERE mj.at > now() - interval '60 days'`);
    await run("COMMIT");
    await run("RESET session_replication_role");
    onTable("analyze");
    await run("VACUUM ANALYZE");
  } finally {
    client.release(true);
  }
}
