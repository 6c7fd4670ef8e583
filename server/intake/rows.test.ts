import { mkdtempSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import fc from "fast-check";
import Papa from "papaparse";
import { aside } from "../aside/threads";
import { type FileRow, Unreadable, rowsOf, rowsOfText } from "./rows";

/** Files as hostile as they come: each is read in the time that its bytes take, or refused in words, and no process is held up. */

const folder = mkdtempSync(join(tmpdir(), "rows-"));
afterAll(() => rmSync(folder, { recursive: true }));
const file = (content: string | Buffer) => {
  const path = join(folder, "file.csv");
  writeFileSync(path, content);
  return path;
};
const form = { encoding: "utf-8", separator: ";" } as const;
async function read(content: string | Buffer): Promise<FileRow[]> {
  const rows: FileRow[] = [];
  for await (const row of rowsOf(file(content), form)) rows.push(row);
  return rows;
}

const VISITS = `day;serial\n${"2.1.2024;BV-1\n".repeat(500)}`;
/** Pieces of a file that are looked at before it ends, s: what grew with the square took minutes. */
const SOON = 20_000;

test(
  "rows of blanks at its end, as spreadsheets save them, are no rows",
  async () => {
    const rows = await read(VISITS + ";;;;;;\r\n".repeat(300_000));
    expect(rows).toHaveLength(501);
    expect(rows.at(-1)).toMatchObject({ line: 501, cells: ["2.1.2024", "BV-1"] });
  },
  SOON,
);

test.each([
  ["20 MB of line ends", () => "\n".repeat(20_000_000), /more than 1000000 lines/],
  ["as many carriage returns", () => "\r".repeat(20_000_000), /more than 1000000 lines/],
  [
    "60 rows of a million empty cells",
    () => `${";".repeat(1_000_000)}\n`.repeat(60),
    /Line 1 has more than 1000 cells/,
  ],
  ["a quote that nobody closes", () => `${VISITS}"${"a;b\n".repeat(2_000_000)}`, /quote that begins near line 502/],
  ["one line without end", () => "x".repeat(20_000_000), /near line 1 /],
  ["a byte that is a quote, over and over", () => '"\n'.repeat(2_000_001), /line 1|1000000/],
  ["zeros alone", () => Buffer.alloc(20_000_000), /near line 1 /],
])(
  "%s: refused where it passes the bound",
  async (_, content, says) => {
    await expect(read(content())).rejects.toThrow(says);
    await expect(read(content())).rejects.toBeInstanceOf(Unreadable);
  },
  SOON,
);

test(
  "a small table of more rows than it may have is refused in the thread that reads it, and this process goes on meanwhile",
  async () => {
    const ticks: number[] = [];
    const timer = setInterval(() => ticks.push(performance.now()), 5);
    const text = "a;b\n".repeat(370_000);
    await expect(aside({ kind: "text", text, separator: ";", most: 2000 }, { field: "file" })).rejects.toMatchObject({
      message: "More than 2000 rows. Cut the file in pieces.",
      field: "file",
    });
    clearInterval(timer);
    expect(ticks.length).toBeGreaterThan(3);
    // The thread is none the worse for it.
    expect(await aside({ kind: "text", text: "a;b", separator: ";", most: 1 })).toEqual([
      { line: 1, cells: ["a", "b"] },
    ]);
  },
  SOON,
);

test("whatever cells, however its lines end and wherever a piece of the file does: the same rows, at their lines", async () => {
  const cell = fc.stringMatching(/^[a-z"; ,\n]{0,6}$/).map((s) => s.trim() || "x");
  await fc.assert(
    fc.asyncProperty(
      fc.array(fc.array(cell, { minLength: 1, maxLength: 4 }), { minLength: 1, maxLength: 8 }),
      fc.constantFrom("\n", "\r\n", "\r"),
      async (table, newline) => {
        const text = Papa.unparse(table, { delimiter: ";", newline }).replaceAll(/(?<!\r)\n(?!$)/g, newline);
        const rows = await rowsOfText(text, ";", 100);
        expect(rows.map((r) => r.cells)).toEqual(table);
        const lines = table.map((row) => 1 + row.join("").split("\n").length - 1);
        expect(rows.map((r) => r.line)).toEqual(lines.map((_, i) => 1 + lines.slice(0, i).reduce((a, b) => a + b, 0)));
      },
    ),
    { numRuns: 150 },
  );
});

test("a row over the end of a piece, with a line end cut in two there, is one row", async () => {
  const long = "y".repeat(256 * 1024 - 8);
  const text = `${`${"z".repeat(1000)}\r\n`.repeat(600)}a;"b\r\nc"\r\nlast`;
  const rows = await read(text);
  expect(rows.at(-2)).toMatchObject({ line: 601, cells: ["a", "b\nc"] });
  expect(rows.at(-1)).toMatchObject({ line: 603, cells: ["last"] });
  for (const shift of [0, 1, 2, 3]) {
    const cut = await rowsOfText(`${"y\n".repeat(131_060)}${"w".repeat(shift)}x;1\r\n2;3\r\n`, ";", 200_000);
    expect(cut.slice(-2).map((r) => r.cells)).toEqual([
      [`${"w".repeat(shift)}x`, "1"],
      ["2", "3"],
    ]);
  }
  await expect(rowsOfText(long, ";", 10)).rejects.toBeInstanceOf(Unreadable);
});
