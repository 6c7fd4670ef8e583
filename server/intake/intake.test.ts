import { type ChildProcess, spawn } from "node:child_process";
import { randomUUID } from "node:crypto";
import { existsSync, mkdtempSync, readFileSync, rmSync, utimesSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { parse } from "csv-parse/sync";
import { and, eq, sql } from "drizzle-orm";
import { poolOf } from "../../db/client";
import { pastFigure, pastVisit, transfer } from "../../db/schema";
import { inWorkshop } from "../../db/wall";
import type { SignedIn } from "../auth";
import { Unread } from "../body";
import { database } from "../database";
import { ownMachines, ownWorkshop } from "../open/own-workshop";
import { stopTransfer, transferFor, transferOf } from "../open/transfers";
import { type Answers, savePlan, startCheck, startStore, withdrawImport } from "./answers";
import { takeIn } from "./arrive";
import { MOST_BYTES, errorsOf, fileOf, receive } from "./files";
import { closeQueue } from "./queue";
import { sweep } from "./sweep";
import { foundOf, planOf, workOn } from "./work";

/** A workshop’s spreadsheet comes in: large, messy, twice, cut off in the middle. */

const db = database();
let lead: SignedIn;
let serials: string[];
const folder = mkdtempSync(join(tmpdir(), "transfers-"));
process.env.TRANSFER_FOLDER = folder;

beforeAll(async () => {
  lead = await ownWorkshop(db);
  serials = await ownMachines(db, lead, 20);
});
const workers: ChildProcess[] = [];
afterAll(async () => {
  for (const one of workers) one.kill("SIGKILL");
  await closeQueue();
  rmSync(folder, { recursive: true });
  await poolOf(db).end();
});

const inside = <T>(work: () => Promise<T>) => inWorkshop(lead.workshop.id, work);
const state = async (id: string) => (await inside(() => transferOf(lead.workshop.id, id)))!;
const usual: Omit<Answers, "encoding" | "separator" | "headed" | "decimals" | "dayOrder"> = {
  targets: {},
  units: {},
  serials: {},
};

/** A file arrives, as text or bytes; what is guessed of it is taken for granted here but for what is said. */
async function arrives(content: string | Buffer, name = "visits.csv"): Promise<string> {
  const id = randomUUID();
  writeFileSync(fileOf(id), content);
  await inside(() => takeIn(lead, id, { name, bytes: Buffer.byteLength(content) }));
  return id;
}
async function answersOf(id: string, more: Partial<Answers> = {}): Promise<Answers> {
  const { encoding, separator, headed, decimals, dayOrder } = planOf(await state(id));
  return { encoding, separator, headed, decimals, dayOrder, ...usual, ...more };
}
async function checked(id: string, more: Partial<Answers> = {}) {
  const answers = await answersOf(id, more);
  await inside(() => startCheck(lead, id, answers));
  await inside(() => workOn(lead.workshop.id, id));
  return foundOf(await state(id));
}
async function stored(id: string, leaveBad = false) {
  await inside(() => startStore(lead, id, leaveBad));
  await inside(() => workOn(lead.workshop.id, id));
  return state(id);
}
const countOf = (id: string) => db.$count(pastVisit, eq(pastVisit.transferId, id));

const HEADED = (note: string) => `Date;Serial;Pressure;Note\n2.1.2024;${serials[0]};9,0;${note}`;

/** Visits of some years, one each, told apart by their day and pressure. */
const lines = (count: number, seed: string, from = 0) =>
  Array.from({ length: count }, (_, k) => {
    const i = from + k;
    const day = new Date(Date.UTC(2015, 0, 13 + (i % 3000)));
    const date = `${day.getUTCDate()}.${day.getUTCMonth() + 1}.${day.getUTCFullYear()}`;
    return `${date};${serials[i % serials.length]};${(8 + (i % 40) / 10).toFixed(1).replace(".", ",")};9,0;"gasket; ""${seed}"" ${i}"`;
  });
const HEADS = "Date;Serial;Pressure before;Pressure after;Work done";
const sheet = (rows: readonly string[]) => [HEADS, ...rows].join("\r\n");

test("a hundred thousand rows, one in a hundred bad: each found with line, column, reason and what mends it; the rest stored", async () => {
  const rows = lines(100_000, "hundred");
  const bad = new Map<number, [column: string, reason: RegExp]>();
  for (let i = 50; i < rows.length; i += 100) {
    const kind = ((i / 50) % 5) | 0;
    const [day, serial, before, after, work] = rows[i]!.split(";");
    const broken = [
      [`31.2.2020;${serial};${before};${after};x`, "Date", /no such day/],
      [`${day};NOBODY-${i % 300};${before};${after};x`, "Serial", /No machine/],
      [`${day};${serial};9,,1;${after};x`, "Pressure before", /not a number/],
      [`${day};${serial};${before};900;x`, "Pressure after", /Outside/],
      [`;${serial};${before};${after};${work}x"`, "Date", /No day/],
    ][kind] as [string, string, RegExp];
    rows[i] = broken[0];
    // The heads are line 1.
    bad.set(i + 2, [broken[1], broken[2]]);
  }
  const id = await arrives(sheet(rows));
  const found = await checked(id);
  expect(found).toMatchObject({ rows: 100_000, good: 99_000, bad: 1000, known: 0, errorCount: 1000 });
  for (const error of found.errors!) {
    const [column, reason] = bad.get(error.line)!;
    expect([error.line, error.column]).toEqual([error.line, column]);
    expect(error.reason).toMatch(reason);
    expect(error.fix.length).toBeGreaterThan(10);
  }
  const list = parse(readFileSync(errorsOf(id)), { bom: true, columns: true }) as { line: string }[];
  expect(list.map((e) => Number(e.line))).toEqual([...bad.keys()]);
  // Nothing was stored by looking, and with errors nothing is unless that is said.
  expect(await countOf(id)).toBe(0);
  await expect(inside(() => startStore(lead, id, false))).rejects.toThrow("1000 rows are wrong still");
  const done = await stored(id, true);
  expect([done.state, done.said]).toEqual(["done", "Imported: 99000 visits."]);
  expect(await countOf(id)).toBe(99_000);
  expect(await db.$count(pastFigure, eq(pastFigure.transferId, id))).toBe(198_000);
  expect(existsSync(fileOf(id))).toBe(false);

  // The mended file: what was stored is left alone, what was wrong comes in.
  const again = await arrives(sheet(lines(100_000, "hundred")));
  expect(await checked(again)).toMatchObject({ good: 100_000, bad: 0, known: 99_000 });
  expect((await stored(again)).said).toBe("Imported: 1000 visits.");
}, 240_000);

test("a row twice in a file is one visit; words that a spreadsheet would run are words", async () => {
  const one = lines(1, "=cmd()")[0]!.replace('"gasket', '"=cmd()');
  const id = await arrives(sheet([one, one, ...lines(3, "twice", 5)]));
  expect(await checked(id)).toMatchObject({ rows: 5, good: 5, known: 1 });
  await stored(id);
  expect(await countOf(id)).toBe(4);
  const [first] = await db
    .select()
    .from(pastVisit)
    .where(and(eq(pastVisit.transferId, id), eq(pastVisit.line, 2)));
  expect(first!.work).toMatch(/^=cmd\(\)/);
});

test.each([
  ["UTF-8", (text: string) => Buffer.from(`\uFEFF${text}`, "utf8")],
  ["UTF-16", (text: string) => Buffer.from(`\uFEFF${text}`, "utf16le")],
  ["UTF-16, big end first", (text: string) => Buffer.from(`\uFEFF${text}`, "utf16le").swap16()],
  ["Windows-1252", (text: string) => Buffer.from(text, "latin1")],
])("%s: letters come in as they were written", async (name, encode) => {
  const id = await arrives(
    encode(
      sheet([`3.7.2019;${serials[0]};9,1;9,0;"Überdruck ß ${name}"`, `14.7.2019;${serials[0]};9,1;9,0;é ${name}`]),
    ),
  );
  await checked(id);
  await stored(id);
  const rows = await db.select().from(pastVisit).where(eq(pastVisit.transferId, id)).orderBy(pastVisit.line);
  expect(rows.map((r) => r.work)).toEqual([`Überdruck ß ${name}`, `é ${name}`]);
});

test("read in a wrong encoding, the letters are refused, and another is chosen", async () => {
  const id = await arrives(Buffer.from(sheet(["13.7.2019;" + serials[0] + ";9,1;9,0;Überholt"]), "latin1"));
  const wrong = await answersOf(id, { encoding: "utf-8" });
  await inside(() => savePlan(lead, id, wrong));
  expect((await checked(id)).errors).toMatchObject([{ column: "Work done", reason: "A letter in it can’t be read" }]);
  await inside(async () => savePlan(lead, id, await answersOf(id, { encoding: "windows-1252" })));
  expect(await checked(id)).toMatchObject({ good: 1, bad: 0 });
});

test("another separator with which a quote is never closed is refused beside it, and nothing changes", async () => {
  const id = await arrives(
    ["Date,Serial,Work done", `13.6.2018,${serials[0]},x;"`, ...Array(9000).fill("14.6.2018,A-1,a line of words")].join(
      "\n",
    ),
  );
  const before = planOf(await state(id));
  const other = await answersOf(id, { separator: ";" });
  await expect(inside(() => savePlan(lead, id, other))).rejects.toMatchObject({ field: "separator", status: 422 });
  expect(planOf(await state(id))).toEqual(before);
});

test("days that can be read in two ways are asked about, never guessed", async () => {
  const id = await arrives(sheet([`3.6.2018;${serials[0]};9,1;9,0;june`, `4.7.2018;${serials[0]};9,1;9,0;july`]));
  expect(planOf(await state(id)).dayOrder).toBeNull();
  const unsaid = await answersOf(id);
  await expect(inside(() => startCheck(lead, id, unsaid))).rejects.toThrow("order");
  await checked(id, { dayOrder: "mdy" });
  await stored(id);
  const rows = await db.select().from(pastVisit).where(eq(pastVisit.transferId, id)).orderBy(pastVisit.line);
  expect(rows.map((r) => r.doneOn)).toEqual(["2018-03-06", "2018-04-07"]);
});

test("a file with the same heads is understood as the last one was", async () => {
  const heads = `Date;Serial;Reading ${randomUUID()};Invoice`;
  const first = await arrives([heads, `13.6.2018;${serials[0]};130,5;7`].join("\n"));
  await checked(first, { targets: { 2: "opv.as-left", 3: "" }, units: { 2: "psi" } });
  const second = await arrives([heads, `14.6.2018;${serials[0]};131,5;8`].join("\n"));
  expect(planOf(await state(second)).columns.map((c) => [c.target, c.unit])).toEqual([
    ["day", ""],
    ["serial", ""],
    ["opv.as-left", "psi"],
    ["", ""],
  ]);
});

test("a serial that no machine has is told once with how often, and can be said to be one", async () => {
  const rows = lines(4, "serial", 40).map((l) => l.replace(/;[^;]+;/, ";TYPO-1;"));
  const id = await arrives(sheet([...rows, ...lines(1, "serial", 90)]));
  expect((await checked(id)).serials).toEqual([["TYPO-1", 4]]);
  const answers = await answersOf(id, { serials: { 0: "no such either" } });
  await expect(inside(() => startCheck(lead, id, answers))).rejects.toThrow("No machine here");
  expect(await checked(id, { serials: { 0: serials[1]! } })).toMatchObject({ good: 5, bad: 0 });
});

test("withdrawn it counts no more, and can come in again", async () => {
  const content = sheet(lines(3, "withdrawn"));
  const id = await arrives(content);
  await checked(id);
  await stored(id);
  const seen = async () => {
    const { rows } = await db.execute<{ n: number }>(
      sql`select count(*)::int as n from records.past_visit where workshop_id = ${lead.workshop.id} and work like '%withdrawn%'`,
    );
    return rows[0]!.n;
  };
  expect(await seen()).toBe(3);
  await inside(() => withdrawImport(lead, id));
  expect(await seen()).toBe(0);
  const again = await arrives(content);
  expect(await checked(again)).toMatchObject({ good: 3, known: 0 });
  await stored(again);
  expect(await seen()).toBe(3);
});

test("two at once with the same rows: each row is stored once", async () => {
  const content = sheet(lines(3000, "at once"));
  const ids = [await arrives(content), await arrives(content)];
  for (const id of ids) await checked(id);
  for (const id of ids) await inside(() => startStore(lead, id, false));
  await Promise.all(ids.map((id) => inside(() => workOn(lead.workshop.id, id))));
  for (const id of ids) expect((await state(id)).state).toBe("done");
  expect((await Promise.all(ids.map(countOf))).sort((a, b) => a - b)).toEqual([0, 3000]);
}, 60_000);

test("the worker is killed in the middle: another goes on where it was, and no row is there twice", async () => {
  const id = await arrives(sheet(lines(20_000, "killed")));
  await checked(id);
  await inside(() => startStore(lead, id, false));
  const worker = () => {
    const one = spawn("node", ["--import", "tsx", "server/worker.ts"], {
      env: { ...process.env, TRANSFER_FOLDER: folder, NODE_OPTIONS: "" },
      stdio: ["ignore", "ignore", "inherit", "ipc"],
    });
    workers.push(one);
    return one;
  };
  const first = worker();
  await until(async () => (await countOf(id)) > 2000);
  const dead = new Promise((resolve) => first.once("exit", resolve));
  first.kill("SIGKILL");
  await dead;
  const before = await countOf(id);
  expect(before).toBeGreaterThan(0);
  expect(before).toBeLessThan(20_000);
  // What was stored of it counts nowhere yet.
  expect((await state(id)).state).toBe("running");
  // As if it had been silent for long.
  await db
    .update(transfer)
    .set({ aliveAt: new Date(Date.now() - 60_000) })
    .where(eq(transfer.id, id));
  const second = worker();
  await until(async () => (await state(id)).state === "done");
  const over = new Promise((resolve) => second.once("exit", resolve));
  second.kill("SIGTERM");
  await over;
  expect(await countOf(id)).toBe(20_000);
}, 120_000);

test("stopped in the middle, nothing of it counts", async () => {
  const id = await arrives(sheet(lines(8000, "stopped")));
  await checked(id);
  await inside(() => startStore(lead, id, false));
  const work = inside(() => workOn(lead.workshop.id, id));
  await until(async () => (await countOf(id)) > 0);
  await db.update(transfer).set({ state: "stopping" }).where(eq(transfer.id, id));
  await work;
  expect((await state(id)).state).toBe("stopped");
  const { rows } = await db.execute(sql`select from records.past_visit where file_id = ${id} limit 1`);
  expect(rows).toEqual([]);
}, 60_000);

test.each([
  ["a workbook", Buffer.from("PK\u0003\u0004 not text"), "visits.xlsx"],
  ["a workbook of old", Buffer.from([0xd0, 0xcf, 0x11, 0xe0]), "visits"],
  ["nothing but line ends", "\r\n\r\n\n"],
  ["a quote that never closes", `${HEADS}\n13.6.2018;A;"${"x".repeat(300_000)}`],
])("refused on arrival: %s", async (_, content, name = "visits.csv") => {
  await expect(arrives(content, name)).rejects.toMatchObject({ field: "file" });
});

test("a technician’s command is refused: records come in by a lead", async () => {
  const mate = { ...lead, role: "technician" } as const;
  await expect(takeIn(mate, randomUUID(), { name: "x", bytes: 1 })).rejects.toThrow("Only a lead");
});

describe("sent", () => {
  const form = (body: BodyInit, length?: number) =>
    new Request("http://here.invalid/import", {
      method: "POST",
      body,
      ...(length === undefined
        ? {}
        : { headers: { "Content-Length": String(length), "Content-Type": "multipart/form-data; boundary=x" } }),
      // @ts-expect-error A body that is a stream needs it.
      duplex: "half",
    });
  const filled = (content: BlobPart) => {
    const data = new FormData();
    data.set("file", new File([content], "visits.csv"));
    return data;
  };

  test("500 MB are refused before a byte has travelled", async () => {
    let read = 0;
    const body = new ReadableStream({
      pull(controller) {
        read += 1;
        controller.enqueue(new Uint8Array(1024));
      },
    });
    const answer = await receive(form(body, 500 * 1024 * 1024), randomUUID());
    expect(answer).toBeInstanceOf(Unread);
    expect(answer).toMatchObject({ status: 413 });
    // What a stream holds ready by itself.
    expect(read).toBeLessThan(3);
  });

  test("one that does not say how long it is, is cut at the limit, and nothing of it is kept", async () => {
    const id = randomUUID();
    let sent = 0;
    const part = new Uint8Array(4 * 1024 * 1024);
    const body = new ReadableStream({
      pull(controller) {
        if (sent === 0)
          controller.enqueue(
            new TextEncoder().encode('--x\r\nContent-Disposition: form-data; name="file"; filename="a"\r\n\r\n'),
          );
        sent += part.length;
        if (sent > MOST_BYTES + 64 * 1024 * 1024) controller.close();
        else controller.enqueue(part);
      },
    });
    const request = new Request("http://here.invalid/import", {
      method: "POST",
      body,
      headers: { "Content-Type": "multipart/form-data; boundary=x" },
      // @ts-expect-error A body that is a stream needs it.
      duplex: "half",
    });
    expect(await receive(request, id)).toBeInstanceOf(Unread);
    expect(existsSync(fileOf(id))).toBe(false);
  });

  test("a file, no file, an empty one", async () => {
    const id = randomUUID();
    expect(await receive(form(filled("a;b")), id)).toMatchObject({ name: "visits.csv", bytes: 3 });
    expect(readFileSync(fileOf(id), "utf8")).toBe("a;b");
    expect(await receive(form(filled("")), randomUUID())).toMatchObject({ message: "The file is empty." });
    expect(await receive(form(new FormData()), randomUUID())).toMatchObject({ message: "Choose a file." });
    expect(await receive(form("x"), randomUUID())).toMatchObject({ status: 415 });
  });
});

describe("what lies there", () => {
  test("a technician neither sees nor stops what a lead brings in; stopped, its file is gone at once", async () => {
    const id = await arrives(HEADED("Hidden"));
    const other = { ...lead, id: randomUUID(), role: "technician" as const };
    expect(await inside(() => transferFor(other, id))).toBeNull();
    expect(await inside(() => stopTransfer(other, id))).toBe(false);
    expect(existsSync(fileOf(id))).toBe(true);
    expect(await inside(() => stopTransfer(lead, id))).toBe(true);
    expect((await state(id)).state).toBe("stopped");
    expect(existsSync(fileOf(id))).toBe(false);
  });

  test("what nobody answers for goes after a day, file and question, and whatever else lies there as long", async () => {
    const [old, fresh] = [await arrives(HEADED("Old")), await arrives(HEADED("Fresh"))];
    const stray = randomUUID();
    writeFileSync(fileOf(stray), "a;b");
    const before = new Date(Date.now() - 25 * 3_600_000);
    for (const id of [old, stray]) utimesSync(fileOf(id), before, before);
    await db.update(transfer).set({ aliveAt: before }).where(eq(transfer.id, old));
    await sweep();
    expect([old, stray, fresh].map((id) => existsSync(fileOf(id)))).toEqual([false, false, true]);
    expect((await state(old)).state).toBe("stopped");
    expect((await state(fresh)).state).toBe("asked");
    await inside(() => stopTransfer(lead, fresh));
  });

  test("so many files of a workshop and no more, however they arrive together", async () => {
    const shop = await ownWorkshop(db);
    const many = await Promise.allSettled(
      Array.from({ length: 14 }, (_, i) => {
        const id = randomUUID();
        writeFileSync(fileOf(id), HEADED(`Many ${i}`));
        return inWorkshop(shop.workshop.id, () => takeIn(shop, id, { name: "visits.csv", bytes: 100 }));
      }),
    );
    expect(many.filter((m) => m.status === "fulfilled")).toHaveLength(10);
    expect(many.find((m) => m.status === "rejected")).toMatchObject({ reason: { field: "file" } });
  });
});

async function until(holds: () => Promise<boolean>): Promise<void> {
  for (let i = 0; i < 1200; i++) {
    if (await holds()) return;
    await new Promise((resolve) => setTimeout(resolve, 50));
  }
  throw new Error("It did not come.");
}
