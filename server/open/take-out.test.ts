import { execFileSync } from "node:child_process";
import { randomUUID } from "node:crypto";
import { createWriteStream, mkdtempSync, readFileSync, readdirSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { pipeline } from "node:stream/promises";
import Ajv from "ajv/dist/2020.js";
import addFormats from "ajv-formats";
import { parse } from "csv-parse/sync";
import { eq, ne, sql } from "drizzle-orm";
import { poolOf } from "../../db/client";
import { OPEN_TABLES, openTable } from "../../db/open/tables";
import { account, machine, model, note, photo, reading, workshop } from "../../db/schema";
import { inWorkshop, outside } from "../../db/wall";
import { database } from "../database";
import { beginJob, freshMachine } from "../jobs/fresh-machine";
import { personOf } from "../jobs/person-of";
import type { Scope } from "./scope";
import { type Shape, takeOut } from "./take-out";

/** What leaves, opened and read by programs that are not this one: unzip, csv-parse, ajv. */

const db = database();
const folder = mkdtempSync(join(tmpdir(), "taken-out-"));
let ours: string;
let lead: string;

beforeAll(async () => {
  const [row] = await db.select().from(account).where(eq(account.email, "ilka@lowtide.example"));
  [ours, lead] = [row!.workshopId, row!.id];
});
afterAll(async () => {
  rmSync(folder, { recursive: true });
  await poolOf(db).end();
});

/** Takes something out and opens it with `unzip`. */
async function taken(
  shape: Shape,
  scope: Scope = { of: "workshop" },
  meanwhile: () => Promise<unknown> = async () => {},
) {
  const zip = join(folder, `${randomUUID()}.zip`);
  const out = zip.replace(".zip", "");
  const told: number[] = [];
  const stop = new AbortController().signal;
  await inWorkshop(ours, async () => {
    const stream = takeOut({
      ...{ workshopId: ours, scope, shape, stop, now: new Date() },
      tell: (done, total) => told.push(done / total),
    });
    await new Promise((resolve) => stream.once("readable", resolve));
    await outside(meanwhile);
    await pipeline(stream, createWriteStream(zip));
  });
  execFileSync("unzip", ["-q", zip, "-d", out]);
  return {
    told,
    files: readdirSync(out).sort(),
    text: (name: string) => readFileSync(join(out, name), "utf8"),
    rows: (name: string) =>
      parse(readFileSync(join(out, name)), { bom: true, columns: true, record_delimiter: "\r\n" }) as Record<
        string,
        string
      >[],
    count: (name: string) => readdirSync(join(out, name)).length,
  };
}

/** A visit of this test’s own: what is written into it changes nothing that another test looks at. */
async function openVisit() {
  const by = await personOf("ilka@lowtide.example");
  const [m] = await db.select({ id: model.id }).from(model).where(eq(model.name, "Packet Two"));
  const machineId = await freshMachine(by, m!.id, "Taken");
  return { id: await beginJob(by, machineId, "check"), machineId };
}

/** Rows of a view, before and after something: others write meanwhile, and nothing goes. */
async function countsOf() {
  const counts = new Map<string, number>();
  for (const { name } of OPEN_TABLES) {
    const { rows } = await db.execute<{ n: number }>(
      sql.raw(`select count(*)::int as n from records.${name} where workshop_id = '${ours}'`),
    );
    counts.set(name, rows[0]!.n);
  }
  return counts;
}

test("tables: one each, with the heads that are documented, and as many rows as there are", async () => {
  const before = await countsOf();
  const out = await taken("tables");
  const after = await countsOf();
  expect(out.files).toEqual(OPEN_TABLES.map((t) => `${t.plural}.csv`).sort());
  for (const table of OPEN_TABLES) {
    const heads = out.text(`${table.plural}.csv`).split("\r\n")[0]!.replace("\uFEFF", "");
    expect(heads.split(",")).toEqual(table.columns.map((c) => c.name));
    const count = out.rows(`${table.plural}.csv`).length;
    expect([table.plural, count >= before.get(table.name)! && count <= after.get(table.name)!]).toEqual([
      table.plural,
      true,
    ]);
  }
  expect(out.told.at(-1)).toBe(1);
  expect(out.told).toEqual([...out.told].sort((a, b) => a - b));
});

test("a reading stands there as typed and as stored, to the last digit", async () => {
  const stored = await db.select().from(reading).where(eq(reading.workshopId, ours));
  const rows = (await taken("tables")).rows("readings.csv");
  const byId = new Map(rows.map((r) => [r.id, r]));
  expect(stored.length).toBeGreaterThan(400);
  for (const one of stored) {
    const row = byId.get(one.id)!;
    expect([row.typed_unit, Number(row.value), Number(row.u), row.at, row.not_warm]).toEqual([
      one.unit,
      one.value,
      one.u,
      one.at.toISOString(),
      String(one.early),
    ]);
  }
});

test("words that a spreadsheet would run are words; numbers stay numbers", async () => {
  const visit = await openVisit();
  const id = randomUUID();
  const words = ["=cmd()", "+1+1", "-2+3", "@SUM(A1)", "\tx", "-0.5", "+9,2", "fine = fine"];
  const column = openTable("readings")!.columns.find((c) => c.name === "reason")!;
  expect(column.type).toBe("text");
  const [old] = await db.select().from(reading).where(eq(reading.workshopId, ours)).limit(1);
  const own = words.map((typed, i) => ({
    ...old!,
    id: i ? randomUUID() : id,
    jobId: visit.id,
    typed,
    supersedes: null,
  }));
  await db.insert(reading).values(own);
  const rows = (await taken("tables", { of: "machine", id: visit.machineId })).rows("readings.csv");
  const typed = own.map((o) => rows.find((r) => r.id === o.id)!.typed);
  expect(typed).toEqual(["'=cmd()", "'+1+1", "'-2+3", "'@SUM(A1)", "'\tx", "-0.5", "+9,2", "fine = fine"]);
});

test("JSON: by its schema, with a picture for each photo, and nothing that opens an account", async () => {
  const visit = await openVisit();
  const data = Buffer.from("RIFF");
  await db.insert(photo).values({
    ...{ id: randomUUID(), workshopId: ours, jobId: visit.id, by: lead, station: "look-over", mime: "image/webp" },
    ...{ width: 1, height: 1, size: data.length, data },
  });
  const out = await taken("records");
  const schema = JSON.parse(out.text("records.schema.json")) as object;
  expect(schema).toEqual(JSON.parse(readFileSync("docs/records.schema.json", "utf8")));
  const ajv = new Ajv({ strict: true, allowUnionTypes: true });
  addFormats.default(ajv);
  const document = JSON.parse(out.text("records.json")) as Record<string, Record<string, unknown>[]>;
  const valid = ajv.compile(schema);
  expect([valid(document), valid.errors]).toEqual([true, null]);
  // A schema that takes anything would say so too.
  expect(valid({ ...document, readings: [{ ...document.readings![0], value: "9" }] })).toBe(false);
  expect(valid({ ...document, more: 1 })).toBe(false);
  expect(out.count("photos")).toBe(document.photos!.length);
  expect(out.text("records.json")).not.toMatch(/argon2|password_hash|@lowtide\.example/);
});

test("of one machine: its own, and nobody else’s", async () => {
  const visit = await openVisit();
  const out = await taken("records", { of: "machine", id: visit.machineId });
  const document = JSON.parse(out.text("records.json")) as Record<string, { id: string; machine_id: string }[]>;
  expect(document.machines!.map((m) => m.id)).toEqual([visit.machineId]);
  expect(document.visits!.some((v) => v.id === visit.id)).toBe(true);
  expect(new Set(document.visits!.map((v) => v.machine_id))).toEqual(new Set([visit.machineId]));
  expect(document.owners!).toHaveLength(1);
});

test("behind the wall: of another workshop’s machine there is nothing", async () => {
  const [theirs] = await db.select().from(machine).where(ne(machine.workshopId, ours)).limit(1);
  const document = JSON.parse(
    (await taken("records", { of: "machine", id: theirs!.id })).text("records.json"),
  ) as Record<string, unknown[]>;
  expect([document.machines, document.visits, document.people]).toEqual([[], [], []]);
});

test("it is of one moment: what is written while it runs is in none of it", async () => {
  const visit = await openVisit();
  const id = randomUUID();
  const write = async () =>
    await db
      .insert(note)
      .values({ id, workshopId: ours, jobId: visit.id, by: lead, station: "look-over", text: "Meanwhile." });
  const during = (await taken("records", { of: "workshop" }, write)).text("records.json");
  expect(during).not.toContain(id);
  expect((await taken("records")).text("records.json")).toContain(id);
});

test("stopped, it ends as a failure, not as a file that looks whole", async () => {
  const stop = new AbortController();
  const stream = await inWorkshop(ours, async () =>
    takeOut({
      workshopId: ours,
      scope: { of: "workshop" },
      shape: "records",
      tell: () => stop.abort(),
      stop: stop.signal,
      now: new Date(),
    }),
  );
  await expect(pipeline(stream, createWriteStream(join(folder, "stopped.zip")))).rejects.toThrow("Stopped");
});

test("a reader of the views sees the workshop that is named, and no other", async () => {
  const count = (named: string) =>
    db.transaction(async (tx) => {
      await tx.execute(sql.raw(`set local role gauge_reader; set local gauge.workshop = '${named}'`));
      const { rows } = await tx.execute<{ n: number; by: string | null }>(
        sql`select count(*)::int as n, max("by") as by from records.reading`,
      );
      return rows[0]!;
    });
  const least = await db.$count(reading, eq(reading.workshopId, ours));
  const own = await count(ours);
  expect(own.n).toBeGreaterThanOrEqual(least);
  expect(own.n).toBeLessThanOrEqual(await db.$count(reading, eq(reading.workshopId, ours)));
  expect(own.by).not.toBeNull();
  expect((await count("")).n).toBe(0);
  const [other] = await db.select().from(workshop).where(ne(workshop.id, ours)).limit(1);
  expect((await count(other!.id)).n).toBeLessThanOrEqual(await db.$count(reading, eq(reading.workshopId, other!.id)));
});
