import { mkdtempSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { piecesOf } from "./parse";

/** Documents that would fill the memory of whoever reads them: refused where they pass the bound. */

const folder = mkdtempSync(join(tmpdir(), "pieces-"));
afterAll(() => rmSync(folder, { recursive: true }));
async function read(content: string) {
  const path = join(folder, "records.json");
  writeFileSync(path, content);
  let rows = 0;
  for await (const piece of piecesOf(path)) if (piece.kind === "row") rows += 1;
  return rows;
}

test.each([
  ["brackets in brackets", `{"visits":[${"[".repeat(20_000_000)}`, /more than 40 deep/],
  ["objects in objects", `{"visits":[${'{"a":'.repeat(1_000_000)}`, /more than 40 deep/],
  ["a text that never ends", `{"visits":[{"id":"${"x".repeat(6_000_000)}`, /row is longer/],
  ["quotes in it do not end it", `{"visits":[{"id":"${'\\"'.repeat(3_000_000)}`, /row is longer/],
  ["a row that never ends", `{"visits":[{${`"${"a".repeat(90)}":1,`.repeat(60_000)}`, /row is longer/],
  ["a number that never ends", `{"visits":[{"n":${"9".repeat(6_000_000)}`, /row is longer/],
  ["blanks without end", `{"visits":[${" ".repeat(6_000_000)}`, /row is longer/],
])(
  "%s",
  async (_, content, says) => {
    const refused = await read(content).catch((error: unknown) => error);
    expect(refused).toBeInstanceOf(SyntaxError);
    expect((refused as Error).message).toMatch(says);
  },
  30_000,
);

test("many rows, commas and brackets in their texts, however it is laid out, are read", async () => {
  const row = { id: 'a",[{', deep: [[[[{ b: "}" }]]]], long: "y".repeat(1_000_000) };
  const document = { format: "x", visits: Array.from({ length: 40 }, () => row), parts: [1, 2] };
  expect(await read(JSON.stringify(document))).toBe(40);
  expect(await read(JSON.stringify(document, null, 2))).toBe(40);
});
