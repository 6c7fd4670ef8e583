import type { Readable } from "node:stream";
import type pg from "pg";
import { to as copyTo } from "pg-copy-streams";
import { lineEnds } from "./line-ends";
import { FORMAT, FORMAT_VERSION, SECTIONS, type Section, WORKSHOP_FIELDS, fromSection } from "./sections";
import { type Scope, scopeText } from "./scope";

/** The records of a scope as one JSON document, a row a line, without ever holding more of it than a piece. */

/**
 * JSON as PostgreSQL writes it has no line end and no control character inside: with quote and delimiter that it never holds, a copy as
 * CSV is the bare text, a row a line.
 */
const BARE = `(format csv, quote E'\\x01', delimiter E'\\x02', encoding 'UTF8')`;

/** One row of a section as JSON, of a row called t. */
export const rowJson = ({ fields }: Section) =>
  `json_build_object(${fields.map((f) => `'${f.name}', ${f.sql}`).join(", ")})::text`;

const order = (s: Section) => s.key.map((k) => `t."${k}"`).join(", ");

export async function* recordsOf(
  client: pg.Client,
  scope: Scope,
  workshopId: string,
  { madeAt, onRows }: { madeAt: Date; onRows: (section: string, count: number) => void },
): AsyncGenerator<Buffer> {
  const { rows } = await client.query<{ shop: string }>(
    `select json_build_object(${WORKSHOP_FIELDS.map((c) => `'${c}', ${c}`).join(", ")})::text as shop from workshop where id = '${workshopId}'`,
  );
  const head = { format: FORMAT, version: FORMAT_VERSION, made_at: madeAt.toISOString(), scope: scopeText(scope) };
  yield Buffer.from(`${JSON.stringify(head).slice(0, -1)},\n"workshop":${rows[0]!.shop}`);
  for (const section of SECTIONS) {
    yield Buffer.from(`,\n"${section.name}":[\n`);
    const copy: Readable = client.query(
      copyTo(
        `copy (select ${rowJson(section)} ${fromSection(section, scope, workshopId)} order by ${order(section)}) to stdout ${BARE}`,
      ),
    );
    const ended = lineEnds("json", (count) => onRows(section.name, count));
    copy.on("error", (error) => ended.destroy(error));
    yield* copy.pipe(ended) as AsyncIterable<Buffer>;
    yield Buffer.from("]");
  }
  yield Buffer.from("\n}\n");
}

export async function countRecords(client: pg.Client, scope: Scope, workshopId: string): Promise<number> {
  let all = 0;
  for (const section of SECTIONS) {
    const { rows } = await client.query<{ n: string }>(
      `select count(*) as n ${fromSection(section, scope, workshopId)}`,
    );
    all += Number(rows[0]!.n);
  }
  return all;
}
