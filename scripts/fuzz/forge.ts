import { join } from "node:path";
import { eq, sql } from "drizzle-orm";
import { getDocument } from "pdfjs-dist/legacy/build/pdf.mjs";
import { NOT_AS_SIGNED } from "../../core/job";
import { connect, poolOf } from "../../db/client";
import { ownerLink } from "../../db/schema";
import { linkTokenOf } from "../../server/open-links";
import { FORGERIES } from "../../server/proof/forgeries.fixture";
import { signedIn } from "../lib/signed-in";

/**
 * Forges signed visits behind the running application, one forgery after the other, and asks every address that shows the visit: each has to say
 * that it is not what was signed. Each is undone again, and then none may say so.
 */
const base = process.env.BASE_URL!;
const db = connect(process.env.DATABASE_URL!);
const wrong: string[] = [];
const cookie = await signedIn(base);
const token = await program();
let asked = 0;

for (const { what, table, statement } of FORGERIES) {
  const job = await jobWith(table);
  const tables = [...new Set([...statement.matchAll(/\b(?:update|delete from|insert into) (\w+)/g)].map((m) => m[1]!))];
  const addresses = await addressesOf(job);
  const undo = await kept(tables, job);
  await behind(statement.replaceAll("$job", job));
  try {
    for (const [name, says] of addresses) {
      asked++;
      const said = await says();
      if (!said) wrong.push(`${what}: ${name} says nothing`);
    }
  } finally {
    await undo();
  }
  for (const [name, says] of addresses) if (await says()) wrong.push(`${what}, undone: ${name} still says so`);
}
console.log(
  `Forgeries: ${FORGERIES.length}, at ${asked / FORGERIES.length} addresses each; ${wrong.length} not as they should be.`,
);
for (const line of wrong.slice(0, 30)) console.error(`✘ ${line}`);
await poolOf(db).end();
process.exit(wrong.length === 0 ? 0 : 1);

/** The newest of the signed jobs with rows in a table, of the workshop whose lead is signed in. */
async function jobWith(table: string): Promise<string> {
  const only = table === "shot" ? "and not t.amends" : "";
  const { rows } = await db.execute<{ job: string }>(
    sql.raw(`select s.job_id as job from seal s join account a on a.workshop_id = s.workshop_id and a.email = 'ilka@lowtide.example'
      where s.amends is null and exists (select from ${table} t where t.job_id = s.job_id ${only}) order by s.sequence desc limit 1`),
  );
  if (!rows[0]) throw new Error(`No signed job has rows in ${table}.`);
  return rows[0].job;
}

/** Every address that shows a signed visit, and whether it says that it is not what was signed. */
async function addressesOf(job: string): Promise<[name: string, says: () => Promise<boolean>][]> {
  const [link] = await db.select().from(ownerLink).where(eq(ownerLink.jobId, job));
  const its = linkTokenOf("owner", link!)!;
  const text = async (path: string) => (await get(path)).body.toString("utf8");
  const has = (words: string) => words.replace(/\s+/g, " ").includes(NOT_AS_SIGNED);
  return [
    ["sheet", async () => has(await text(`/jobs/${job}`))],
    ["report", async () => has(await paper(`/jobs/${job}/report/file`))],
    ["owner’s page", async () => has(await text(`/owner/${its}`))],
    ["owner’s paper", async () => has(await paper(`/owner/${its}/pdf/file`))],
    ["owner’s table", async () => has(await text(`/owner/${its}/csv`))],
    ["owner’s card", async () => has(await text(`/card/${its}`))],
    ["program’s document", async () => (await get(`/api/v1/visits/${job}`)).headers.get("Record-State") === "changed"],
  ];
}

async function get(path: string) {
  const headers: Record<string, string> = path.startsWith("/api/")
    ? { Authorization: `Bearer ${token}` }
    : { Cookie: cookie };
  const answer = await fetch(`${base}${path}`, { headers, redirect: "manual" });
  if (answer.status >= 500) wrong.push(`${path} answered ${answer.status}`);
  return { status: answer.status, headers: answer.headers, body: Buffer.from(await answer.arrayBuffer()) };
}

/** What stands on a paper. One that can’t be made of what is left says so as the others do. */
async function paper(path: string): Promise<string> {
  const { body } = await get(path);
  if (body.subarray(0, 5).toString() !== "%PDF-") return body.toString("utf8");
  const pdf = await getDocument({
    data: new Uint8Array(body),
    standardFontDataUrl: join(process.cwd(), "node_modules/pdfjs-dist/standard_fonts/"),
    verbosity: 0,
  }).promise;
  const pages: string[] = [];
  for (let n = 1; n <= pdf.numPages; n++) {
    const { items } = await (await pdf.getPage(n)).getTextContent();
    pages.push(items.map((item) => ("str" in item ? item.str : "")).join(" "));
  }
  await pdf.destroy();
  return pages.join(" ");
}

/** The rows of some tables that a forgery touches, and how they are put back. */
async function kept(tables: readonly string[], job: string): Promise<() => Promise<void>> {
  const which = (table: string) =>
    ({
      account: `id in (select by from reading where job_id = '${job}')`,
      instrument: `id in (select instrument_id from reading where job_id = '${job}')`,
      job: `id = '${job}'`,
    })[table] ?? `job_id = '${job}'`;
  for (const table of tables)
    await behind(`create table forge_${table} as select * from ${table} where ${which(table)}`);
  return async () => {
    for (const table of tables) {
      await behind(`delete from ${table} where ${which(table)};
        insert into ${table} overriding system value select * from forge_${table}; drop table forge_${table}`);
    }
  };
}

/** As whoever owns the tables: guards stand aside. */
async function behind(statement: string) {
  await db.transaction(async (tx) => {
    await tx.execute(sql`set local session_replication_role = replica`);
    await tx.execute(sql.raw(statement));
  });
}

async function program(): Promise<string> {
  const body = new URLSearchParams({
    intent: "token",
    commandId: crypto.randomUUID(),
    name: "Forge",
    days: "30",
    scopes: "read",
  });
  const answer = await fetch(`${base}/access`, { method: "POST", body, headers: { Origin: base, Cookie: cookie } });
  return /gauge_[\w-]{43}/.exec(await answer.text())![0];
}
