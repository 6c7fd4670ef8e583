import { sql } from "drizzle-orm";
import type { Database } from "./client";

/**
 * Who may do what in the database: whoever migrates owns its tables; the application adds and reads, and changes only what is meant to change;
 * a reader asks. Records can be neither taken away nor emptied, no guard switched off and no table made, by what serves pages.
 */

export const APP_ROLE = "gauge_app";
export const READER_ROLE = "gauge_reader";

/** Tables in which the application changes rows, and those it takes rows out of. Of all others it only adds. */
const CHANGES = [
  "account",
  "api_token",
  "calendar_link",
  "command",
  "file_shape",
  "instrument",
  "job",
  "machine",
  "machine_response",
  "model",
  "model_response",
  "one_time_link",
  "owner",
  "owner_link",
  "part",
  "passkey",
  "session",
  "sign_in_attempt",
  "site",
  "spec_card",
  "staged_record",
  "timer",
  "transfer",
  "workshop",
];
const TAKES_OUT = [
  "bench_tablet",
  "command",
  "known_device",
  "paper",
  "passkey",
  "session",
  "sign_in_attempt",
  "staged_record",
];
/** What opens accounts is nobody’s to read for a report. */
const SECRET = [
  "account",
  "account_event",
  "api_token",
  "bench_tablet",
  "calendar_link",
  "command",
  "known_device",
  "one_time_link",
  "owner_link",
  "passkey",
  "session",
  "sign_in_attempt",
];

/**
 * Sets the rights anew, after every migration. Roles without a login of their own: whoever keeps the server makes one in them.
 *
 * @returns false where whoever migrates may make no roles and nobody has made them: the application works as the owner then
 */
export async function grantRoles(db: Database): Promise<boolean> {
  const { rows } = await db.execute<{ may: boolean; there: number }>(sql`
    select (select rolsuper or rolcreaterole from pg_roles where rolname = current_user) as may,
      (select count(*)::int from pg_roles where rolname in (${APP_ROLE}, ${READER_ROLE})) as there`);
  const { may, there } = rows[0]!;
  if (!may && there < 2) return false;
  const run = (text: string) => db.execute(sql.raw(text));
  for (const role of [APP_ROLE, READER_ROLE]) {
    // Two starts at one moment: the second finds it made.
    if (may) await run(`do $$ begin create role ${role} nologin; exception when duplicate_object then null; end $$`);
    await run(`revoke all on all tables in schema public from ${role}`);
    await run(`grant usage on schema public to ${role}`);
  }
  await run(`grant select, insert on all tables in schema public to ${APP_ROLE}`);
  await run(`grant usage on all sequences in schema public to ${APP_ROLE}`);
  await run(
    `grant execute on function workshop_behind, workshop_ids, taken_elsewhere, waiting_transfers to ${APP_ROLE}`,
  );
  await run(`grant update on ${CHANGES.join(", ")} to ${APP_ROLE}`);
  await run(`grant delete on ${TAKES_OUT.join(", ")} to ${APP_ROLE}`);
  await run(`grant select on all tables in schema public to ${READER_ROLE}`);
  await run(`revoke all on ${SECRET.join(", ")} from ${READER_ROLE}`);
  // The open tables say who did what, by name.
  await run(`grant select (id, workshop_id, name, role) on account to ${READER_ROLE}`);
  for (const role of [APP_ROLE, READER_ROLE]) {
    await run(`grant usage on schema records to ${role}`);
    await run(`grant select on all tables in schema records to ${role}`);
  }
  return true;
}
