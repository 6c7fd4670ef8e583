import Ajv, { type ValidateFunction } from "ajv/dist/2020.js";
import addFormats from "ajv-formats";
import pg from "pg";
import { v5 as uuidv5 } from "uuid";
import { begin } from "../../../db/wall";
import { sha256 } from "../../proof/keys";
import { Refused } from "../../refused";
import { recordsSchema } from "../../open/records-schema";
import { FILE_END, FORMAT, FORMAT_VERSION, SECTIONS } from "../../open/sections";
import { piecesOf } from "./parse";

/** The rows of a document, held against its schema and laid into the database beside the records, where they can be compared with them. */

export interface Misfit {
  readonly section: string;
  readonly no: number;
  readonly what: string;
}

/** How names in the file are carried over. */
export interface Naming {
  /** Names that somebody else’s records have already: every name of the file becomes another, the same each time. */
  readonly anew: boolean;
  /** Their name of a thing, as it would be stored, and ours. */
  readonly same: Readonly<Record<string, string>>;
}

/** Told of what is wrong with a file, at most. */
const MOST_MISFITS = 100;
/** Rows of one write. */
const AT_A_TIME = 1000;
/** A name stands alone between its quotes; in a signed document, which is a text, those are written with a stroke. Words that hold one stay. */
const UUID = /(?<=")[0-9a-f]{8}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{12}(?=\\?")/g;
/** Not laid aside: what they prove is looked at, and this workshop makes its own. */
const PROOF = new Set(["keys", "statements"]);
/** Under this name a laid aside row says where its picture lies. */
export const FILE = "_file";
const JOB_OF: Readonly<Record<string, string>> = { visits: "id" };

let validators: Map<string, ValidateFunction> | undefined;

function validatorOf(section: string): ValidateFunction | undefined {
  if (!validators) {
    const ajv = new Ajv({ strict: true, allowUnionTypes: true });
    addFormats.default(ajv);
    const { properties } = recordsSchema() as { properties: Record<string, { items: object }> };
    validators = new Map(SECTIONS.map((s) => [s.name, ajv.compile(properties[s.name]!.items)]));
  }
  return validators.get(section);
}

const mustBe: Readonly<Record<string, unknown>> = { format: FORMAT, version: FORMAT_VERSION };

/** Carries the names in a text over. @param workshopId under which a new name is made */
export function renamed(text: string, workshopId: string, { anew, same }: Naming): string {
  if (!anew && Object.keys(same).length === 0) return text;
  return text.replace(UUID, (id) => {
    const own = anew ? uuidv5(id, workshopId) : id;
    return same[own] ?? own;
  });
}

export interface Staged {
  readonly rows: number;
  readonly misfits: readonly Misfit[];
  /** As they stand in the file, for proof: by section. */
  readonly proof: Readonly<Record<string, readonly Record<string, unknown>[]>>;
  /** SHA-256 of each signed document, by its visit. */
  readonly documents: ReadonlyMap<string, string>;
}

/**
 * @param onBytes hears how much of the file is read; where it throws, the work ends
 * @throws Refused when it is no document of this format
 */
export async function stage(
  { workshopId, id, path }: { workshopId: string; id: string; path: string },
  naming: Naming,
  onBytes: (bytes: number, rows: number) => Promise<void>,
): Promise<Staged> {
  const client = new pg.Client({ connectionString: process.env.DATABASE_URL });
  client.on("error", () => {});
  await client.connect();
  const misfits: Misfit[] = [];
  const proof: Record<string, Record<string, unknown>[]> = { keys: [], statements: [] };
  const documents = new Map<string, string>();
  let rows = 0;
  const seen = new Set<string>();
  let lot: [section: string, no: number, jobId: string | null, row: string][] = [];
  // A copy into a table behind the wall is not done by PostgreSQL.
  const laidAside = async () => {
    if (lot.length === 0) return;
    await client.query(
      `insert into staged_record (workshop_id, transfer_id, section, no, job_id, row)
       select $1, $2, s, n, j, r::jsonb from unnest($3::text[], $4::int[], $5::uuid[], $6::text[]) as u (s, n, j, r)`,
      [workshopId, id, ...[0, 1, 2, 3].map((i) => lot.map((l) => l[i]))],
    );
    lot = [];
  };
  const read = async () => {
    for await (const piece of piecesOf(path)) {
      if (piece.kind === "head") {
        seen.add(piece.name);
        if (piece.name in mustBe && piece.value !== mustBe[piece.name])
          throw new Refused("This is no export of records of a version known here.");
        continue;
      }
      const { section, no, row, bytes } = piece;
      const valid = validatorOf(section);
      if (!valid) throw new Refused(`There is no section “${section.slice(0, 60)}” in such a file.`);
      if (!valid(row)) {
        const { instancePath, message } = valid.errors![0]!;
        if (misfits.push({ section, no, what: `${instancePath.slice(1) || "row"} ${message}` }) >= MOST_MISFITS) break;
        continue;
      }
      const record = row as Record<string, unknown>;
      if (PROOF.has(section)) {
        proof[section]!.push(record);
        continue;
      }
      if (section === "signatures") {
        const hash = sha256(String(record.document));
        documents.set(String(record.job_id), hash);
        if (hash !== record.hash) {
          misfits.push({ section, no, what: "the document is not the one that was signed" });
          continue;
        }
      }
      rows += 1;
      const text = withFile(section, record, hashedAnew(section, renamed(JSON.stringify(record), workshopId, naming)));
      const job = record[JOB_OF[section] ?? "job_id"];
      const jobId =
        typeof job === "string" ? (JSON.parse(renamed(JSON.stringify(job), workshopId, naming)) as string) : null;
      if (lot.push([section, no, jobId, text]) < AT_A_TIME) continue;
      await laidAside();
      await onBytes(bytes, rows);
    }
    await laidAside();
  };
  try {
    await client.query(begin());
    await client.query(`set local statement_timeout = 0; delete from staged_record where transfer_id = '${id}'`);
    await read();
    if (!seen.has("format") || !seen.has("version"))
      throw new Refused("This is no export of records of a version known here.");
    await client.query("commit");
  } catch (error) {
    if (error instanceof SyntaxError) throw new Refused(`This is no JSON: ${error.message}`);
    throw error;
  } finally {
    await client.end().catch(() => {});
  }
  return { rows, misfits, proof, documents };
}

/** A document in which names were carried over is another text: it has a hash of its own here. */
function hashedAnew(section: string, text: string): string {
  if (section !== "signatures") return text;
  const row = JSON.parse(text) as { document: string };
  return JSON.stringify({ ...row, hash: sha256(row.document) });
}

/** A picture lies under the names that its record has in the file. */
function withFile(section: string, record: Record<string, unknown>, text: string): string {
  const { files } = SECTIONS.find((s) => s.name === section)!;
  if (!files) return text;
  const end = files.type === "png" ? "png" : FILE_END[String(record.mime)];
  const file = `${files.folder}/${String(record.job_id)}-${String(record.id)}.${end}`;
  return `${text.slice(0, -1)},"${FILE}":${JSON.stringify(file)}}`;
}
