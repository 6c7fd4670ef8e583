import { existsSync, readFileSync, renameSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { and, asc, eq, gt, sql } from "drizzle-orm";
import type { Database, Transaction } from "../../db/client";
import { workshopIds } from "../../db/queries/doors";
import { job, machine, seal, signature, workshop, workshopKey } from "../../db/schema";
import { KEY_FOLDER } from "../keys";
import { isSignedBy, keyId, sha256, signingKey } from "./keys";
import { hashedRows, mayGrow } from "./records";
import type { Statement } from "./seal";

/** Looks through everything that was signed, and says what was changed behind the application: what, where, and on which machine. */

export interface Found {
  readonly workshop: string;
  readonly job: string;
  readonly serial: string;
  /** In words: the table and row, or what of the chain does not hold. */
  readonly what: string;
}

export interface Looked {
  readonly seals: number;
  readonly found: Found[];
  /** Signed jobs that have no seal: signed by a version that made none. */
  readonly unsealed: number;
}

const AT_A_TIME = 100;

/**
 * @param headsIn the folder in which the newest statement of each machine is kept from look to look
 * @param onSome hears how many seals were looked at
 */
export function verify(db: Database, options: Options = {}): Promise<Looked> {
  // One moment of the records, whatever is written meanwhile. It changes nothing, and nobody waits for it.
  // eslint-disable-next-line no-restricted-syntax
  return db.transaction((tx) => verifyIn(tx, options), { isolationLevel: "repeatable read", accessMode: "read only" });
}

interface Options {
  onSome?: (done: number) => void;
  headsIn?: string;
}

/** The same inside a transaction: of a database that was changed, before anybody else sees it. */
export async function verifyIn(db: Transaction, { onSome = () => {}, headsIn }: Options = {}): Promise<Looked> {
  const found: Found[] = [];
  let [seals, unsealed] = [0, 0];
  for (const id of await workshopIds(db)) {
    // Behind the wall of each, one after the other: the wall does not stand before the owner of the tables, but before the application.
    await db.execute(sql`select set_config('gauge.workshop', ${id}, true)`);
    const [named] = await db.select({ name: workshop.name }).from(workshop).where(eq(workshop.id, id));
    const shop = { id, name: named!.name };
    const trusted = await trustedKeys(db, shop.id);
    const heads = new Map<string, { no: number; hash: string }>();
    for (let after = 0; ;) {
      const some = await sealsAfter(db, shop.id, after);
      if (some.length === 0) break;
      found.push(...(await look(db, shop, some, { trusted, heads })));
      after = some.at(-1)!.sequence;
      seals += some.length;
      onSome(seals);
    }
    if (headsIn) found.push(...keepHeads(headsIn, shop, heads, found.length === 0));
    unsealed += await db.$count(
      job,
      sql`${job.workshopId} = ${id} and ${job.state} = 'signed'
        and not exists (select from seal s where s.workshop_id = job.workshop_id and s.job_id = job.id)`,
    );
  }
  return { seals, found, unsealed };
}

type Row = Awaited<ReturnType<typeof sealsAfter>>[number];

function sealsAfter(db: Transaction, workshopId: string, after: number) {
  return db
    .select({
      sequence: seal.sequence,
      jobId: seal.jobId,
      machineId: seal.machineId,
      no: seal.no,
      content: seal.content,
      hash: seal.hash,
      keyId: seal.keyId,
      signature: seal.signature,
      serial: machine.serial,
      document: sql<string | null>`${signature.document}::text`,
      documentHash: signature.hash,
    })
    .from(seal)
    .innerJoin(machine, eq(machine.id, seal.machineId))
    .leftJoin(signature, and(eq(signature.workshopId, seal.workshopId), eq(signature.jobId, seal.jobId)))
    .where(and(eq(seal.workshopId, workshopId), gt(seal.sequence, after)))
    .orderBy(asc(seal.sequence))
    .limit(AT_A_TIME);
}

/** Keys by their ids. The one of the key folder is sure; those of earlier years are taken from the database, whose ids hold them. */
async function trustedKeys(db: Transaction, workshopId: string): Promise<Map<string, string>> {
  const rows = await db
    .select({ id: workshopKey.id, publicKey: workshopKey.publicKey })
    .from(workshopKey)
    .where(eq(workshopKey.workshopId, workshopId));
  const known = new Map(rows.filter((r) => idHolds(r.publicKey, r.id)).map((r) => [r.id, r.publicKey]));
  const own = signingKey(workshopId);
  return new Map([...known].filter(([id]) => id === own.id || olderKeys().has(id))).set(own.id, own.publicKey);
}

function idHolds(pem: string, id: string): boolean {
  try {
    return keyId(pem) === id;
  } catch {
    return false;
  }
}

/** Ids of keys that were in use before, one a line in the key folder: written down when a key is renewed. */
function olderKeys(): Set<string> {
  const path = join(KEY_FOLDER(), "older-keys.txt");
  return new Set(existsSync(path) ? readFileSync(path, "utf8").split(/\s+/).filter(Boolean) : []);
}

interface Known {
  trusted: Map<string, string>;
  /** The newest statement seen of each machine. */
  heads: Map<string, { no: number; hash: string }>;
}

async function look(
  db: Transaction,
  shop: { id: string; name: string },
  rows: readonly Row[],
  { trusted, heads }: Known,
): Promise<Found[]> {
  const found: Found[] = [];
  const statements = rows.map((row) => ({ row, says: statementOf(row) }));
  // Statements that cover the same columns, mostly all of them, are looked up together.
  const groups = new Map<string, typeof statements>();
  for (const one of statements) {
    const { row, says } = one;
    const say = (what: string) => found.push({ workshop: shop.name, job: row.jobId, serial: row.serial, what });
    const key = trusted.get(row.keyId);
    if (!key) say(`its statement names a key that is not the workshop’s: ${row.keyId.slice(0, 16)}…`);
    else if (!isSignedBy(row.content, row.signature, key))
      say("its statement was changed: the workshop’s key did not sign it");
    if (!says) {
      say("its statement can’t be read");
      continue;
    }
    if (sha256(row.content) !== row.hash) say("its statement was changed: its hash is another");
    const before = heads.get(row.machineId);
    if (says.before !== (before?.hash ?? null) || says.no !== (before?.no ?? 0) + 1)
      say("a statement before it is missing, or was made anew");
    heads.set(row.machineId, { no: says.no, hash: row.hash });
    if (says.job !== row.jobId || says.machine !== row.machineId || says.workshop !== shop.id)
      say("its statement is of another job or machine");
    if (row.document === null) say("signature: taken away");
    else {
      if (sha256(row.document) !== says.document) say("signature: the document was changed");
      if (row.documentHash !== says.document) say("signature: the hash beside the document was changed");
    }
    const same = JSON.stringify(says.covered);
    groups.set(same, [...(groups.get(same) ?? []), one]);
  }
  for (const group of groups.values()) {
    const { covered } = group[0]!.says!;
    const jobs = group.map(({ row }) => row.jobId);
    const hashes = await hashedRows(db, shop.id, jobs, covered);
    for (const { row, says } of group) {
      const now = hashes.get(row.jobId)!;
      for (const table of Object.keys(covered))
        for (const what of differing(table, says!.records[table] ?? {}, now[table] ?? {}))
          found.push({ workshop: shop.name, job: row.jobId, serial: row.serial, what });
    }
  }
  return found;
}

function differing(table: string, was: Record<string, string>, is: Record<string, string>): string[] {
  const said: string[] = [];
  for (const [name, hash] of Object.entries(was))
    if (is[name] === undefined) said.push(`${table} ${name}: taken away`);
    else if (is[name] !== hash) said.push(`${table} ${name}: changed`);
  if (!mayGrow(table))
    for (const name of Object.keys(is)) if (was[name] === undefined) said.push(`${table} ${name}: put in`);
  return said;
}

function statementOf({ content }: Row): Statement | null {
  try {
    return JSON.parse(content) as Statement;
  } catch {
    return null;
  }
}

/**
 * The newest statement of each machine is kept outside the database from look to look: what was taken off the end of a chain is missed by
 * nothing else.
 */
function keepHeads(
  folder: string,
  shop: { id: string; name: string },
  heads: Known["heads"],
  isSound: boolean,
): Found[] {
  const path = join(folder, `heads-${shop.id}.json`);
  const before = existsSync(path)
    ? (JSON.parse(readFileSync(path, "utf8")) as Record<string, { no: number; hash: string }>)
    : {};
  const found = Object.entries(before).flatMap(([machineId, was]): Found[] => {
    const now = heads.get(machineId);
    if (now && (now.no > was.no || now.hash === was.hash)) return [];
    const what = `machine ${machineId}: its statement ${was.no}, seen at an earlier look, is gone or was made anew`;
    return [{ workshop: shop.name, job: "", serial: "", what }];
  });
  if (isSound && found.length === 0) {
    writeFileSync(`${path}.new`, JSON.stringify(Object.fromEntries(heads)), { mode: 0o600 });
    renameSync(`${path}.new`, path);
  }
  return found;
}
