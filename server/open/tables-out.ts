import type { Readable } from "node:stream";
import type pg from "pg";
import { to as copyTo } from "pg-copy-streams";
import type { OpenColumn, OpenTable } from "../../db/open/table";
import { FORMULA_START } from "../formula";
import { type Scope, machinesOf } from "./scope";

/** The open tables as they are copied out of the database: CSV by PostgreSQL itself. */

const NUMBER = `^[-+]?[0-9]+([.,][0-9]+)?$`;

/** How moments are spelt wherever a table leaves the database: ISO 8601 in UTC. */
export const momentText = (column: string) => `to_char(${column} at time zone 'UTC', 'YYYY-MM-DD"T"HH24:MI:SS.MS"Z"')`;

function cell({ name, type }: OpenColumn): string {
  if (type === "moment") return `${momentText(name)} as ${name}`;
  if (type === "yes") return `${name}::text as ${name}`;
  if (type !== "text") return name;
  return `case when ${name} ~ '${FORMULA_START}' and ${name} !~ '${NUMBER}' then '''' || ${name} else ${name} end as ${name}`;
}

/** Which rows of it are of the scope. What is the workshop’s alone goes with all of it; of its instruments those that are built in. */
function within(table: OpenTable, scope: Scope): string {
  const machines = machinesOf(scope);
  if (!machines) return "true";
  if (table.name === "instrument")
    return `(machine_id in (${machines}) or id in (select instrument_id from records.reading where of_machine in (${machines})))`;
  return table.machine ? `of_machine in (${machines})` : "false";
}

/** @param workshopId a UUID */
export const rowsOf = (table: OpenTable, scope: Scope, workshopId: string) =>
  `from records.${table.name} where workshop_id = '${workshopId}' and ${within(table, scope)}`;

export async function countRows(client: pg.Client, table: OpenTable, scope: Scope, workshopId: string) {
  const { rows } = await client.query<{ n: string }>(`select count(*) as n ${rowsOf(table, scope, workshopId)}`);
  return Number(rows[0]!.n);
}

/** One table as CSV with heads, line ends as PostgreSQL has them. */
export function csvOf(client: pg.Client, table: OpenTable, scope: Scope, workshopId: string): Readable {
  const order = table.key.join(", ");
  return client.query(
    copyTo(
      `copy (select ${table.columns.map(cell).join(", ")} ${rowsOf(table, scope, workshopId)} order by ${order}) to stdout (format csv, header, encoding 'UTF8')`,
    ),
  );
}
