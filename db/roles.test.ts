import { sql } from "drizzle-orm";
import { servingUrl } from "../scripts/lib/postgres.mjs";
import { type Database, connect, poolOf } from "./client";
import { grantRoles } from "./roles";
import { job } from "./schema";
import { inWorkshop } from "./wall";

/** As the role that serves pages: what it can’t do, whatever is wrong with the application. */

let owner: Database;
let app: Database;

beforeAll(async () => {
  const url = new URL(process.env.DATABASE_URL!);
  url.searchParams.set("application_name", "nimble_gauge");
  owner = connect(url.href);
  expect(await grantRoles(owner)).toBe(true);
  app = connect(servingUrl(url.href));
});
afterAll(() => Promise.all([poolOf(owner).end(), poolOf(app).end()]));

const said = (statement: string) =>
  app.execute(sql.raw(statement)).then(
    () => "done",
    (error: Error & { cause?: Error }) => error.cause?.message ?? error.message,
  );

test("it is no superuser, owns nothing, and makes no roles or databases", async () => {
  const { rows } = await app.execute<{ who: string; strong: boolean; owns: number }>(sql`
    select current_user as who, (select rolsuper or rolcreaterole or rolcreatedb or rolbypassrls from pg_roles where rolname = current_user) as strong,
      (select count(*)::int from pg_class where relowner = (select oid from pg_roles where rolname = current_user)) as owns`);
  expect(rows[0]).toEqual({ who: "serve", strong: false, owns: 0 });
});

test.each([
  ["empties no table", "truncate reading", "permission denied"],
  ["takes no record away", "delete from reading", "permission denied"],
  ["takes no signature away", "delete from signature", "permission denied"],
  ["changes no reading", "update reading set value = value + 1", "permission denied"],
  ["changes no document", "update signature set document = '{}'", "permission denied"],
  ["changes no statement", "update seal set hash = ''", "permission denied"],
  ["changes no key", "delete from workshop_key", "permission denied"],
  ["switches no guard off", "alter table reading disable trigger all", "must be owner"],
  ["stands beside no guard", "set session_replication_role = replica", "permission denied"],
  ["makes no table", "create table own (id int)", "permission denied"],
  ["drops no table", "drop table reading", "must be owner"],
  ["changes no table", "alter table reading add column more int", "must be owner"],
  ["makes no function", "create function f() returns int language sql as 'select 1'", "permission denied"],
  ["becomes nobody else", "set role app", "permission denied"],
  ["reads no file", "copy note from '/etc/passwd'", "must be superuser"],
  ["reads no passwords of the server", "select * from pg_authid", "permission denied"],
])("it %s", async (_, statement, words) => expect(await said(statement)).toContain(words));

test("it gives itself no right: what it grants is granted to nobody", async () => {
  await said("grant delete on reading to serve");
  const { rows } = await app.execute<{ may: boolean }>(sql`select has_table_privilege('reading', 'delete') as may`);
  expect(rows[0]!.may).toBe(false);
});

test("and does what it is for: reads, adds and changes what changes", async () => {
  const [some] = await owner.select({ of: job.workshopId }).from(job).limit(1);
  expect(await inWorkshop(some!.of, async () => app.$count(job))).toBeGreaterThan(0);
  expect(await said("update session set seen_at = seen_at where false")).toBe("done");
  expect(await said("delete from session where false")).toBe("done");
});

test("a reader reads records, and nothing that opens an account", async () => {
  const as = (statement: string) =>
    owner
      .transaction(async (tx) => {
        await tx.execute(sql.raw("set local role gauge_reader"));
        await tx.execute(sql.raw(statement));
      })
      .then(
        () => "done",
        (error: Error & { cause?: Error }) => error.cause?.message ?? error.message,
      );
  expect(await as("select * from result limit 1")).toBe("done");
  for (const table of ["account", "session", "one_time_link", "owner_link"])
    expect(await as(`select * from ${table} limit 1`)).toContain("permission denied");
  expect(await as("insert into note default values")).toContain("permission denied");
});
