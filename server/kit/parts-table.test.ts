import { tableOfText } from "../table-text";
import { MOST_PARTS, type PartLine, partsTable, readPartsTable } from "./parts-table";

/** The parts list out as a table and in again; RFC 4180, read by npm papaparse. */

const read = async (text: string) => readPartsTable(await tableOfText(text, MOST_PARTS, "table"), MODELS);
const MODELS = [
  { id: "m1", name: "Brandvik Skerry" },
  { id: "m2", name: "Halvorsen & Pye Headland Two" },
];
const part = (more: Partial<PartLine> = {}): PartLine => ({
  ...{ name: "Group gasket", number: "LT-1085", fits: [], stock: 11, reorderAt: 4, price: 3.2 },
  ...more,
});

test("out and in again it is the same list: commas, quotes and formulas in it too", async () => {
  const parts = [
    part({ fits: ["m1", "m2"] }),
    part({ name: 'Hose, "braided"', number: "12;5", price: null, reorderAt: null }),
    part({ name: "=1+1 screen", number: "-7" }),
  ];
  const text = partsTable(parts, MODELS);
  expect(await read(text)).toEqual({ lines: parts });
  // Nothing in it begins as a formula does.
  for (const cell of text.split(/[,\r\n]+/)) expect(cell.replace(/^"/, "")).not.toMatch(/^[=+@]/);
});

test.each([
  ["semicolons and decimal commas", "name;stock;price\nPump;2;41,50"],
  ["tabs, other order, odd heads", "Price\tName\t Stock \n41.5\tPump\t2"],
  ["with a mark at the front, empty lines", "\uFEFFname,stock,price\r\n\r\nPump,2,41.5\r\n\r\n"],
])("as others write it: %s", async (_, text) => {
  expect(await read(text)).toEqual({
    lines: [{ name: "Pump", number: "", fits: [], stock: 2, reorderAt: null, price: 41.5 }],
  });
});

test.each([
  ["stock", 'name,stock\nPump,"1,000"'],
  ["stock", "name;stock\nPump;1.000"],
  ["price", "name;price\nPump;1.500"],
])("a thousands mark may be a decimal one: asked, not guessed (%s)", async (column, text) => {
  expect((await read(text)).faults).toEqual([expect.stringMatching(new RegExp(`${column}: .*two ways`))]);
});

test("what is wrong is told by line and column, and nothing is taken", async () => {
  const { faults, lines } = await read(
    "name,number,fits,stock,order_at,price\nP,,,1,,\nPump,1,Nobody’s,−3,x,1e9\nHose,1,,1,,\nhose,1,,2,,",
  );
  expect(lines).toBeUndefined();
  expect(faults!.toSorted()).toEqual([
    "Line 2, name: from 2 to 120 characters.",
    "Line 3, fits: no model “Nobody’s” is in the library.",
    "Line 3, order_at: “x” is not a whole number from 0 to 1,000,000.",
    "Line 3, price: “1e9” is not a number from 0 to 1,000,000.",
    "Line 3, stock: “−3” is not a whole number from 0 to 1,000,000.",
    "Line 5, name: “hose” with this number stands above already.",
  ]);
});

test.each([
  ["", /names the columns/],
  ["stock\n3", /names the columns/],
  ["name,stock\n", /no line below/],
  [`name,stock\n${"x,1\n".repeat(50)}`, /And \d+ more/],
])("a table that is none: %#", async (text, says) => {
  expect((await read(text)).faults!.join("\n")).toMatch(says);
});

test("more lines than a workshop keeps are refused before any is read; a full-width sign begins a formula too", async () => {
  await expect(read(`name\n${"Pump\n".repeat(2001)}`)).rejects.toMatchObject({ field: "table" });
  expect(partsTable([part({ name: "＝1+1 screen" })], MODELS)).toContain("'＝1+1 screen");
});
