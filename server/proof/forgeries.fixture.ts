/**
 * Forgeries of a signed visit, by whoever has the database and can set its guards aside: each in a job that has such rows. In the statement
 * `$job` is the job’s id.
 */
export interface Forgery {
  readonly what: string;
  /** In which the job must have rows. */
  readonly table: string;
  readonly statement: string;
  /** What the night’s look says of it. */
  readonly says: RegExp;
}

/** The first row of the job in a table. */
const one = (table: string, and = "true") =>
  `where ctid = (select ctid from ${table} where job_id = '$job' and ${and} limit 1)`;
const document = (from: string, to: string) =>
  `update signature set document = (replace(document::text, ${from}, ${to}))::json where job_id = '$job'`;
const REHASHED = `update signature set hash = encode(sha256(convert_to(document::text, 'UTF8')), 'hex') where job_id = '$job'`;
const OTHER_TEXT = `replace(content, '"version":1', '"version": 1')`;

const rows: readonly [what: string, table: string, statement: string, says: RegExp][] = [
  [
    "the technician’s name",
    "signature",
    "update signature set name = 'Somebody Else' where job_id = '$job'",
    /signature .*: changed/,
  ],
  [
    "the technician’s name in the document",
    "signature",
    document("document->>'technician'", "'Somebody Else'"),
    /the document was changed/,
  ],
  [
    "a figure of the document, with its hash",
    "reading",
    `${document("'\"value\":'", "'\"value\":1'")}; ${REHASHED}`,
    /the hash beside the document was changed/,
  ],
  [
    "two readings, and the document and hash with them",
    "reading",
    `update reading set value = value + 0.7, indicated = indicated + 0.7 where id in (select id from reading where job_id = '$job' limit 2);
     ${document("'\"value\":'", "'\"value\":1'")}; ${REHASHED}`,
    /reading .*: changed/,
  ],
  [
    "the remark",
    "signature",
    "update signature set remark = remark || ' All is well.' where job_id = '$job'",
    /signature .*: changed/,
  ],
  ["the signature taken away", "signature", "delete from signature where job_id = '$job'", /signature: taken away/],
  ["a reading", "reading", `update reading set value = value + 0.1 ${one("reading")}`, /reading .*: changed/],
  ["who read it", "reading", `update reading set by = gen_random_uuid() ${one("reading")}`, /reading .*: changed/],
  [
    "the name of who read it",
    "reading",
    `update account set name = 'Somebody Else' where id = (select by from reading where job_id = '$job' limit 1)`,
    /account .*: changed/,
  ],
  [
    "when it was read",
    "reading",
    `update reading set at = at - interval '1 day' ${one("reading")}`,
    /reading .*: changed/,
  ],
  ["a reading taken away", "reading", `delete from reading ${one("reading")}`, /reading .*: taken away/],
  [
    "the papers of the gauge it was read with",
    "reading",
    `update instrument set error = '{"form":"limit","limit":0.001}' where id = (select instrument_id from reading where job_id = '$job' limit 1)`,
    /instrument .*: changed/,
  ],
  [
    "an adjustment",
    "adjustment",
    `update adjustment set amount = amount + 1 ${one("adjustment")}`,
    /adjustment .*: changed/,
  ],
  [
    "an adjustment taken away",
    "adjustment",
    `delete from adjustment ${one("adjustment")}`,
    /adjustment .*: taken away/,
  ],
  ["an entry", "entry", `update entry set typed = typed || '!' ${one("entry")}`, /entry .*: changed/],
  ["an entry taken away", "entry", `delete from entry ${one("entry")}`, /entry .*: taken away/],
  [
    "with what an entry was measured",
    "entry_instrument",
    `update entry_instrument set col = col || 'x' ${one("entry_instrument")}`,
    /entry_instrument .*: (taken away|put in)/,
  ],
  ["a tick taken away", "tick", `delete from tick ${one("tick")}`, /tick .*: taken away/],
  ["a note", "note", `update note set text = text || ' None.' ${one("note")}`, /note .*: changed/],
  [
    "a note put in",
    "reading",
    `insert into note (id, workshop_id, job_id, by, at, station, area, text) select gen_random_uuid(), workshop_id, id, started_by, started_at, 'look-over', '', 'Put in.' from job where id = '$job'`,
    /note .*: put in/,
  ],
  ["a clock", "timer", `update timer set due_at = due_at + interval '1 min' ${one("timer")}`, /timer .*: changed/],
  ["a repair taken away", "repair", `delete from repair ${one("repair")}`, /repair .*: taken away/],
  ["a shot", "shot", `update shot set u_dose = u_dose + 0.1 ${one("shot", "not amends")}`, /shot .*: changed/],
  ["a shot taken away", "shot", `delete from shot ${one("shot", "not amends")}`, /shot .*: taken away/],
  ["a programme", "programme", `update programme set target = target + 1 ${one("programme")}`, /programme .*: changed/],
  ["what was learnt", "response", `update response set value = value + 1 ${one("response")}`, /response .*: changed/],
  ["a figure of the results", "result", `update result set value = value + 1 ${one("result")}`, /result .*: changed/],
  ["a result taken away", "result", `delete from result ${one("result")}`, /result .*: taken away/],
  [
    "with what a result was read",
    "result_instrument",
    `delete from result_instrument ${one("result_instrument")}`,
    /result_instrument .*: taken away/,
  ],
  ["what the job began with", "reading", "update job set complaint = 'None.' where id = '$job'", /job .*: changed/],
  [
    "when it was signed",
    "reading",
    "update job set signed_at = signed_at - interval '1 day' where id = '$job'",
    /job .*: changed/,
  ],
  ["the statement", "seal", `update seal set content = ${OTHER_TEXT} where job_id = '$job'`, /key did not sign it/],
  [
    "the statement with its hash",
    "seal",
    `update seal set content = ${OTHER_TEXT}, hash = encode(sha256(convert_to(${OTHER_TEXT}, 'UTF8')), 'hex') where job_id = '$job'`,
    /key did not sign it/,
  ],
  [
    "another’s statement in its place",
    "seal",
    `update seal set content = o.content, hash = reverse(o.hash), signature = o.signature from seal o where seal.job_id = '$job' and o.workshop_id = seal.workshop_id and o.job_id <> seal.job_id and o.sequence = (select max(sequence) from seal x where x.workshop_id = seal.workshop_id and x.job_id <> '$job')`,
    /of another job or machine/,
  ],
];

export const FORGERIES: readonly Forgery[] = rows.map(([what, table, statement, says]) => ({
  what,
  table,
  statement,
  says,
}));
