import { once } from "node:events";
import { PassThrough, Readable } from "node:stream";
import { ZipArchive } from "archiver";
import type pg from "pg";
import { OPEN_TABLES } from "../../db/open/tables";
import { atOneMoment } from "./one-moment";
import { lineEnds } from "./line-ends";
import { countRecords, recordsOf } from "./records-out";
import { recordsSchema } from "./records-schema";
import { FILE_END, SECTIONS, fromSection } from "./sections";
import type { Scope } from "./scope";
import { countRows, csvOf } from "./tables-out";

/** What is taken out, as a zip that is made while it is sent: no more of it is ever held than a piece. */

export type Shape = "records" | "tables";

export interface Tell {
  /** Rows so far, of how many, and of what. */
  (done: number, total: number, what: string): void;
}

interface Wanted {
  readonly workshopId: string;
  readonly scope: Scope;
  readonly shape: Shape;
  readonly tell: Tell;
  readonly stop: AbortSignal;
  readonly now: Date;
}

/**
 * The zip, as a stream. It fails, rather than ending early, where anything in it does.
 *
 * Inside a workshop (`db/wall.ts`).
 */
export function takeOut(wanted: Wanted): Readable {
  const zip = new ZipArchive({ zlib: { level: 1 } });
  // What is read off it, so that one who goes away is heard of at once.
  const out = new PassThrough();
  const fail = (error: Error) => {
    zip.abort();
    out.destroy(error);
  };
  zip.on("error", fail);
  zip.on("warning", fail);
  zip.pipe(out);
  const stopped = () => out.destroy(new Error("Stopped."));
  wanted.stop.addEventListener("abort", stopped, { once: true });
  atOneMoment((client) => fill(zip, out, client, wanted))
    .then(() => zip.finalize())
    .catch(fail)
    .finally(() => wanted.stop.removeEventListener("abort", stopped));
  return out;
}

async function fill(zip: ZipArchive, out: PassThrough, client: pg.Client, wanted: Wanted): Promise<void> {
  const gone = once(out, "close").then(() => Promise.reject(new Error("Nobody takes it any more.")));
  gone.catch(() => {});
  const add = async (name: string, source: Readable | Buffer, store = false) => {
    const written = once(zip, "entry");
    if (source instanceof Readable) source.once("error", (error) => out.destroy(error));
    zip.append(source, { name, date: wanted.now, store });
    await Promise.race([written, gone]);
  };
  if (wanted.shape === "tables") await fillTables(add, client, wanted);
  else await fillRecords(add, client, wanted);
}

type Add = (name: string, source: Readable | Buffer, store?: boolean) => Promise<void>;

async function fillTables(add: Add, client: pg.Client, { workshopId, scope, tell }: Wanted): Promise<void> {
  const counts = [];
  for (const table of OPEN_TABLES) counts.push(await countRows(client, table, scope, workshopId));
  const total = counts.reduce((a, b) => a + b, 0);
  let done = 0;
  for (const table of OPEN_TABLES) {
    if (scope.of !== "workshop" && table.name === "part") continue;
    // The heads are a line too.
    let rows = -1;
    const ended = lineEnds("csv", (count) => {
      rows += count;
      tell(done + Math.max(0, rows), total, table.plural);
    });
    // So that a spreadsheet takes it for UTF-8.
    ended.push("\uFEFF");
    const copy = csvOf(client, table, scope, workshopId);
    copy.on("error", (error) => ended.destroy(error));
    await add(`${table.plural}.csv`, copy.pipe(ended));
    done += Math.max(0, rows);
  }
}

const PICTURES_AT_A_TIME = 20;

async function fillRecords(add: Add, client: pg.Client, wanted: Wanted): Promise<void> {
  const { workshopId, scope, tell, now } = wanted;
  const total = await countRecords(client, scope, workshopId);
  let done = 0;
  const document = recordsOf(client, scope, workshopId, {
    madeAt: now,
    onRows: (section, count) => tell((done += count), total, section.replaceAll("_", " ")),
  });
  await add("records.json", Readable.from(document, { objectMode: false }));
  await add("records.schema.json", Buffer.from(JSON.stringify(recordsSchema(), null, 2)));
  for (const section of SECTIONS) {
    if (!section.files) continue;
    const { folder, column, type } = section.files;
    const mime = type === "photo" ? "t.mime" : "'image/png'";
    await client.query(
      `declare pictures no scroll cursor for select t.job_id || '-' || t.id as name, ${mime} as mime, t.${column} as data ${fromSection(section, scope, workshopId)} order by t.job_id, t.id`,
    );
    for (let n = 0; ;) {
      const { rows } = await client.query<{ name: string; mime: string; data: Buffer }>(
        `fetch ${PICTURES_AT_A_TIME} from pictures`,
      );
      if (rows.length === 0) break;
      for (const { name, mime, data } of rows) {
        await add(`${folder}/${name}.${FILE_END[mime] ?? "bin"}`, data, true);
        tell(total, total, `${folder} ${(n += 1)}`);
      }
    }
    await client.query("close pictures");
  }
}
