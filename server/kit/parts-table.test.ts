import { type PartLine, partsTable, readPartsTable } from "./parts-table";

/** The parts list out as a table and in again; RFC 4180, read by npm papaparse. */

const MODELS = [
  { id: "m1", name: "Brandvik Skerry" },
  { id: "m2", name: "Halvorsen & Pye Headland Two" },
];
const part = (more: Partial<PartLine> = {}): PartLine => ({
  ...{ name: "Group gasket", number: "LT-1085", fits: [], stock: 11, reorderAt: 4, price: 3.2 },
  ...more,
});

test("out and in again it is the same list: commas, quotes and formulas in it too", () => {
  const parts = [
    part({ fits: ["m1", "m2"] }),
    part({ name: 'Hose, "braided"', number: "12;5", price: null, reorderAt: null }),
    part({ name: "=1+1 screen", number: "-7" }),
  ];
  const text = partsTable(parts, MODELS);
  expect(readPartsTable(text, MODELS)).toEqual({ lines: parts });
  // Nothing in it begins as a formula does.
  for (const cell of text.split(/[,\r\n]+/)) expect(cell.replace(/^"/, "")).not.toMatch(/^[=+@]/);
});

test.each([
  ["semicolons and decimal commas", "name;stock;price\nPump;2;41,50"],
  ["tabs, other order, odd heads", "Price\tName\t Stock \n41.5\tPump\t2"],
  ["with a mark at the front, empty lines", "\uFEFFname,stock,price\r\n\r\nPump,2,41.5\r\n\r\n"],
])("as others write it: %s", (_, text) => {
  expect(readPartsTable(text, MODELS)).toEqual({
    lines: [{ name: "Pump", number: "", fits: [], stock: 2, reorderAt: null, price: 41.5 }],
  });
});

test.each([
  ["stock", 'name,stock\nPump,"1,000"'],
  ["stock", "name;stock\nPump;1.000"],
  ["price", "name;price\nPump;1.500"],
])("a thousands mark may be a decimal one: asked, not guessed (%s)", (column, text) => {
  expect(readPartsTable(text, MODELS).faults).toEqual([expect.stringMatching(new RegExp(`${column}: .*two ways`))]);
});

test("what is wrong is told by line and column, and nothing is taken", () => {
  const { faults, lines } = readPartsTable(
    "name,number,fits,stock,order_at,price\nP,,,1,,\nPump,1,Nobody’s,−3,x,1e9\nHose,1,,1,,\nhose,1,,2,,",
    MODELS,
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
  [`name\n${"Pump\n".repeat(2001)}`, /2001 lines/],
  [`name,stock\n${"x,1\n".repeat(50)}`, /And \d+ more/],
])("a table that is none: %#", (text, says) => {
  expect(readPartsTable(text, MODELS).faults!.join("\n")).toMatch(says);
});
