import { readFile } from "node:fs/promises";
import { join } from "node:path";
import { sql } from "drizzle-orm";
import type { Transaction } from "../../../db/client";
import { sealThese } from "../../proof/seal";
import { oneByOne } from "../../transaction";
import { SECTIONS, type Section } from "../../open/sections";
import { type Of, fresh, sameKey, staged } from "./compare";
import { FILE } from "./stage";
import { folderOf } from "./unpack";

/**
 * Stores what was laid aside: all of it, or nothing. Every guard of the records stands: a visit begins open, its records join it, it is signed as
 * it was, and what came after the signature comes after it here. Visits of one machine come one after the other.
 */

/** What stands before any visit, and what belongs to none. */
const BEFORE = [
  "people",
  "models",
  "owners",
  "sites",
  "machines",
  "machine_changes",
  "instruments",
  "spec_cards",
  "spec_versions",
  "parts",
];
const AFTER_SIGNING = ["acknowledgements", "amendments"];
const LAST = ["files", "past_visits", "past_figures"];
const PICTURES_AT_A_TIME = 20;

const sectionOf = (name: string) => SECTIONS.find((s) => s.name === name)!;
const OF_VISIT = SECTIONS.filter(
  (s) => ![...BEFORE, ...AFTER_SIGNING, ...LAST, "visits", "keys", "statements", "part_moves"].includes(s.name),
);

export interface Choices {
  /** By `section id`: whose is right. */
  readonly chosen: Readonly<Record<string, "ours" | "theirs">>;
}

export interface Brought {
  /** Rows stored. */
  readonly stored: number;
  /** Of visits that are signed here: what the file has beside, and could not join them. */
  readonly left: number;
}

const raw = (tx: Transaction, text: string) => tx.execute(sql.raw(text));
const count = async (tx: Transaction, text: string) => (await raw(tx, text)).rowCount ?? 0;

/** How a column gets its value out of a row laid aside. */
function valueOf(section: Section, name: string): string {
  if (section.name === "signatures" && name === "document") return `(s.row->>'document')::json`;
  return `r."${name}"`;
}

/** A row laid aside as one of its table: r. */
const asRow = (section: Section, row = "s.row") =>
  `, lateral jsonb_populate_record(null::public."${section.table}", ${row}) r`;

function insert(of: Of, section: Section, where: string, changed = "s.row", order = "s.no"): string {
  const names = section.fields.map((f) => f.name);
  const own = section.name === "signatures" ? `${changed} - 'document'` : changed;
  const from = staged(of, section, asRow(section, own));
  return `insert into public."${section.table}" (workshop_id, ${names.map((n) => `"${n}"`).join(", ")}) select '${of.workshopId}', ${names
    .map((n) => valueOf(section, n))
    .join(", ")} from ${from} and ${fresh(of, section)} and ${where} order by ${order} on conflict do nothing`;
}

/**
 * @param onStep hears what is being done, and throws where it is to stop
 * @throws what the database refuses: then nothing is stored
 */
export async function bring(
  tx: Transaction,
  of: Of,
  { chosen }: Choices,
  onStep: (said: string) => Promise<void>,
): Promise<Brought> {
  await oneByOne(tx, `store ${of.workshopId}`);
  const theirs = Object.keys(chosen).filter((name) => chosen[name] === "theirs");
  let stored = 0;
  await onStep("Storing machines and what belongs to them");
  for (const name of BEFORE)
    stored += name === "people" ? await bringPeople(tx, of) : await bringPlain(tx, of, name, theirs);
  const turns = await takeTurns(tx, of);
  for (let turn = 1; turn <= turns; turn++) {
    await onStep(`Storing visits, round ${turn} of ${turns}`);
    stored += await bringVisits(tx, of, turn);
  }
  // Moves of no visit; those of visits came with them.
  stored += await count(tx, insert(of, sectionOf("part_moves"), "s.job_id is null"));
  for (const name of LAST) stored += await bringPlain(tx, of, name, []);
  await onStep("Making statements under the signatures");
  const { rows } = await tx.execute<{ id: string }>(
    sql.raw(
      `select s.job_id as id from staged_record s where s.workshop_id = '${of.workshopId}' and s.transfer_id = '${of.id}' and s.section = 'visits' and s.turn > 0`,
    ),
  );
  await sealThese(
    tx,
    of.workshopId,
    rows.map((r) => r.id),
  );
  return { stored, left: await leftOut(tx, of) };
}

/** Who wrote things down stands here by name, and signs in nowhere. */
const bringPeople = (tx: Transaction, of: Of) =>
  count(
    tx,
    `insert into account (id, workshop_id, email, name, role, password_hash, preferences, active)
     select (s.row->>'id')::uuid, s.workshop_id, (s.row->>'id') || '@imported.invalid', s.row->>'name', s.row->>'role', 'none', '{"pressureUnit": "bar", "theme": "system"}', false
     from ${staged(of, sectionOf("people"))} and ${fresh(of, sectionOf("people"))} on conflict do nothing`,
  );

async function bringPlain(tx: Transaction, of: Of, name: string, theirs: readonly string[]): Promise<number> {
  const section = sectionOf(name);
  const stored = await count(tx, insert(of, section, "true"));
  const chosen = theirs.filter((t) => t.startsWith(`${name} `)).map((t) => `'${t.split(" ")[1]}'`);
  if (chosen.length === 0) return stored;
  const set = section.fields.filter((f) => !section.key.includes(f.name)).map((f) => `"${f.name}" = r."${f.name}"`);
  return (
    stored +
    (await count(
      tx,
      `update public."${section.table}" t set ${set.join(", ")} from ${staged(of, section, asRow(section))} and t.workshop_id = s.workshop_id and ${sameKey(section)} and s.row->>'id' in (${chosen.join(", ")})`,
    ))
  );
}

/** In which round each visit comes: new ones, and those that are open here still. @returns how many rounds */
async function takeTurns(tx: Transaction, of: Of): Promise<number> {
  await raw(
    tx,
    `update staged_record s set turn = o.turn from (
       select s.no, row_number() over (partition by s.row->>'machine_id' order by (s.row->>'state' = 'open'), s.row->>'started_at', s.no) as turn
       from ${staged(of, sectionOf("visits"))} and not exists (select from job j where j.workshop_id = s.workshop_id and j.id = s.job_id and j.state <> 'open')
     ) o where s.workshop_id = '${of.workshopId}' and s.transfer_id = '${of.id}' and s.section = 'visits' and s.no = o.no`,
  );
  const { rows } = await tx.execute<{ turns: number }>(
    sql.raw(`select coalesce(max(s.turn), 0)::int as turns from ${staged(of, sectionOf("visits"))}`),
  );
  return rows[0]!.turns;
}

async function bringVisits(tx: Transaction, of: Of, turn: number): Promise<number> {
  const visits = sectionOf("visits");
  const inTurn = `s.job_id in (select v.job_id from staged_record v where v.workshop_id = '${of.workshopId}' and v.transfer_id = '${of.id}' and v.section = 'visits' and v.turn = ${turn})`;
  const chronological = "s.row->>'at', s.no";
  let stored = await count(
    tx,
    insert(of, visits, `s.turn = ${turn}`, `s.row || '{"state": "open", "signed_at": null}'`),
  );
  for (const section of OF_VISIT) {
    const own = section.name === "shots" ? `${inTurn} and not (s.row->>'amends')::boolean` : inTurn;
    stored += section.files
      ? await bringPictures(tx, of, section, own)
      : await count(
          tx,
          insert(of, section, own, "s.row", section.fields.some((f) => f.name === "at") ? chronological : "s.no"),
        );
  }
  stored += await count(tx, insert(of, sectionOf("part_moves"), inTurn));
  await raw(
    tx,
    `update job j set state = s.row->>'state', signed_at = (s.row->>'signed_at')::timestamptz from ${staged(of, visits)} and s.turn = ${turn} and j.workshop_id = s.workshop_id and j.id = s.job_id and j.state is distinct from s.row->>'state'`,
  );
  stored += await count(
    tx,
    insert(of, sectionOf("shots"), `${inTurn} and (s.row->>'amends')::boolean`, "s.row", chronological),
  );
  for (const name of AFTER_SIGNING) {
    const section = sectionOf(name);
    stored += section.files
      ? await bringPictures(tx, of, section, inTurn)
      : await count(tx, insert(of, section, inTurn, "s.row", chronological));
  }
  return stored;
}

/** Rows whose bytes lie beside: some at a time, never all of them in memory. */
async function bringPictures(tx: Transaction, of: Of, section: Section, where: string): Promise<number> {
  const { column } = section.files!;
  const names = section.fields.map((f) => f.name);
  let [stored, after] = [0, 0];
  for (;;) {
    const { rows } = await tx.execute<{ no: number; file: string }>(
      sql.raw(
        `select s.no, s.row->>'${FILE}' as file from ${staged(of, section)} and ${fresh(of, section)} and ${where} and s.no > ${after} order by s.no limit ${PICTURES_AT_A_TIME}`,
      ),
    );
    if (rows.length === 0) return stored;
    for (const { no, file } of rows) {
      const data = await readFile(join(folderOf(of.id), file));
      const list = sql.raw(names.map((n) => `"${n}"`).join(", "));
      const values = sql.raw(names.map((n) => `r."${n}"`).join(", "));
      await tx.execute(sql`
        insert into ${sql.identifier(section.table)} (workshop_id, ${list}, ${sql.identifier(column)})
        select ${of.workshopId}, ${values}, ${data} from staged_record s, lateral jsonb_populate_record(null::${sql.identifier(section.table)}, s.row) r
        where s.workshop_id = ${of.workshopId} and s.transfer_id = ${of.id} and s.section = ${section.name} and s.no = ${no}`);
      stored += 1;
      after = no;
    }
  }
}

async function leftOut(tx: Transaction, of: Of): Promise<number> {
  let left = 0;
  for (const section of [...OF_VISIT, ...AFTER_SIGNING.map(sectionOf)]) {
    const { rows } = await tx.execute<{ n: string }>(
      sql.raw(`select count(*) as n from ${staged(of, section)} and ${fresh(of, section)}`),
    );
    left += Number(rows[0]!.n);
  }
  return left;
}
