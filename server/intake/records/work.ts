import { eq, sql } from "drizzle-orm";
import { poolOf, connect, transact } from "../../../db/client";
import { stagedRecord, transfer } from "../../../db/schema";
import { isSignedBy, keyId as keyNamed, sha256 } from "../../proof/keys";
import { refusedByDatabase } from "../../database-words";
import { database } from "../../database";
import { Refused } from "../../refused";
import { type Transfer, heard, setTransfer } from "../../open/transfers";
import { inTransaction } from "../../transaction";
import { forgetFiles } from "../files";
import { type Choices, bring } from "./bring";
import { type Compared, compare } from "./compare";
import { type Misfit, type Naming, type Staged, stage } from "./stage";
import { documentOf, forgetFolder, unpack } from "./unpack";

/** The work on records that have arrived as JSON: unpacked, held against the schema and against what is here; then stored, whole or not at all. */

export interface RecordsFound extends Compared {
  readonly rows: number;
  readonly misfits: readonly Misfit[];
  /** Signed visits in the file, and those whose statement holds by the keys beside it. */
  readonly signed: number;
  readonly proven: number;
  readonly stored?: number;
  readonly left?: number;
}

export interface RecordsPlan {
  readonly next?: "check" | "store";
  readonly naming: Naming;
  readonly choices: Choices;
}

export const NO_PLAN: RecordsPlan = { naming: { anew: false, same: {} }, choices: { chosen: {} } };
export const recordsPlanOf = (row: Transfer) => ({ ...NO_PLAN, ...(row.plan as Partial<RecordsPlan>) });
export const recordsFoundOf = (row: Transfer) => row.found as Partial<RecordsFound>;

/** Sections whose names are everybody’s: one that another workshop of this database has is taken. */
const NAMED = [
  "people",
  "models",
  "owners",
  "sites",
  "machines",
  "instruments",
  "spec_cards",
  "spec_versions",
  "parts",
  "visits",
];

export async function workOnRecords(row: Transfer): Promise<void> {
  const plan = recordsPlanOf(row);
  try {
    if (plan.next === "store") await store(row, plan);
    else await check(row, plan);
  } catch (error) {
    const refused = error instanceof Refused ? error : refusedByDatabase(error);
    if (!refused) throw error;
    await setTransfer(row.workshopId, row.id, { state: "failed", said: refused.message.slice(0, 1000) });
    await forget(row);
  }
}

async function check(row: Transfer, plan: RecordsPlan): Promise<void> {
  const { workshopId, id } = row;
  await heard(row, "Unpacking");
  await unpack(id);
  const of = { workshopId, id, path: documentOf(id) };
  const laidOut = (naming: Naming) => stage(of, naming, (bytes, rows) => heard(row, `Reading row ${rows}`, bytes));
  let { naming } = plan;
  let staged = await laidOut(naming);
  if (staged.misfits.length === 0 && !naming.anew && (await areTaken(workshopId, id))) {
    naming = { ...naming, anew: true };
    staged = await laidOut(naming);
  }
  const compared: Compared =
    staged.misfits.length > 0
      ? { fresh: 0, known: 0, kept: 0, differing: [], doubles: [], blocked: [] }
      : await compare(database(), { workshopId, id });
  const found: RecordsFound = { ...compared, rows: staged.rows, misfits: staged.misfits, ...proofOf(staged) };
  await setTransfer(workshopId, id, {
    ...{ state: "asked", said: "Checked. Nothing is stored yet.", done: row.total },
    plan: { ...plan, next: undefined, naming } as unknown as Record<string, unknown>,
    found: found as unknown as Record<string, unknown>,
  });
}

/** Whether another workshop of this database has one of these names: the file is of one of its machines then, and is stored under others. */
async function areTaken(workshopId: string, id: string): Promise<boolean> {
  const { rows } = await database().execute<{ taken: boolean }>(sql`
    select taken_elsewhere(array(select (s.row->>'id')::uuid from staged_record s
      where s.workshop_id = ${workshopId} and s.transfer_id = ${id} and s.section in (${sql.join(
        NAMED.map((n) => sql`${n}`),
        sql`, `,
      )}))) as taken`);
  return rows[0]!.taken;
}

/** How many visits were signed, and of how many the statement is signed with a key of the file and says the document that stands there. */
function proofOf({ proof, documents }: Staged): Pick<RecordsFound, "signed" | "proven"> {
  const keys = new Map(proof.keys!.map((k) => [String(k.id), String(k.public_key)]));
  const proven = new Set<string>();
  for (const { job_id: job, amends, content, hash, key_id: keyId, signature } of proof.statements!) {
    const key = keys.get(String(keyId));
    const text = String(content);
    if (amends !== null || !key || keyNamed(key) !== keyId) continue;
    if (sha256(text) !== hash || !isSignedBy(text, String(signature), key)) continue;
    const said = JSON.parse(text) as { document?: string; job?: string };
    if (said.job === job && said.document === documents.get(String(job))) proven.add(String(job));
  }
  return { signed: documents.size, proven: proven.size };
}

async function store(row: Transfer, plan: RecordsPlan): Promise<void> {
  const { workshopId, id } = row;
  // Nobody waits for one of its statements: no limit stands over them.
  const patient = connect(process.env.DATABASE_URL!);
  try {
    await transact(patient, async (tx) => {
      const { stored, left } = await bring(tx, { workshopId, id }, plan.choices, (said) => heard(row, said));
      const words = `Imported: ${stored} ${stored === 1 ? "record" : "records"}.`;
      await tx
        .update(transfer)
        .set({
          ...{ state: "done", done: row.total, aliveAt: new Date() },
          said: left > 0 ? `${words} ${left} of visits that are signed here were left out.` : words,
          found: sql`${transfer.found} || ${JSON.stringify({ stored, left })}::jsonb`,
        })
        .where(eq(transfer.id, id));
    });
  } finally {
    await poolOf(patient).end();
  }
  await forget(row);
}

async function forget({ workshopId, id }: Transfer): Promise<void> {
  await inTransaction((tx) =>
    tx
      .delete(stagedRecord)
      .where(sql`${stagedRecord.workshopId} = ${workshopId} and ${stagedRecord.transferId} = ${id}`),
  );
  await Promise.all([forgetFolder(id), forgetFiles(id)]);
}
