import { randomUUID } from "node:crypto";
import { createWriteStream, mkdirSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { pipeline } from "node:stream/promises";
import { ZipArchive } from "archiver";
import { and, eq, sql } from "drizzle-orm";
import { dropIt, dumpTo, makeBeside, restoreInto } from "../../../scripts/lib/dump.mjs";
import { poolOf } from "../../../db/client";
import { machine, note, owner, photo, reading, signature, stagedRecord } from "../../../db/schema";
import { inWorkshop } from "../../../db/wall";
import type { SignedIn } from "../../auth";
import { database } from "../../database";
import { personOf } from "../../jobs/person-of";
import { sha256 } from "../../proof/keys";
import { verify } from "../../proof/verify";
import { ownWorkshop } from "../../open/own-workshop";
import type { Scope } from "../../open/scope";
import { takeOut } from "../../open/take-out";
import { transferOf } from "../../open/transfers";
import { chooseRecords, storeRecords } from "../answers";
import { takeIn } from "../arrive";
import { fileOf } from "../files";
import { closeQueue } from "../queue";
import { workOn } from "../work";
import { piecesOf } from "./parse";
import { renamed } from "./stage";
import { folderOf, unpack } from "./unpack";
import { recordsFoundOf } from "./work";

/** Everything out of one workshop and into another: the same again, and nothing twice. */

const folder = mkdtempSync(join(tmpdir(), "records-"));
process.env.TRANSFER_FOLDER = folder;
// In a database of its own: a second workshop with the same serials and models would be found by tests that look for them.
const own = new URL(process.env.DATABASE_URL!);
// As the demo left it: others write into theirs.
const home = own.pathname === "/unit" ? Object.assign(own, { pathname: "/demo" }).href : own.href;
const beside = await makeBeside(home, `records_${randomUUID().slice(0, 8)}`);
await dumpTo(home, join(folder, "home.dump"));
await restoreInto(beside, join(folder, "home.dump"));
process.env.DATABASE_URL = beside;
const db = database();
let there: SignedIn;
beforeAll(async () => {
  there = await personOf("ilka@lowtide.example");
});
afterAll(async () => {
  await closeQueue();
  rmSync(folder, { recursive: true });
  await poolOf(db).end();
  await dropIt(beside);
});

/** Takes records out of somebody’s workshop. @returns the file */
async function exported(
  { workshop: { id: workshopId } }: SignedIn,
  scope: Scope = { of: "workshop" },
): Promise<string> {
  const path = join(folder, `${randomUUID()}.zip`);
  const stop = new AbortController().signal;
  await inWorkshop(workshopId, async () =>
    pipeline(
      takeOut({ workshopId, scope, shape: "records", tell: () => {}, stop, now: new Date() }),
      createWriteStream(path),
    ),
  );
  return path;
}
async function documentIn(zip: string) {
  const id = randomUUID();
  writeFileSync(fileOf(id), readFileSync(zip));
  await unpack(id);
  const text = readFileSync(join(folderOf(id), "records.json"), "utf8");
  return { text, json: JSON.parse(text) as Record<string, Record<string, unknown>[]>, folder: folderOf(id) };
}
async function arrived(by: SignedIn, content: Buffer, name = "records.zip") {
  const id = randomUUID();
  writeFileSync(fileOf(id), content);
  await inWorkshop(by.workshop.id, () => takeIn(by, id, { name, bytes: content.length }));
  await inWorkshop(by.workshop.id, () => workOn(by.workshop.id, id));
  return id;
}
const rowOf = async (by: SignedIn, id: string) =>
  (await inWorkshop(by.workshop.id, () => transferOf(by.workshop.id, id)))!;
const foundOf = async (by: SignedIn, id: string) => recordsFoundOf(await rowOf(by, id));
async function stored(by: SignedIn, id: string) {
  await inWorkshop(by.workshop.id, () => storeRecords(by, id));
  await inWorkshop(by.workshop.id, () => workOn(by.workshop.id, id));
  return rowOf(by, id);
}

/** What an export says beside what is declared to change: when it was made, the workshop it was made of, its keys and statements. */
function compared(text: string): string {
  return text
    .replace(/"made_at":"[^"]*"/, "")
    .replace(/"workshop":\{.*\},\n/, "")
    .replace(/,\n"keys":\[[\s\S]*$/, "");
}

test("out of a workshop, into an empty one, and out again: byte for byte the same but for names that were taken", async () => {
  const visit = await db.execute<{ id: string }>(
    sql`select id from job where workshop_id = ${there.workshop.id} and state = 'open' limit 1`,
  );
  const data = Buffer.from("RIFF picture");
  await db.insert(photo).values({
    ...{
      id: randomUUID(),
      workshopId: there.workshop.id,
      jobId: visit.rows[0]!.id,
      by: there.id,
      station: "look-over",
    },
    ...{ mime: "image/webp", width: 1, height: 1, size: data.length, data },
  });
  const zip = await exported(there);
  const first = await documentIn(zip);
  const here = await ownWorkshop(db);
  const id = await arrived(here, readFileSync(zip));
  const found = await foundOf(here, id);
  expect(found).toMatchObject({ known: 0, kept: 0, differing: [], doubles: [], blocked: [], misfits: [] });
  expect(found.signed).toBe(first.json.signatures!.length);
  // Each signed visit is proven by the key of the workshop it came from.
  expect(found.proven).toBe(found.signed);
  expect(found.signed).toBeGreaterThan(50);
  const done = await stored(here, id);
  expect([done.state, done.said]).toEqual(["done", `Imported: ${found.rows} records.`]);

  const second = await documentIn(await exported(here));
  // Names were taken, in this database; a signed document with other names has another hash.
  const wanted = renamed(compared(first.text), here.workshop.id, { anew: true, same: {} }).replace(
    /"hash" : "([0-9a-f]{64})"/g,
    '"hash" : "…"',
  );
  const got = compared(second.text).replace(/"hash" : "([0-9a-f]{64})"/g, '"hash" : "…"');
  const own = `{"id" : "${here.id}", "name" : "${here.name}", "role" : "lead"}`;
  const lines = (text: string) =>
    text
      .split("\n")
      .map((l) => l.replace(/\]?,?$/, ""))
      .filter((l) => l !== own)
      .sort();
  expect(lines(got)).toEqual(lines(wanted));
  for (const row of await db.select().from(signature).where(eq(signature.workshopId, here.workshop.id)).limit(5)) {
    const { rows } = await db.execute<{ text: string }>(
      sql`select document::text as text from signature where workshop_id = ${here.workshop.id} and job_id = ${row.jobId}`,
    );
    expect(sha256(rows[0]!.text)).toBe(row.hash);
  }
  const pictures = await db.$count(photo, eq(photo.workshopId, here.workshop.id));
  expect(pictures).toBe(first.json.photos!.length);
  // Its own statements stand under what was signed elsewhere, and hold.
  const { found: forged } = await verify(db);
  expect(forged.filter((f) => f.workshop === here.workshop.name)).toEqual([]);
  expect(second.json.statements!.length).toBeGreaterThanOrEqual(found.signed!);

  // The same file again: all of it is here.
  const again = await arrived(here, readFileSync(zip));
  expect(await foundOf(here, again)).toMatchObject({ fresh: 0, kept: 0, differing: [], doubles: [] });
  expect((await stored(here, again)).said).toBe("Imported: 0 records.");
  // What was laid aside is gone.
  expect(await db.$count(stagedRecord, eq(stagedRecord.workshopId, here.workshop.id))).toBe(0);
}, 180_000);

/** A machine of the demo: which of all comes first is other tests’ doing. */
const OF_THE_DEMO = "BV-20077";

describe("merging", () => {
  test("what is different on both sides is listed, and chosen; what never changes stays", async () => {
    const here = await ownWorkshop(db);
    const [one] = await db
      .select()
      .from(machine)
      .where(and(eq(machine.workshopId, there.workshop.id), eq(machine.serial, OF_THE_DEMO)))
      .limit(1);
    const zip = readFileSync(await exported(there, { of: "machine", id: one!.id }));
    await stored(here, await arrived(here, zip));
    const [copy] = await db.select().from(machine).where(eq(machine.workshopId, here.workshop.id));
    await db.update(machine).set({ coffee: "Something else", grinder: "Another" }).where(eq(machine.id, copy!.id));
    const id = await arrived(here, zip);
    const found = await foundOf(here, id);
    expect(found.differing).toEqual([
      {
        section: "machines",
        id: copy!.id,
        name: one!.serial,
        what: [
          `coffee: here Something else, in the file ${one!.coffee || "nothing"}`,
          `grinder: here Another, in the file ${one!.grinder || "nothing"}`,
        ],
      },
    ]);
    await expect(inWorkshop(here.workshop.id, () => storeRecords(here, id))).rejects.toThrow("Choose");
    await inWorkshop(here.workshop.id, () => chooseRecords(here, id, { choice: { 0: "theirs" }, same: [] }));
    await stored(here, id);
    const [after] = await db.select().from(machine).where(eq(machine.id, copy!.id));
    expect([after!.coffee, after!.grinder]).toEqual([one!.coffee, one!.grinder]);
  });

  test("the same thing under another number is asked about, never taken for the same by its name", async () => {
    const here = await ownWorkshop(db);
    const [theirs] = await db
      .select()
      .from(owner)
      .where(eq(owner.workshopId, there.workshop.id))
      .orderBy(owner.name)
      .limit(1);
    const ours = randomUUID();
    await db.insert(owner).values({ id: ours, workshopId: here.workshop.id, name: theirs!.name.toUpperCase() });
    const zip = readFileSync(await exported(there, { of: "owner", id: theirs!.id }));
    const id = await arrived(here, zip);
    const { doubles } = await foundOf(here, id);
    expect(doubles).toMatchObject([{ section: "owners", ours, name: theirs!.name }]);
    await expect(inWorkshop(here.workshop.id, () => storeRecords(here, id))).rejects.toThrow("Say");
    await inWorkshop(here.workshop.id, () => chooseRecords(here, id, { choice: {}, same: [0] }));
    await inWorkshop(here.workshop.id, () => workOn(here.workshop.id, id));
    // It is one of ours now that differs from theirs: ours stays.
    const after = await foundOf(here, id);
    expect(after.doubles).toEqual([]);
    const choice = Object.fromEntries((after.differing ?? []).map((_, i) => [i, "ours" as const]));
    await inWorkshop(here.workshop.id, () => chooseRecords(here, id, { choice, same: [] }));
    expect((await stored(here, id)).state).toBe("done");
    expect(await db.$count(owner, eq(owner.workshopId, here.workshop.id))).toBe(1);
    const sites = await db.execute<{ owner_id: string }>(
      sql`select distinct owner_id from site where workshop_id = ${here.workshop.id}`,
    );
    expect(sites.rows).toEqual([{ owner_id: ours }]);
  });

  test("what of a visit was written since comes with the next file", async () => {
    const here = await ownWorkshop(db);
    const { rows } = await db.execute<{ id: string; machine: string }>(
      sql`select id, machine_id as machine from job where workshop_id = ${there.workshop.id} and state = 'open' order by id limit 1`,
    );
    const [open] = rows;
    await stored(here, await arrived(here, readFileSync(await exported(there, { of: "machine", id: open!.machine }))));
    const text = `Written later ${randomUUID()}`;
    await db.insert(note).values({
      ...{ id: randomUUID(), workshopId: there.workshop.id, jobId: open!.id, by: there.id, station: "look-over", text },
    });
    const id = await arrived(here, readFileSync(await exported(there, { of: "machine", id: open!.machine })));
    expect((await foundOf(here, id)).fresh).toBeGreaterThanOrEqual(1);
    await stored(here, id);
    const notes = await db.select().from(note).where(eq(note.text, text));
    expect(notes.map((n) => n.workshopId).sort()).toEqual([there.workshop.id, here.workshop.id].sort());
  });
});

describe("refused", () => {
  const zipOf = async (files: Record<string, string | Buffer>, level = 9) => {
    const path = join(folder, `${randomUUID()}.zip`);
    const zip = new ZipArchive({ zlib: { level } });
    for (const [name, content] of Object.entries(files)) zip.append(content, { name });
    void zip.finalize();
    await pipeline(zip, createWriteStream(path));
    return readFileSync(path);
  };
  let here: SignedIn;
  let good: string;
  beforeAll(async () => {
    here = await ownWorkshop(db);
    const [one] = await db
      .select()
      .from(machine)
      .where(and(eq(machine.workshopId, there.workshop.id), eq(machine.serial, OF_THE_DEMO)))
      .limit(1);
    good = (await documentIn(await exported(there, { of: "machine", id: one!.id }))).text;
  });
  const said = async (content: Buffer) => {
    const id = await arrived(here, content);
    const { state, said: words } = await rowOf(here, id);
    return [state, words] as const;
  };

  test("a zip bomb is not unpacked", async () => {
    const bomb = await zipOf({ "records.json": Buffer.alloc(300 * 1024 * 1024) });
    expect(bomb.length).toBeLessThan(1024 * 1024);
    const [state, words] = await said(bomb);
    expect(state).toBe("failed");
    expect(words).toMatch(/300 MB unpacked/);
  });
  test("a path that climbs out is taken nowhere", async () => {
    // Packers refuse such a name: it is put into the zip afterwards.
    const zip = await zipOf({ "aa/escaped.json": "{}", "records.json": good });
    const climbing = Buffer.from(zip.toString("latin1").replaceAll("aa/escaped.json", "../escaped.json"), "latin1");
    const [state, words] = await said(climbing);
    expect([state, words]).toEqual(["failed", expect.stringMatching(/can’t be read|no file of an export/)]);
    mkdirSync(folder, { recursive: true });
    expect(() => readFileSync(join(folder, "escaped.json"))).toThrow();
  });
  test.each([
    ["something else in the zip", { "setup.exe": "MZ" }, "“setup.exe” is no file of an export"],
    ["no document in it", { "records.schema.json": "{}" }, "There is no records.json"],
    ["another JSON", { "records.json": '{"hello": 1}' }, "no export of records"],
    ["not quite JSON", { "records.json": '{"format": "nimble-gauge-records", ' }, "This is no JSON"],
    ["a later version", { "records.json": '{"format":"nimble-gauge-records","version":99}' }, "no export of records"],
  ] as const)("%s", async (_, files, words) => {
    const [state, told] = await said(await zipOf(files as unknown as Record<string, string>));
    expect([state, told]).toEqual(["failed", expect.stringContaining(words) as string]);
  });
  test("a zip that is cut off", async () => {
    const zip = await zipOf({ "records.json": good });
    expect(await said(zip.subarray(0, zip.length - 40))).toEqual([
      "failed",
      expect.stringContaining("broken") as string,
    ]);
  });

  test.each([
    ["a reading that is text", /("indicated" : )[-0-9.e]+/, '$1"9"', "readings"],
    ["a field too many", /("serial" : )/, '"more": 1, $1', "machines"],
    ["a document that was changed", /(\\"value\\":)(\d)/, "$19$2", "signatures"],
  ] as const)("%s is told with where it stands, and nothing is stored", async (_, from, to, section) => {
    const changed = good.replace(from, to);
    expect(changed).not.toBe(good);
    const id = await arrived(here, await zipOf({ "records.json": changed }));
    const { misfits } = await foundOf(here, id);
    expect(misfits!.map((m) => m.section)).toContain(section);
    await expect(inWorkshop(here.workshop.id, () => storeRecords(here, id))).rejects.toThrow("wrong");
    expect(await db.$count(reading, eq(reading.workshopId, here.workshop.id))).toBe(0);
  });

  test("a statement that was changed is not counted as proof", async () => {
    const changed = good.replace(/("signature" : ")(.)/, (_all, a: string, b: string) => a + (b === "A" ? "B" : "A"));
    const id = await arrived(here, await zipOf({ "records.json": changed }));
    const { signed, proven } = await foundOf(here, id);
    expect(signed! - proven!).toBe(1);
  });
});

test("the same document however it is laid out", async () => {
  const zip = await exported(there);
  const { text, folder: own } = await documentIn(zip);
  const rows = async (path: string) => {
    const all: unknown[] = [];
    for await (const piece of piecesOf(path))
      all.push(piece.kind === "row" ? [piece.section, piece.no, piece.row] : [piece.name, piece.value]);
    return all;
  };
  const wide = join(folder, "wide.json");
  writeFileSync(wide, JSON.stringify(JSON.parse(text), null, 3));
  expect(await rows(wide)).toEqual(await rows(join(own, "records.json")));
});
