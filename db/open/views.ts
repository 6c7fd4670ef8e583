import { createHash } from "node:crypto";
import type { ClientBase } from "pg";
import { ONLY, OPEN_TABLES } from "./tables";
import type { OpenTable } from "./table";

/** The open tables as views. They see what whoever asks may see: the wall between workshops stands before them too. */

const SCHEMA = "records";

/** The statement that makes a table’s view. */
export function viewOf({ name, from, machine, columns }: OpenTable): string {
  const listed = columns.map((c) => `${c.sql} as ${c.name}`);
  const wall = ["t.workshop_id as workshop_id", `${machine ?? "null::uuid"} as of_machine`];
  const only = ONLY[name] ? ` where ${ONLY[name]}` : "";
  return `create or replace view ${SCHEMA}.${name} with (security_invoker = true) as select ${[...wall, ...listed].join(", ")} from ${from}${only}`;
}

/**
 * Makes the views, where they are not those of this version: all of them, or none. Nobody who asks them waits where nothing changed.
 *
 * @param client as whoever owns the tables
 */
export async function makeViews(client: ClientBase): Promise<void> {
  const statements = OPEN_TABLES.map((table) => [
    viewOf(table),
    `drop view ${SCHEMA}.${table.name}; ${viewOf(table)}`,
    `comment on view ${SCHEMA}.${table.name} is '${table.about.replaceAll("'", "''")}'`,
  ]);
  const version = `Open tables ${createHash("sha256").update(JSON.stringify(statements)).digest("hex").slice(0, 12)}`;
  await client.query(`create schema if not exists ${SCHEMA}`);
  const { rows } = await client.query<{ version: string | null }>(
    `select obj_description('${SCHEMA}'::regnamespace) as version`,
  );
  if (rows[0]!.version === version) return;
  await client.query("begin");
  try {
    for (const [make, again, comment] of statements) {
      await client.query("savepoint one");
      await client.query(make!).catch(async (error: { code?: string }) => {
        // A view keeps the columns it has: one that must change is made from nothing.
        if (error.code !== "42P16") throw error;
        await client.query(`rollback to one; ${again}`);
      });
      await client.query(comment!);
    }
    await client.query(`comment on schema ${SCHEMA} is '${version}'`);
    await client.query("commit");
  } catch (error) {
    await client.query("rollback");
    throw error;
  }
}
