import { randomUUID } from "node:crypto";
import { eq, sql } from "drizzle-orm";
import { servingUrl } from "../scripts/lib/postgres.mjs";
import { type Database, connect, poolOf, transact } from "./client";
import { workshopBehind, workshopIds } from "./queries/doors";
import { grantRoles } from "./roles";
import { account, job, machine, note, ownerLink, workshop } from "./schema";
import { inWorkshop, outside } from "./wall";

/** As the role that serves pages, with queries that forget what they should not. */

let owner: Database;
let app: Database;
let ours: string;
let theirs: string;

beforeAll(async () => {
  const url = new URL(process.env.DATABASE_URL!);
  url.searchParams.set("application_name", "nimble_gauge");
  owner = connect(url.href);
  await grantRoles(owner);
  app = connect(servingUrl(url.href));
  const { rows } = await owner.execute<{ id: string }>(
    sql`select workshop_id as id from job where state = 'signed' group by 1 order by count(*) desc limit 2`,
  );
  [ours, theirs] = [rows[0]!.id, rows[1]!.id];
});
afterAll(() => Promise.all([poolOf(owner).end(), poolOf(app).end()]));

const tables = async () => {
  const { rows } = await owner.execute<{ name: string; walled: boolean; policies: number; own: boolean }>(sql`
    select c.relname as name, c.relrowsecurity as walled,
      (select count(*)::int from pg_policy p where p.polrelid = c.oid) as policies,
      exists (select from pg_attribute a where a.attrelid = c.oid and a.attname = 'workshop_id' and not a.attisdropped) as own
    from pg_class c where c.relnamespace = 'public'::regnamespace and c.relkind = 'r' order by 1`);
  return rows;
};
const countIn = async (db: Database, table: string, where = "true") => {
  const { rows } = await db.execute<{ n: number }>(sql.raw(`select count(*)::int as n from ${table} where ${where}`));
  return rows[0]!.n;
};
const said = (work: PromiseLike<unknown>) =>
  Promise.resolve(work).then(
    () => "done",
    (error: Error & { cause?: Error }) => error.cause?.message ?? error.message,
  );

test("stands around every table; only the count of tries at signing in is nobody’s", async () => {
  const open = (await tables()).filter((t) => !t.walled || t.policies !== 1).map((t) => t.name);
  expect(open).toEqual(["sign_in_attempt"]);
});

test("a query that forgets its WHERE finds nothing while no workshop is named", async () => {
  let behind = 0;
  for (const { name } of (await tables()).filter((t) => t.walled)) {
    expect([name, await countIn(app, name)]).toEqual([name, 0]);
    behind += await countIn(owner, name);
  }
  expect(behind).toBeGreaterThan(1000);
});

test("and in a workshop that one’s rows, all of them, and nobody else’s", async () => {
  let others = 0;
  for (const { name } of (await tables()).filter((t) => t.own)) {
    const mine = await countIn(owner, name, `workshop_id = '${ours}'`);
    expect([name, await inWorkshop(ours, () => countIn(app, name))]).toEqual([name, mine]);
    others += (await countIn(owner, name)) - mine;
  }
  expect(others).toBeGreaterThan(20);
  expect(await inWorkshop(ours, () => app.select({ id: workshop.id }).from(workshop))).toEqual([{ id: ours }]);
});

test("sessions and devices are walled through whose they are", async () => {
  for (const table of ["session", "known_device"]) {
    const [person] = await owner
      .select({ id: account.id })
      .from(account)
      .where(eq(account.workshopId, theirs))
      .limit(1);
    const hash = `wall ${randomUUID()}`;
    const extra = table === "session" ? [", expires_at", ", now() + interval '1 day'"] : ["", ""];
    const put = sql.raw(
      `insert into ${table} (token_hash, account_id${extra[0]}) values ('${hash}', '${person!.id}'${extra[1]})`,
    );
    expect(await said(inWorkshop(ours, () => transact(app, (tx) => tx.execute(put))))).toMatch(/row-level security/);
    expect(await said(inWorkshop(theirs, () => transact(app, (tx) => tx.execute(put))))).toBe("done");
    expect(await inWorkshop(theirs, () => countIn(app, table, `token_hash = '${hash}'`))).toBe(1);
    expect(await inWorkshop(ours, () => countIn(app, table, `token_hash = '${hash}'`))).toBe(0);
    await owner.execute(sql.raw(`delete from ${table} where token_hash = '${hash}'`));
  }
});

test("rows of another workshop are neither made nor changed nor taken out", async () => {
  const [strange] = await owner.select().from(job).where(eq(job.workshopId, theirs)).limit(1);
  const write = (work: Parameters<typeof transact<unknown>>[1]) => inWorkshop(ours, () => transact(app, work));
  const { workshopId, id: jobId } = strange!;
  const [person] = await owner.select({ id: account.id }).from(account).where(eq(account.workshopId, theirs)).limit(1);
  const written = { id: randomUUID(), workshopId, jobId, station: "", text: "Strange.", by: person!.id };
  expect(await said(write((tx) => tx.insert(note).values({ ...written, at: new Date() })))).toMatch(
    /row-level security/,
  );
  const touched = await inWorkshop(ours, () =>
    transact(app, (tx) =>
      tx
        .update(machine)
        .set({ serial: sql`serial` })
        .returning({ of: machine.workshopId }),
    ),
  );
  expect(new Set(touched.map((r) => r.of))).toEqual(new Set([ours]));
  const moved = write((tx) => tx.update(machine).set({ workshopId: theirs }));
  expect(await said(moved)).toMatch(/row-level security|violates foreign key/);
});

test("what only asks can’t write, and a lookup built beforehand asks behind the wall of whoever waits for it", async () => {
  const asking = inWorkshop(ours, () => app.update(account).set({ name: "Forged" }));
  expect(await said(asking)).toMatch(/read-only transaction/);
  const lookup = app.select({ of: job.workshopId }).from(job).limit(5).prepare("wall_lookup");
  const [mine, other, none] = await Promise.all([
    inWorkshop(ours, () => lookup.execute()),
    inWorkshop(theirs, () => lookup.execute()),
    lookup.execute(),
  ]);
  expect([mine, other].map((rows) => new Set(rows.map((r) => r.of)))).toEqual([new Set([ours]), new Set([theirs])]);
  expect(none).toEqual([]);
});

test("many of both at once over few connections, and none remembers the one before", async () => {
  const asked = await Promise.all(
    Array.from({ length: 200 }, (_, i) => {
      const [id, other] = i % 2 ? [ours, theirs] : [theirs, ours];
      return inWorkshop(id, async () => {
        const seen = await app.selectDistinct({ of: job.workshopId }).from(job);
        const after = await inWorkshop(other, () => app.selectDistinct({ of: job.workshopId }).from(job));
        const without = await outside(() => countIn(app, "job"));
        return (
          [seen.map((r) => r.of), after.map((r) => r.of), without, await countIn(app, "workshop")].flat().join() ===
          [id, other, 0, 1].join()
        );
      });
    }),
  );
  expect(asked).toEqual(asked.map(() => true));
  expect(await countIn(app, "job")).toBe(0);
});

test("a write that fails leaves nothing named behind, and its connection serves the next", async () => {
  await expect(
    inWorkshop(ours, () =>
      transact(app, async (tx) => {
        await tx.execute(sql`select 1 / 0`);
      }),
    ),
  ).rejects.toThrow();
  for (let i = 0; i < 12; i++) expect(await countIn(app, "job")).toBe(0);
});

test("it can’t be switched off by who stands before it", async () => {
  const off = outside(() =>
    transact(app, async (tx) => {
      await tx.execute(sql`set local row_security = off`);
      await tx.execute(sql`select * from job`);
    }),
  );
  expect(await said(off)).toMatch(/row-level security/);
  expect(await said(app.execute(sql`alter table job disable row level security`))).toMatch(/must be owner/);
  expect(await said(app.execute(sql`drop policy by_workshop on job`))).toMatch(/must be owner/);
});

test("its doors tell whose a secret is and nothing else, and are the application’s alone", async () => {
  const [person] = await owner.select().from(account).where(eq(account.workshopId, theirs)).limit(1);
  expect(await workshopBehind(app, "email", person!.email)).toBe(theirs);
  const [link] = await owner.select().from(ownerLink).limit(1);
  expect(await workshopBehind(app, "owner", link!.tokenHash)).toBe(link!.workshopId);
  for (const door of ["session", "email", "device", "link", "tablet", "owner"] as const)
    expect(await workshopBehind(app, door, "nobody’s")).toBeNull();
  expect((await workshopIds(app)).toSorted()).toEqual((await workshopIds(owner)).toSorted());
  const reader = owner.transaction(async (tx) => {
    await tx.execute(sql`set local role gauge_reader`);
    await tx.execute(sql`select workshop_ids()`);
  });
  expect(await said(reader)).toMatch(/permission denied/);
});

test("a reader sees the workshop it names, and none without", async () => {
  const seen = (named: string) =>
    owner.transaction(async (tx) => {
      await tx.execute(sql`set local role gauge_reader`);
      await tx.execute(sql`select set_config('gauge.workshop', ${named}, true)`);
      const { rows } = await tx.execute<{ of: string }>(sql`select distinct workshop_id as of from result`);
      return rows.map((r) => r.of);
    });
  expect(await seen("")).toEqual([]);
  expect(await seen(ours)).toEqual([ours]);
});

test("what is no id is not named", async () => {
  await expect(inWorkshop("x'; drop table job; --", async () => 1)).rejects.toThrow("UUID");
});
