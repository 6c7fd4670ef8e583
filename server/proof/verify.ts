import { type SQL, and, asc, eq, gt, inArray, sql } from "drizzle-orm";
import { type Database, type Transaction, transact } from "../../db/client";
import { workshopIds } from "../../db/queries/doors";
import { machine, seal, signature, workshop, workshopKey } from "../../db/schema";
import { isKeyOf, isSignedBy, keyId, sha256, signingKey } from "./keys";
import { type Head, headsIn, isComplete, keepHeads, keepLook } from "./memory";
import { ADDED, hashedRows, mayGrow, ofRecord } from "./records";
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
  /** What was signed, or added to it, and has no statement: by a version that made none. */
  readonly unsealed: number;
}

const AT_A_TIME = 100;
/** Statements of one job. Our choice: more corrections than anybody makes. */
const MOST_OF_A_JOB = 1000;
/** Of what a look found, so much is kept for the workshop’s lead. */
const KEPT = 20;

/**
 * @param memory the folder beside the keys in which is kept, from look to look, what the database alone could be made to forget
 * @param onSome hears how many seals were looked at
 */
export function verify(db: Database, options: Options = {}): Promise<Looked> {
  // One moment of the records, whatever is written meanwhile. It changes nothing, and nobody waits for it.
  // eslint-disable-next-line no-restricted-syntax
  return db.transaction((tx) => verifyIn(tx, options), { isolationLevel: "repeatable read", accessMode: "read only" });
}

interface Options {
  onSome?: (done: number) => void;
  memory?: string;
}

/** The same inside a transaction: of a database that was changed, before anybody else sees it. */
export async function verifyIn(db: Transaction, { onSome = () => {}, memory }: Options = {}): Promise<Looked> {
  const all: Found[] = [];
  let [seals, unsealed] = [0, 0];
  for (const id of await workshopIds(db)) {
    // Behind the wall of each, one after the other: the wall does not stand before the owner of the tables, but before the application.
    await db.execute(sql`select set_config('gauge.workshop', ${id}, true)`);
    const [named] = await db.select({ name: workshop.name }).from(workshop).where(eq(workshop.id, id));
    const shop = { id, name: named!.name };
    const found: Found[] = [];
    const before = seals;
    const trusted = await trustedKeys(db, shop.id);
    const heads = new Map<string, Head>();
    for (let after = 0; ;) {
      const some = await sealsAfter(db, shop.id, after);
      if (some.length === 0) break;
      found.push(...(await look(db, shop, some, { trusted, heads })));
      after = some.at(-1)!.sequence;
      seals += some.length;
      onSome(seals);
    }
    const without = await withoutStatement(db, shop);
    if (memory) {
      found.push(...(await gone(db, shop, headsIn(memory, id), heads)));
      if (isComplete(memory, id)) found.push(...without);
      else unsealed += without.length;
      if (found.length === 0) keepHeads(memory, id, heads);
      const first = found.slice(0, KEPT).map(({ serial, what }) => ({ serial, what }));
      const more = found.length - first.length;
      keepLook(memory, id, { at: new Date().toISOString(), seals: seals - before, found: first, more });
    } else unsealed += without.length;
    all.push(...found);
  }
  return { seals, found: all, unsealed };
}

/** How a signed job stands, as every address that shows it says. */
export interface Proof {
  /** It is what was signed, all that it rests on included; not so where it has no statement. */
  readonly holds: boolean;
  /** What was added afterwards and stands as it was added: ids of the records. */
  readonly sound: ReadonlySet<string>;
  /** The serial that was signed, where the register says another now; else "". */
  readonly serialThen: string;
  /** The key its statement names, for whoever checks; null where it has no statement. */
  readonly keyId: string | null;
}

/** Looks at one signed job and what was added to it: the same look as at night, but for the chain of its machine. */
export const proofOf = (db: Database, workshopId: string, jobId: string): Promise<Proof> =>
  transact(db, (tx) => proofIn(tx, workshopId, jobId));

/** The same inside a transaction. */
export async function proofIn(tx: Transaction, workshopId: string, jobId: string): Promise<Proof> {
  const rows = await sealsWhere(tx, and(eq(seal.workshopId, workshopId), eq(seal.jobId, jobId)), MOST_OF_A_JOB);
  const shop = { id: workshopId, name: "" };
  const found = await look(tx, shop, rows, { trusted: await trustedKeys(tx, workshopId), heads: null });
  const changed = new Set(found.map((f) => f.amends));
  const own = rows.find((row) => row.amends === null);
  const signed = own?.document ? (JSON.parse(own.document) as { machine?: { serial?: string } }).machine?.serial : "";
  return {
    holds: own !== undefined && !changed.has(null),
    sound: new Set(rows.flatMap(({ amends }) => (amends && !changed.has(amends) ? [amends] : []))),
    serialThen: signed && signed !== own!.serial ? signed : "",
    keyId: own?.keyId ?? null,
  };
}

type Row = Awaited<ReturnType<typeof sealsAfter>>[number];

const sealsAfter = (db: Transaction, workshopId: string, after: number) =>
  sealsWhere(db, and(eq(seal.workshopId, workshopId), gt(seal.sequence, after)), AT_A_TIME);

function sealsWhere(db: Transaction, which: SQL | undefined, limit: number) {
  return db
    .select({
      sequence: seal.sequence,
      jobId: seal.jobId,
      machineId: seal.machineId,
      no: seal.no,
      amends: seal.amends,
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
    .where(which)
    .orderBy(asc(seal.sequence))
    .limit(limit);
}

/** Keys by their ids. The one of the key folder is sure; those of earlier years are taken from the database, whose ids hold them. */
async function trustedKeys(db: Transaction, workshopId: string): Promise<Map<string, string>> {
  const rows = await db
    .select({ id: workshopKey.id, publicKey: workshopKey.publicKey })
    .from(workshopKey)
    .where(eq(workshopKey.workshopId, workshopId));
  const known = new Map(rows.filter((r) => idHolds(r.publicKey, r.id)).map((r) => [r.id, r.publicKey]));
  const own = signingKey(workshopId);
  return new Map([...known].filter(([id]) => isKeyOf(workshopId, id))).set(own.id, own.publicKey);
}

function idHolds(pem: string, id: string): boolean {
  try {
    return keyId(pem) === id;
  } catch {
    return false;
  }
}

/** Whatever was signed, or added to it, without a statement. */
async function withoutStatement(db: Transaction, shop: { id: string; name: string }): Promise<Found[]> {
  const queries = [
    sql`select 'job' as "table", t.id as name, t.id as job, t.machine_id from job t where t.workshop_id = ${shop.id} and t.state = 'signed'
      and not exists (select from seal s where s.workshop_id = t.workshop_id and s.job_id = t.id and s.amends is null)`,
    ...ADDED.map(
      ({ table, unsealed }) => sql`select ${table} as "table", t.id as name, t.job_id as job, j.machine_id
        from ${sql.identifier(table)} t join job j on j.workshop_id = t.workshop_id and j.id = t.job_id
        where t.workshop_id = ${shop.id} and ${sql.raw(unsealed)}`,
    ),
  ];
  const { rows } = await db.execute<{ table: string; name: string; job: string; serial: string }>(sql`
    select u.*, m.serial from (${sql.join(queries, sql` union all `)}) u join machine m on m.id = u.machine_id order by u.job, u.name`);
  return rows.map(({ table, name, job: of, serial }) => {
    return { workshop: shop.name, job: of, serial, what: `${table} ${name}: put in, without a statement` };
  });
}

/** What was taken off the end of a chain is missed by nothing else. */
async function gone(
  db: Transaction,
  shop: { id: string; name: string },
  before: Readonly<Record<string, Head>>,
  heads: ReadonlyMap<string, Head>,
): Promise<Found[]> {
  const missing = Object.entries(before).filter(([machineId, was]) => {
    const now = heads.get(machineId);
    return !now || now.no < was.no || (now.no === was.no && now.hash !== was.hash);
  });
  if (missing.length === 0) return [];
  const ids = missing.map(([machineId]) => machineId);
  const machines = await db
    .select({ id: machine.id, serial: machine.serial })
    .from(machine)
    .where(and(eq(machine.workshopId, shop.id), inArray(machine.id, ids)));
  const serials = new Map(machines.map((m) => [m.id, m.serial]));
  return missing.map(([machineId, { no }]) => {
    const what = `its statement ${no}, seen at an earlier look, is gone or was made anew`;
    return { workshop: shop.name, job: "", serial: serials.get(machineId) ?? machineId, what };
  });
}

interface Known {
  trusted: Map<string, string>;
  /** The newest statement seen of each machine; null where one job is looked at by itself, and the chain is not. */
  heads: Map<string, Head> | null;
}

/** Found, and of which statement: of the job as it was signed, or of what was added to it, by the id of that. */
interface FoundOf extends Found {
  readonly amends: string | null;
}

async function look(
  db: Transaction,
  shop: { id: string; name: string },
  rows: readonly Row[],
  { trusted, heads }: Known,
): Promise<FoundOf[]> {
  const found: FoundOf[] = [];
  const statements = rows.map((row) => ({ row, says: statementOf(row) }));
  // Statements that cover the same columns, mostly all of them, are looked up together.
  const groups = new Map<string, typeof statements>();
  for (const one of statements) {
    const { row, says } = one;
    const of = { workshop: shop.name, job: row.jobId, serial: row.serial, amends: row.amends };
    const say = (what: string) => found.push({ ...of, what });
    const key = trusted.get(row.keyId);
    if (!key) say(`its statement names a key that is not the workshop’s: ${row.keyId.slice(0, 16)}…`);
    else if (!isSignedBy(row.content, row.signature, key))
      say("its statement was changed: the workshop’s key did not sign it");
    if (!says) {
      say("its statement can’t be read");
      continue;
    }
    if (sha256(row.content) !== row.hash) say("its statement was changed: its hash is another");
    const before = heads?.get(row.machineId);
    if (heads && (says.before !== (before?.hash ?? null) || says.no !== (before?.no ?? 0) + 1))
      say("a statement before it is missing, or was made anew");
    heads?.set(row.machineId, { no: says.no, hash: row.hash });
    if (says.job !== row.jobId || says.machine !== row.machineId || says.workshop !== shop.id)
      say("its statement is of another job or machine");
    if ((says.amends?.id ?? null) !== row.amends) say("its statement is of another addition");
    if (row.document === null) say("signature: taken away");
    else {
      if (sha256(row.document) !== says.document) say("signature: the document was changed");
      if (row.documentHash !== says.document) say("signature: the hash beside the document was changed");
    }
    const same = JSON.stringify([says.amends !== undefined, says.covered]);
    groups.set(same, [...(groups.get(same) ?? []), one]);
  }
  for (const group of groups.values()) {
    const { covered, amends } = group[0]!.says!;
    const jobs = group.map(({ row }) => row.jobId);
    const hashes = await hashedRows(db, shop.id, jobs, covered, amends ? "added" : "signed");
    for (const { row, says } of group) {
      const all = hashes.get(row.jobId)!;
      const now = says?.amends ? ofRecord(all, says.amends.id) : all;
      for (const table of Object.keys(covered))
        for (const what of differing(table, says!.records[table] ?? {}, now[table] ?? {}))
          found.push({ workshop: shop.name, job: row.jobId, serial: row.serial, amends: row.amends, what });
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
