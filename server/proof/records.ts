import { type SQL, sql } from "drizzle-orm";
import type { Database } from "../../db/client";

/**
 * What a signature rests on, row by row: each is hashed by the database itself, over all its columns by name, so that whoever changes one
 * behind the application changes its hash. Times are told in UTC, figures in their shortest exact form.
 */

type Runs = Pick<Database, "execute">;

interface Table {
  /** How a row of it is named in a seal. */
  readonly name: string;
  /** Columns that say nothing of what was found: keys that stand beside, and what goes on changing. */
  readonly but?: readonly string[];
  /** Which rows stand under the signature, beside being of the job. */
  readonly only?: string;
  /** Rows that are added after the signature, each under a statement of its own. */
  readonly added?: string;
  /** Rows may come later, with amendments. */
  readonly grows?: boolean;
  /** Of a job, its rows. */
  readonly job: string;
}

const OF_JOB = { name: "id::text", job: "job_id" } as const;

/** Tables that a seal covers. What an instrument was is part of what was read with it. */
const TABLES: Readonly<Record<string, Table>> = {
  job: { name: "id::text", job: "id", but: ["revision"] },
  note: OF_JOB,
  photo: OF_JOB,
  tick: OF_JOB,
  entry: OF_JOB,
  entry_instrument: { ...OF_JOB, name: "entry_id::text || ' ' || col" },
  timer: OF_JOB,
  reading: OF_JOB,
  adjustment: OF_JOB,
  repair: OF_JOB,
  finding: OF_JOB,
  shot_clock: { ...OF_JOB, grows: true },
  shot_tap: { ...OF_JOB, grows: true },
  shot: { ...OF_JOB, only: "not amends", added: "amends" },
  shot_trace: { ...OF_JOB, grows: true },
  part_move: OF_JOB,
  programme: OF_JOB,
  response: { ...OF_JOB, name: "concat_ws(' ', knob, group_no, button)" },
  signature: { ...OF_JOB, but: ["hash", "finding", "skipped", "kept"] },
  amendment: { ...OF_JOB, only: "false", added: "true" },
  acknowledgement: { ...OF_JOB, only: "false", added: "true" },
  result: { ...OF_JOB, name: "no::text" },
  result_instrument: { ...OF_JOB, name: "no::text || ' ' || instrument_id" },
};

/** What stands beside jobs and is told with them: their instruments, what was done to their machine, the names of who did it. */
interface Beside {
  readonly columns: (all: readonly string[]) => readonly string[];
  /**
   * Which rows: job, id, and name in the statement; null where there are none.
   *
   * @param of which jobs, by workshop and job: said of each table, or one is gone through whole where records are many
   * @param by tables whose rows say who wrote them
   */
  readonly rows: (of: SQL, part: Part, by: readonly string[]) => SQL | null;
  readonly grows?: boolean;
}

const allBut =
  (...names: string[]) =>
  (all: readonly string[]) =>
    all.filter((c) => !names.includes(c));

const BESIDE: Readonly<Record<string, Beside>> = {
  instrument: {
    // Of these the papers count, not where they lie.
    columns: allBut("in_kit", "position", "workshop_id"),
    rows: (of, part) =>
      part === "added"
        ? sql`select job_id, scale_id as id, id::text || ' ' || scale_id as name from shot where scale_id is not null and amends and ${of}`
        : sql`
            select job_id, instrument_id as id, instrument_id::text as name from reading where ${of}
            union select job_id, scale_id, scale_id::text from shot where scale_id is not null and not amends and ${of}
            union select job_id, instrument_id, instrument_id::text from entry_instrument where ${of}`,
  },
  machine_change: {
    columns: allBut("workshop_id"),
    rows: (of, part) =>
      part === "added"
        ? null
        : sql`select j.job_id, c.id, c.id::text as name
            from (select * from (select workshop_id, id as job_id, machine_id from job) every where ${of}) j
            join machine_change c on c.workshop_id = j.workshop_id and c.machine_id = j.machine_id`,
    grows: true,
  },
  account: {
    columns: (all) => all.filter((c) => c === "name"),
    rows: (of, part, by) => {
      const tables = by.filter((table) => (TABLES[table]!.added !== undefined) === (part === "added"));
      const from = (table: string) => {
        const name = part === "added" ? "id::text || ' ' || by" : "by::text";
        return sql`${sql.raw(`select job_id, by as id, ${name} as name from ${table} where ${TABLES[table]![part === "added" ? "added" : "only"] ?? "true"}`)} and ${of}`;
      };
      return tables.length === 0 ? null : sql.join(tables.map(from), sql` union `);
    },
  },
};

/** What a statement is of: a job as it was signed, or what was added to it afterwards, each record by itself. */
export type Part = "signed" | "added";

export const mayGrow = (table: string) => (TABLES[table] ?? BESIDE[table])?.grows ?? false;

const quoted = (name: string) => `"${name.replaceAll('"', '""')}"`;

/** A photo is hashed as its bytes, a document as its text: spelt out they would be longer than all the rest. */
const SPELT: Readonly<Record<string, string>> = {
  "photo.data": "encode(sha256(data), 'hex')",
  "acknowledgement.drawing": "encode(sha256(drawing), 'hex')",
  "signature.document": "encode(sha256(convert_to(document::text, 'UTF8')), 'hex')",
};

const hashOf = (table: string, columns: readonly string[], as = "") => {
  const values = columns.map((c) => (as ? `${as}.${quoted(c)}` : (SPELT[`${table}.${c}`] ?? quoted(c))));
  return `encode(sha256(convert_to(json_build_array(${values.join(", ")})::text, 'UTF8')), 'hex')`;
};

/** Tables and their columns, by name: as they are now, or as a seal says they were. */
export type Covered = Readonly<Record<string, readonly string[]>>;

let now: Promise<Covered> | undefined;

/** What a seal covers that is made today. Asked once: it changes with a migration, and the application starts anew after one. */
export function coveredNow(db: Runs): Promise<Covered> {
  now ??= columnsOf(db).catch((error: unknown) => {
    now = undefined;
    throw error;
  });
  return now;
}

async function columnsOf(db: Runs): Promise<Covered> {
  const names = [...Object.keys(TABLES), ...Object.keys(BESIDE)];
  const { rows } = await db.execute<{ table: string; columns: string[] }>(sql`
    select table_name as "table", array_agg(column_name::text order by column_name::text) as columns
    from information_schema.columns
    where table_schema = 'public' and table_name in (${sql.join(
      names.map((n) => sql`${n}`),
      sql`, `,
    )})
    group by table_name`);
  const all = new Map(rows.map((r) => [r.table, r.columns]));
  return Object.fromEntries(
    names.map((table) => {
      const columns = BESIDE[table]?.columns ?? allBut("workshop_id", "job_id", ...(TABLES[table]!.but ?? []));
      return [table, columns(all.get(table) ?? [])];
    }),
  );
}

/** Hash of every row, by table and name. */
export type Hashes = Record<string, Record<string, string>>;

/**
 * Every row of some jobs, hashed. Within a transaction: times are spelt in its zone.
 *
 * What was added afterwards is named by its own id; what it was read with by that and the instrument’s.
 *
 * @param covered which columns; a table or column that is no more has no rows
 */
export async function hashedRows(
  tx: Runs,
  workshopId: string,
  jobIds: readonly string[],
  covered: Covered,
  part: Part = "signed",
): Promise<Map<string, Hashes>> {
  const found = new Map(jobIds.map((id): [string, Hashes] => [id, {}]));
  await tx.execute(sql`set local time zone 'UTC'`);
  const ids = sql.join(
    jobIds.map((id) => sql`${id}::uuid`),
    sql`, `,
  );
  const of = sql`workshop_id = ${workshopId} and job_id in (${ids})`;
  const add = async (table: string, query: SQL) => {
    const { rows } = await tx.execute<{ job: string; name: string; hash: string }>(query);
    for (const { job, name, hash } of rows) (found.get(job)![table] ??= {})[name] = hash;
  };
  for (const [table, columns] of Object.entries(covered)) {
    const { name, job, only, added } = TABLES[table] ?? {};
    const which = part === "added" ? added : (only ?? "true");
    if (!name || !job || !which) continue;
    const head = `select ${job} as job, ${name} as name, ${hashOf(table, columns)} as hash from ${table}`;
    await add(
      table,
      sql`${sql.raw(head)} where workshop_id = ${workshopId} and ${sql.raw(job)} in (${ids}) and ${sql.raw(which)}`,
    );
  }
  const by = Object.keys(covered).filter((table) => TABLES[table]?.job === "job_id" && covered[table]!.includes("by"));
  for (const [table, { rows }] of Object.entries(BESIDE)) {
    const which = covered[table] && rows(of, part, by);
    if (!which) continue;
    await add(
      table,
      sql`select w.job_id as job, w.name, ${sql.raw(hashOf(table, covered[table]!, "r"))} as hash from (${which}) w
        join ${sql.raw(table)} r on r.workshop_id = ${workshopId} and r.id = w.id`,
    );
  }
  return found;
}

/** Of what was added to a job: what belongs to one record of it. */
export function ofRecord(hashes: Hashes, id: string): Hashes {
  const own = Object.entries(hashes).map(([table, rows]) => [
    table,
    Object.fromEntries(Object.entries(rows).filter(([name]) => name === id || name.startsWith(`${id} `))),
  ]);
  return Object.fromEntries(own) as Hashes;
}

/** What a statement of something added covers. */
export function coveredByAddition(covered: Covered): Covered {
  return Object.fromEntries(
    Object.entries(covered).filter(([table]) => (BESIDE[table] && !BESIDE[table].grows) || TABLES[table]?.added),
  );
}

/** Everything added after a signature that has no statement, with its job: by this SQL, of `t`. */
export const ADDED = Object.entries(TABLES).flatMap(([table, { added }]) =>
  added
    ? [
        {
          table,
          unsealed: `(${added}) and not exists (select from seal s where s.workshop_id = t.workshop_id and s.job_id = t.job_id and s.amends = t.id)`,
        },
      ]
    : [],
);
