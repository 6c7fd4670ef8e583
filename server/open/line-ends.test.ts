import fc from "fast-check";
import { parse } from "csv-parse/sync";
import { lineEnds } from "./line-ends";

const run = async (kind: "csv" | "json", chunks: Buffer[]) => {
  let rows = 0;
  const ended = lineEnds(kind, (n) => (rows += n));
  const out: Buffer[] = [];
  ended.on("data", (part: Buffer) => out.push(part));
  for (const chunk of chunks) ended.write(chunk);
  ended.end();
  await new Promise((resolve) => ended.once("end", resolve));
  return { text: Buffer.concat(out).toString(), rows };
};

/** A text cut into pieces anywhere. */
const cut = (text: string, at: number[]) => {
  const bytes = Buffer.from(text);
  const places = [...new Set(at.map((a) => a % (bytes.length + 1)))].sort((a, b) => a - b);
  return [0, ...places].map((from, i) => bytes.subarray(from, places[i] ?? bytes.length));
};
const cuts = fc.array(fc.nat(), { maxLength: 8 });
const quoted = (word: string) => `"${word.replaceAll('"', '""')}"`;

test("tables end their lines with CR LF, words keep theirs, wherever the pieces are cut", () =>
  fc.assert(
    fc.asyncProperty(
      fc.array(fc.array(fc.constantFrom("a", "b\nc", 'd"e', "", "ö,ü"), { minLength: 2, maxLength: 2 }), {
        minLength: 1,
      }),
      cuts,
      async (rows, at) => {
        const copied = rows.map((r) => r.map(quoted).join(",") + "\n").join("");
        const { text, rows: counted } = await run("csv", cut(copied, at));
        expect(parse(text, { record_delimiter: "\r\n" })).toEqual(rows);
        expect(text.endsWith("\r\n")).toBe(true);
        expect(counted).toBe(rows.length);
      },
    ),
  ));

test("rows of a list have commas between them, and none after the last", () =>
  fc.assert(
    fc.asyncProperty(fc.array(fc.record({ a: fc.string(), n: fc.integer() })), cuts, async (rows, at) => {
      const copied = rows.map((r) => JSON.stringify(r) + "\n").join("");
      const { text, rows: counted } = await run("json", cut(copied, at));
      expect(JSON.parse(`[${text}]`)).toEqual(rows);
      expect(counted).toBe(rows.length);
    }),
  ));
