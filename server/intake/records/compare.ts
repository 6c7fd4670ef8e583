import type { PgColumn } from "drizzle-orm/pg-core";
import { sql } from "drizzle-orm";
import type { Transaction } from "../../../db/client";
import { rowJson } from "../../open/records-out";
import { SECTIONS, type Section } from "../../open/sections";
import { FILE } from "./stage";

/** What was laid aside, held against what is here: the same, other, or new; and what has the name of a thing that is here already. */

type Runs = Pick<Transaction, "execute">;
export interface Of {
  readonly workshopId: string;
  readonly id: string;
}

/** A row that is here too, and says something else. */
export interface Differing {
  readonly section: string;
  readonly id: string;
  /** How people call it. */
  readonly name: string;
  /** What is different: ours and theirs, in short. */
  readonly what: readonly string[];
}

/** A thing of the file that has another number here, under the same name. */
export interface Double {
  readonly section: string;
  readonly theirs: string;
  readonly ours: string;
  readonly name: string;
}

export interface Compared {
  readonly fresh: number;
  readonly known: number;
  /** To be chosen between. */
  readonly differing: readonly Differing[];
  /** Of what never changes, or is changed by nobody but its own visit: ours stays. */
  readonly kept: number;
  readonly doubles: readonly Double[];
  /** What can’t be until somebody here does something. */
  readonly blocked: readonly string[];
}

/** Sections of which either side may be right. */
const CHOSEN = new Set(["models", "owners", "sites", "machines", "instruments", "spec_cards", "parts"]);
const MOST = 200;

const typed = ({ name, column }: { name: string; column: PgColumn }) => `(s.row->>'${name}')::${column.getSQLType()}`;

/** A row laid aside, s, and the one of ours with its key. @param ours what that goes by */
export function sameKey(section: Section, ours = "t"): string {
  const keys = section.key.map((k) => {
    const field = section.fields.find((f) => f.name === k)!;
    return `${ours}."${k}" ${field.column.notNull ? "=" : "is not distinct from"} ${typed(field)}`;
  });
  return keys.join(" and ");
}

/** Rows laid aside, as s. @param beside what they are joined with */
export const staged = ({ workshopId, id }: Of, section: Section, beside = "") =>
  `staged_record s${beside} where s.workshop_id = '${workshopId}' and s.transfer_id = '${id}' and s.section = '${section.name}'`;

/** A row laid aside that is not here. */
export const fresh = (of: Of, section: Section) =>
  `not exists (select from public."${section.table}" h where h.workshop_id = '${of.workshopId}' and ${sameKey(section, "h")})`;

/** Things that go by a name: two of one name are likely one thing. What the name is, of theirs in s and of ours in t. */
const NAMES: Readonly<Record<string, readonly [same: string, name: string]>> = {
  owners: [`lower(t.name) = lower(s.row->>'name')`, `s.row->>'name'`],
  sites: [`t.owner_id = (s.row->>'owner_id')::uuid and lower(t.name) = lower(s.row->>'name')`, `s.row->>'name'`],
  machines: [`lower(t.serial) = lower(s.row->>'serial')`, `s.row->>'serial'`],
  spec_cards: [`t.name = s.row->>'name'`, `s.row->>'name'`],
  parts: [`lower(t.name) = lower(s.row->>'name') and lower(t.number) = lower(s.row->>'number')`, `s.row->>'name'`],
  spec_versions: [
    `t.card_id = (s.row->>'card_id')::uuid and t.version = (s.row->>'version')::int`,
    `'version ' || (s.row->>'version')`,
  ],
  models: [`t.maker = s.row->>'maker' and t.name = s.row->>'name'`, `(s.row->>'maker') || ' ' || (s.row->>'name')`],
};

/** Inside its workshop. */
export async function compare(tx: Runs, of: Of): Promise<Compared> {
  const all = { fresh: 0, known: 0, kept: 0 };
  const differing: Differing[] = [];
  const doubles: Double[] = [];
  const ask = async <T extends Record<string, unknown>>(text: string) => (await tx.execute<T>(sql.raw(text))).rows;
  for (const section of SECTIONS) {
    const { name, table } = section;
    const ours = `${rowJson(section)}::jsonb`;
    const withOurs = (same: string) =>
      staged(of, section, ` join public."${table}" t on t.workshop_id = s.workshop_id and ${same}`);
    const both = `from ${withOurs(sameKey(section))}`;
    const [counts] = await ask<{ n: string; same: string; here: string }>(
      `select (select count(*) from ${staged(of, section)}) as n, count(*) as here, count(*) filter (where ${ours} = s.row - '${FILE}') as same ${both}`,
    );
    const [n, here, same] = [Number(counts!.n), Number(counts!.here), Number(counts!.same)];
    all.fresh += n - here;
    all.known += same;
    if (here > same && CHOSEN.has(name)) {
      const rows = await ask<{ id: string; ours: Record<string, unknown>; theirs: Record<string, unknown> }>(
        `select s.row->>'id' as id, ${ours} as ours, s.row as theirs ${both} and ${ours} <> s.row order by s.no limit ${MOST}`,
      );
      for (const row of rows)
        differing.push({ section: name, id: row.id, name: calledBy(row.theirs), what: differences(row) });
    } else all.kept += here - same;
    const names = NAMES[name];
    if (names)
      doubles.push(
        ...(
          await ask<{ theirs: string; ours: string; name: string }>(
            `select s.row->>'id' as theirs, t.id::text as ours, ${names[1]} as name from ${withOurs(names[0])} and t.id <> (s.row->>'id')::uuid and ${fresh(of, section)} order by s.no limit ${MOST}`,
          )
        ).map((d) => ({ section: name, ...d })),
      );
  }
  const open = await ask<{ serial: string }>(
    `select m.serial from staged_record s join job j on j.workshop_id = s.workshop_id and j.machine_id = (s.row->>'machine_id')::uuid and j.state = 'open' and j.id <> s.job_id
     join machine m on m.workshop_id = j.workshop_id and m.id = j.machine_id
     where s.workshop_id = '${of.workshopId}' and s.transfer_id = '${of.id}' and s.section = 'visits' and s.row->>'state' = 'open' limit ${MOST}`,
  );
  const blocked = open.map(
    (o) => `On ${o.serial} a visit is open here, and another in the file. Sign or withdraw the one here first.`,
  );
  return { ...all, differing, doubles, blocked };
}

function calledBy(row: Record<string, unknown>): string {
  const name = row.serial ?? row.name ?? row.id;
  return row.maker ? `${String(row.maker)} ${String(name)}` : String(name);
}

const SHORT = 60;
const said = (value: unknown) => {
  const text = typeof value === "string" ? value : JSON.stringify(value);
  return text.length > SHORT ? `${text.slice(0, SHORT - 1)}…` : text || "nothing";
};

function differences({ ours, theirs }: { ours: Record<string, unknown>; theirs: Record<string, unknown> }): string[] {
  return Object.keys(ours)
    .filter((k) => JSON.stringify(ours[k]) !== JSON.stringify(theirs[k]))
    .map((k) => `${k.replaceAll("_", " ")}: here ${said(ours[k])}, in the file ${said(theirs[k])}`);
}
