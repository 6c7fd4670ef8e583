import { createHash, createPublicKey, generateKeyPairSync, randomUUID, verify as verifyWith } from "node:crypto";
import { mkdtempSync, rmSync, statSync, truncateSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { eq, sql } from "drizzle-orm";
import { jest } from "@jest/globals";
import fc from "fast-check";
import { type Database, connect, poolOf } from "../../db/client";
import { dropIt, dumpTo, isEmptyDatabase, makeBeside, restoreInto } from "../../scripts/lib/dump.mjs";
import { acknowledgement, amendment, job, machine, ownerLink, seal, signature } from "../../db/schema";
import { linkTokenOf } from "../open-links";
import { database } from "../database";
import { FORGERIES, type Forgery } from "./forgeries.fixture";
import { isSignedBy, keyId, sha256, signText, signingKey } from "./keys";
import { recordOf } from "./owner-record";
import { lastLook } from "./memory";
import { sealEarlier, sealJob } from "./seal";
import { type Proof, proofIn, verify, verifyIn } from "./verify";

/**
 * A copy of the demo’s database, forged behind the application as whoever owns it could: every change is found, with what and where. Beside it
 * the record that an owner takes away, checked with nothing but Node’s crypto.
 */

jest.setTimeout(60_000);

let db: Database;
let url: string;
let folder: string;
/** A job with a record in most tables, and what its machine had before it. */
let jobId: string;
let serial: string;

beforeAll(async () => {
  // Other tests write into theirs, as nobody should: the one that was made for all of them is as the demo left it.
  const own = new URL(process.env.DATABASE_URL!);
  const from = own.pathname === "/unit" ? Object.assign(new URL(own), { pathname: "/demo" }) : own;
  folder = mkdtempSync(join(tmpdir(), "forged-"));
  const file = join(folder, "demo.dump");
  await dumpTo(from.href, file);
  url = await makeBeside(own.href, `forged_${randomUUID().slice(0, 8)}`);
  await restoreInto(url, file);
  db = connect(url);
  const [most] = await db
    .select({ jobId: seal.jobId, serial: machine.serial })
    .from(seal)
    .innerJoin(machine, eq(machine.id, seal.machineId))
    .where(sql`${seal.no} > 1 and exists (select from adjustment a where a.job_id = ${seal.jobId})`)
    .orderBy(sql`(select count(*) from reading r where r.job_id = ${seal.jobId}) desc`, seal.sequence)
    .limit(1);
  ({ jobId, serial } = most!);
}, 120_000);
afterAll(async () => {
  await poolOf(db).end();
  await poolOf(database()).end();
  await dropIt(url);
  rmSync(folder, { recursive: true });
});

/** What is said after a forgery, which is then undone. Guards stand aside: whoever has the database takes them away. */
async function after(forgery: string, proof: { is?: Proof } = {}, of = jobId): Promise<string[]> {
  let said: string[] = [];
  await db
    .transaction(async (tx) => {
      await tx.execute(sql`set local session_replication_role = replica`);
      await tx.execute(sql.raw(forgery));
      const { found } = await verifyIn(tx);
      const [its] = await tx.select({ workshopId: job.workshopId }).from(job).where(eq(job.id, of));
      proof.is = await proofIn(tx, its!.workshopId, of);
      said = found.filter((f) => f.job === of || f.job === "").map((f) => `${f.serial}: ${f.what}`);
      tx.rollback();
    })
    .catch((error: Error) => {
      if (!/rollback/i.test(error.message)) throw error;
    });
  return said;
}

test("as it was signed: nothing is found, and every signed job has its statement", async () => {
  const { seals, found, unsealed } = await verify(db);
  expect(found).toEqual([]);
  expect(unsealed).toBe(0);
  expect(seals).toBe(await db.$count(job, eq(job.state, "signed")));
  expect(seals).toBeGreaterThan(20);
});

/** A signed job with rows in a table: the one above where it has some. */
async function jobWith(table: string): Promise<string> {
  const only = table === "shot" ? "and not t.amends" : "";
  const { rows } = await db.execute<{ job: string }>(
    sql.raw(
      `select s.job_id as job from seal s where s.amends is null and exists (select from ${table} t where t.job_id = s.job_id ${only}) order by s.job_id <> '${jobId}', s.sequence limit 1`,
    ),
  );
  return rows[0]!.job;
}

test.each(FORGERIES.map((f): [string, Forgery] => [f.what, f]))("forged: %s", async (_, { table, statement, says }) => {
  const [proof, of]: [{ is?: Proof }, string] = [{}, await jobWith(table)];
  const said = await after(statement.replaceAll("$job", of), proof, of);
  // Every address that shows the visit says so at once.
  expect(proof.is!.holds).toBe(false);
  expect(said.join("\n")).toMatch(says);
});

test("the statement before it taken away is found by the look at the machine’s chain", async () => {
  const proof: { is?: Proof } = {};
  const said = await after(
    `delete from seal where (machine_id, no) in (select machine_id, no - 1 from seal where job_id = '${jobId}')`,
    proof,
  );
  expect(proof.is!.holds).toBe(true);
  expect(said.join("\n")).toMatch(/before it is missing/);
  expect(said[0]).toContain(serial);
});

test("what was done to the machine before is told with the visit: changed or taken away, it is found; what is done later is not", async () => {
  const put = (id: string, text: string) =>
    `insert into machine_change (id, workshop_id, machine_id, kind, done_on, text, by) select '${id}', workshop_id, machine_id, 'modification', '2026-01-02', '${text}', started_by from job where id = '${jobId}';`;
  const [before, later] = [randomUUID(), randomUUID()];
  // As it would be signed now, with the change on record.
  const statement = async (forgery: string) => {
    const said: string[] = [];
    await db
      .transaction(async (tx) => {
        await tx.execute(sql`set local session_replication_role = replica`);
        await tx.execute(sql.raw(put(before, "New pump head")));
        const [was] = await tx.select().from(seal).where(eq(seal.jobId, jobId));
        await tx.execute(sql`delete from seal where machine_id = ${was!.machineId} and no >= ${was!.no}`);
        await sealJob(tx, { workshopId: was!.workshopId, jobId, machineId: was!.machineId, at: was!.at });
        await tx.execute(sql.raw(forgery));
        const found = (await verifyIn(tx)).found.filter((f) => f.job === jobId);
        said.push(...found.map((f) => f.what));
        tx.rollback();
      })
      .catch((error: Error) => {
        if (!/rollback/i.test(error.message)) throw error;
      });
    return said.join("\n");
  };
  expect(await statement(put(later, "New wand"))).toBe("");
  expect(await statement(`update machine_change set text = 'New valve' where id = '${before}'`)).toMatch(/changed/);
  expect(await statement(`update machine_change set done_on = '2025-01-02' where id = '${before}'`)).toMatch(/changed/);
  expect(await statement(`delete from machine_change where id = '${before}'`)).toMatch(/machine_change .*: taken away/);
});

test("its statement taken away is an alarm wherever the visit is shown, before any look", async () => {
  const proof: { is?: Proof } = {};
  await after("select 1", proof);
  expect(proof.is).toMatchObject({ holds: true, serialThen: "" });
  await after(`delete from seal where job_id = '${jobId}'`, proof);
  expect(proof.is).toMatchObject({ holds: false, keyId: null });
});

test("another serial in the register is told beside what was signed", async () => {
  const proof: { is?: Proof } = {};
  await after(
    `update machine set serial = 'FORGED-1' where id = (select machine_id from job where id = '${jobId}')`,
    proof,
  );
  expect(proof.is).toMatchObject({ holds: true, serialThen: serial });
});

test("a key of the forger’s own, with its public half in the database, is not the workshop’s", async () => {
  const pair = generateKeyPairSync("ed25519");
  const publicKey = pair.publicKey.export({ type: "spki", format: "pem" }).toString();
  const [row] = await db.select().from(seal).where(eq(seal.jobId, jobId));
  const content = row!.content.replace('"version":1', '"version": 1');
  const signed = signText(content, { privateKey: pair.privateKey, publicKey, id: keyId(publicKey) });
  const said = await after(`
    insert into workshop_key (workshop_id, id, public_key) values ('${row!.workshopId}', '${keyId(publicKey)}', '${publicKey}');
    update seal set content = '${content.replaceAll("'", "''")}', hash = '${sha256(content)}', key_id = '${keyId(publicKey)}', signature = '${signed}' where job_id = '${jobId}'`);
  expect(said.join("\n")).toMatch(/names a key that is not the workshop’s/);
});

test("the newest statement taken off the end is missed at the next look", async () => {
  const heads = mkdtempSync(join(tmpdir(), "heads-"));
  expect((await verify(db, { memory: heads })).found).toEqual([]);
  let said: string[] = [];
  await db
    .transaction(async (tx) => {
      await tx.execute(sql`set local session_replication_role = replica`);
      await tx.execute(
        sql`delete from seal where (machine_id, no) = (select machine_id, max(no) from seal group by 1 order by 2 desc limit 1)`,
      );
      said = (await verifyIn(tx, { memory: heads })).found.map((f) => f.what);
      tx.rollback();
    })
    .catch(() => {});
  expect(said.join("\n")).toMatch(/seen at an earlier look, is gone/);
  rmSync(heads, { recursive: true });
});

describe("what is added after the signature", () => {
  let withShots: string;
  beforeAll(async () => {
    const { rows } = await db.execute<{ job: string }>(
      sql`select s.job_id as job from shot s join seal e on e.job_id = s.job_id where not s.amends order by s.id limit 1`,
    );
    withShots = rows[0]!.job;
  });

  const put = `insert into shot select (jsonb_populate_record(null::shot, to_jsonb(s) || jsonb_build_object(
    'id', gen_random_uuid(), 'amends', true, 'reason', 'Noted on paper.', 'supersedes', null, 'clock_id', null, 'sequence', 90))).*
    from shot s where s.scale_id is not null and s.job_id in (select job_id from seal) order by s.id limit 1`;

  /** Added as the application does, and with its statement; then forged, looked through, and all of it undone. */
  async function afterAdding(forgery: string): Promise<string[]> {
    let said: string[] = [];
    await db
      .transaction(async (tx) => {
        await tx.execute(sql.raw(put));
        const { rows } = await tx.execute<{ id: string; job: string; machine: string; workshop: string }>(sql`
          select s.id, s.job_id as job, j.machine_id as machine, s.workshop_id as workshop
          from shot s join job j on j.id = s.job_id where s.amends and s.sequence = 90`);
        const { id, job: jobOf, machine: machineId, workshop: workshopId } = rows[0]!;
        const at = new Date();
        await sealJob(tx, { workshopId, jobId: jobOf, machineId, at, amends: { table: "shot", id } });
        await tx.execute(sql`set local session_replication_role = replica`);
        await tx.execute(sql.raw(forgery.replaceAll("$id", id)));
        said = (await verifyIn(tx)).found.map((f) => f.what);
        tx.rollback();
      })
      .catch((error: Error) => {
        if (!/rollback/i.test(error.message)) throw error;
      });
    return said;
  }

  test.each([
    ["nothing", "select 1", /^$/],
    ["its cup", "update shot set pull = jsonb_set(pull, '{yield}', '99') where id = '$id'", /shot .*: changed/],
    ["its reason", "update shot set reason = 'None.' where id = '$id'", /shot .*: changed/],
    ["taken away", "delete from shot where id = '$id'", /shot .*: taken away/],
    [
      "its scale’s papers",
      `update instrument set error = '{"form":"limit","limit":0.001}' where id = (select scale_id from shot where id = '$id')`,
      /instrument .*: changed/,
    ],
    [
      "its statement",
      "update seal set content = replace(content, '\"no\"', '\"No\"') where amends = '$id'",
      /did not sign it/,
    ],
    [
      "its statement made another’s",
      "update seal set amends = gen_random_uuid() where amends = '$id'",
      /another addition/,
    ],
  ])("forged: %s", async (_, forgery, says) => expect((await afterAdding(forgery)).join("\n")).toMatch(says));

  test.each([
    ["words added: other words", "update amendment set text = 'All was well.'", /amendment .*: changed/],
    ["words added: about something else", "update amendment set about = 'other'", /amendment .*: changed/],
    ["words added: taken away", "delete from amendment", /amendment .*: taken away/],
    ["words added: by somebody else", "update amendment set by = gen_random_uuid()", /amendment .*: changed/],
    ["its name", "update acknowledgement set name = 'Somebody Else'", /acknowledgement .*: changed/],
    ["what was drawn", "update acknowledgement set drawing = drawing || '\\x00'::bytea", /acknowledgement .*: changed/],
    ["taken away", "delete from acknowledgement", /acknowledgement .*: taken away/],
    ["nothing", "select 1", /^$/],
  ])("added afterwards, forged: %s", async (what, forgery, says) => {
    let said = "";
    await db
      .transaction(async (tx) => {
        const [of] = await tx.select().from(seal).where(eq(seal.jobId, jobId));
        const id = randomUUID();
        const { workshopId, machineId } = of!;
        if (what.startsWith("words added")) {
          const words = randomUUID();
          const [by] = await tx.select({ by: job.startedBy }).from(job).where(eq(job.id, jobId));
          const at = new Date();
          await tx.insert(amendment).values({
            ...{ id: words, workshopId, jobId, at, by: by!.by },
            about: "reading",
            text: "Read again: 9.4 bar.",
          });
          await sealJob(tx, { ...{ workshopId, jobId, machineId, at }, amends: { table: "amendment", id: words } });
        }
        const drawn = { id, workshopId, jobId, name: "Vera Osk", drawing: Buffer.from([1, 2, 3]), at: new Date() };
        await tx.insert(acknowledgement).values(drawn);
        const amends = { table: "acknowledgement", id };
        await sealJob(tx, { workshopId, jobId, machineId, at: drawn.at, amends });
        await tx.execute(sql`set local session_replication_role = replica`);
        await tx.execute(sql.raw(forgery));
        said = (await verifyIn(tx)).found.map((f) => f.what).join("\n");
        tx.rollback();
      })
      .catch((error: Error) => {
        if (!/rollback/i.test(error.message)) throw error;
      });
    expect(said).toMatch(says);
  });

  test("in whatever order they come, additions are sound; one changed byte of one, and that one alone is not", async () => {
    await fc.assert(
      fc.asyncProperty(
        fc.array(fc.constantFrom("amendment", "acknowledgement", "shot"), { minLength: 1, maxLength: 5 }),
        fc.nat(),
        async (kinds, pick) => {
          await db
            .transaction(async (tx) => {
              const [of] = await tx.select().from(seal).where(eq(seal.jobId, withShots));
              const { workshopId, machineId } = of!;
              const [{ by }] = (await tx.select({ by: job.startedBy }).from(job).where(eq(job.id, withShots))) as [
                { by: string },
              ];
              const ids: string[] = [];
              for (const [i, table] of kinds.entries()) {
                const id = randomUUID();
                const at = new Date(Date.now() + i);
                const here = { id, workshopId, jobId: withShots, at };
                if (table === "amendment")
                  await tx.insert(amendment).values({ ...here, by, about: "reading", text: "Read again." });
                else if (table === "acknowledgement")
                  await tx
                    .insert(acknowledgement)
                    .values({ ...here, name: "Vera Osk", drawing: Buffer.from([1, 2, 3]) });
                else
                  await tx.execute(sql`
                    insert into shot select (jsonb_populate_record(null::shot, to_jsonb(s) || jsonb_build_object(
                      'id', ${id}::uuid, 'amends', true, 'reason', 'Noted on paper.', 'supersedes', null, 'clock_id', null, 'sequence', ${90 + i}::int))).*
                    from shot s where s.job_id = ${withShots} and not s.amends order by s.id limit 1`);
                await sealJob(tx, { workshopId, jobId: withShots, machineId, at, amends: { table, id } });
                ids.push(id);
              }
              const sound = await proofIn(tx, workshopId, withShots);
              expect([sound.holds, [...sound.sound].sort()]).toEqual([true, [...ids].sort()]);
              await tx.execute(sql`set local session_replication_role = replica`);
              const changed = pick % kinds.length;
              const set = {
                amendment: "text = text || '.'",
                acknowledgement: "name = name || '.'",
                shot: "reason = reason || '.'",
              };
              const table = kinds[changed] as keyof typeof set;
              await tx.execute(sql.raw(`update ${table} set ${set[table]} where id = '${ids[changed]}'`));
              const after = await proofIn(tx, workshopId, withShots);
              expect([after.holds, [...after.sound].sort()]).toEqual([
                true,
                ids.filter((_, i) => i !== changed).sort(),
              ]);
              tx.rollback();
            })
            .catch((error: Error) => {
              if (!/rollback/i.test(error.message)) throw error;
            });
        },
      ),
      { numRuns: 25 },
    );
  });

  test("put in behind the application: found where a workshop has all its statements, and given none later", async () => {
    const memory = mkdtempSync(join(tmpdir(), "complete-"));
    expect(await sealEarlier(db, { memory })).toBe(0);
    await db
      .transaction(async (tx) => {
        await tx.execute(sql.raw(put));
        expect(await sealEarlier(tx as unknown as Database, { memory })).toBe(0);
        const { found, unsealed } = await verifyIn(tx, { memory });
        expect(found.map((f) => f.what)).toEqual([expect.stringMatching(/^shot .*: put in, without a statement$/)]);
        expect(unsealed).toBe(0);
        const { rows } = await tx.execute<{ of: string }>(sql`select workshop_id as of from shot where sequence = 90`);
        expect(lastLook(memory, rows[0]!.of)).toMatchObject({ found: [{ what: found[0]!.what }], more: 0 });
        // By a version that made none, in a workshop that was not gone through yet.
        expect((await verifyIn(tx)).unsealed).toBe(1);
        expect(await sealEarlier(tx as unknown as Database)).toBe(1);
        expect(await verifyIn(tx)).toMatchObject({ found: [], unsealed: 0 });
        tx.rollback();
      })
      .catch((error: Error) => {
        if (!/rollback/i.test(error.message)) throw error;
      });
    rmSync(memory, { recursive: true });
  });
});

test("jobs signed before there were statements get theirs, in the order they were signed, and hold", async () => {
  const sealed = await db.$count(seal);
  const copy = await makeBeside(url, `earlier_${randomUUID().slice(0, 8)}`);
  const file = join(folder, "earlier.dump");
  await dumpTo(url, file);
  await restoreInto(copy, file);
  const earlier = connect(copy);
  await earlier.transaction(async (tx) => {
    await tx.execute(sql`set local session_replication_role = replica`);
    await tx.execute(sql`delete from seal`);
  });
  expect((await verify(earlier)).unsealed).toBe(sealed);
  expect(await sealEarlier(earlier)).toBe(sealed);
  expect(await sealEarlier(earlier)).toBe(0);
  expect(await verify(earlier)).toMatchObject({ seals: sealed, found: [], unsealed: 0 });
  const { rows } = await earlier.execute<{ wrong: number }>(sql`
    select count(*)::int as wrong from seal a join seal b on b.machine_id = a.machine_id and b.no = a.no + 1 where b.at < a.at`);
  expect(rows[0]!.wrong).toBe(0);
  await poolOf(earlier).end();
  await dropIt(copy);
}, 120_000);

/** The drill: what docs/running.md says of backups, done. */
describe("backup and restore", () => {
  test("taken while people write: one moment of the records, restored whole, and every signed record in it holds", async () => {
    let writing = true;
    let written = 0;
    const [of] = await db.select().from(job).where(eq(job.state, "open")).limit(1);
    const hands = (async () => {
      while (writing) {
        await db.execute(sql`insert into note (id, workshop_id, job_id, by, station, area, text)
          values (gen_random_uuid(), ${of!.workshopId}, ${of!.id}, ${of!.startedBy}, 'look-over', '', 'While it is taken.')`);
        written++;
      }
    })();
    const file = join(folder, "used.dump");
    await dumpTo(url, file);
    writing = false;
    await hands;
    expect(written).toBeGreaterThan(0);
    const copy = await makeBeside(url, `restored_${randomUUID().slice(0, 8)}`);
    expect(await isEmptyDatabase(copy)).toBe(true);
    await restoreInto(copy, file);
    expect(await isEmptyDatabase(copy)).toBe(false);
    const restored = connect(copy);
    const looked = await verify(restored);
    expect(looked.found).toEqual([]);
    expect(looked.seals).toBe(await db.$count(seal));
    // Guards come along: what is append-only there is append-only here.
    const change = restored.update(seal).set({ hash: "0".repeat(64) });
    await expect(change.catch((e: { cause?: unknown }) => Promise.reject(e.cause))).rejects.toThrow("append-only");
    await poolOf(restored).end();
    await dropIt(copy);
  }, 120_000);

  test("a file that was cut off restores nothing at all", async () => {
    const file = join(folder, "cut.dump");
    await dumpTo(url, file);
    truncateSync(file, Math.round(statSync(file).size * 0.7));
    const copy = await makeBeside(url, `cut_${randomUUID().slice(0, 8)}`);
    await expect(restoreInto(copy, file)).rejects.toThrow("pg_restore");
    expect(await isEmptyDatabase(copy)).toBe(true);
    await dropIt(copy);
  }, 120_000);
});

describe("what the owner takes away", () => {
  test("is checked by ten lines of Node’s crypto; one figure changed, and it is not what was signed", async () => {
    const [link] = await db.select().from(ownerLink).where(eq(ownerLink.jobId, jobId)).limit(1);
    const record = await recordFrom(linkTokenOf("owner", link!)!);
    // The whole check, as docs/records.md gives it.
    const publicKey = createPublicKey(record.publicKey);
    const id = createHash("sha256")
      .update(publicKey.export({ type: "spki", format: "der" }))
      .digest("hex");
    const isSigned = verifyWith(
      null,
      Buffer.from(record.statement),
      publicKey,
      Buffer.from(record.signature, "base64"),
    );
    const isWhole =
      createHash("sha256").update(record.document).digest("hex") === JSON.parse(record.statement).document;
    expect([id === record.keyId, isSigned, isWhole]).toEqual([true, true, true]);
    const [signed] = await db.select().from(signature).where(eq(signature.jobId, jobId));
    expect(JSON.parse(record.document)).toEqual(signed!.document);
  });

  /** Of the copy: the application’s own pool is on the other one. */
  async function recordFrom(token: string) {
    expect(await recordOf("x")).toBeNull();
    const found = await recordOf(token);
    if (!found) throw new Error("no record");
    return found;
  }

  // RFC 8032, 7.1, test 2 (from memory): a published key, message and signature.
  test("Ed25519 is that of RFC 8032: its second test vector", () => {
    const der = Buffer.concat([
      Buffer.from("302a300506032b6570032100", "hex"),
      Buffer.from("3d4017c3e843895a92b70aa74d1b7ebc9c982ccf2ec4968cc0cd55f12af4660c", "hex"),
    ]);
    const pem = `-----BEGIN PUBLIC KEY-----\n${der.toString("base64")}\n-----END PUBLIC KEY-----\n`;
    const good = Buffer.from(
      "92a009a9f0d4cab8720e820b5f642540a2b27b5416503f8fb3762223ebdb69da085ac1e43e15996e458f3613d0f11d8c387b2eaeb4302aeeb00d291612bb0c00",
      "hex",
    ).toString("base64");
    expect(isSignedBy("\x72", good, pem)).toBe(true);
    expect(isSignedBy("\x73", good, pem)).toBe(false);
    expect(isSignedBy("\x72", "nonsense", pem)).toBe(false);
  });

  test("a workshop’s key stays the same, and its private half is not in the database", async () => {
    const id = randomUUID();
    expect(signingKey(id).id).toBe(signingKey(id).id);
    const { rows } = await db.execute<{ n: number }>(
      sql`select count(*)::int as n from workshop_key where public_key like '%PRIVATE%'`,
    );
    expect(rows[0]!.n).toBe(0);
  });
});
