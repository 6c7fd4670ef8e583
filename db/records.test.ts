import { readFileSync } from "node:fs";
import { sql } from "drizzle-orm";
import { connect, poolOf } from "./client";

/** The questions of docs/records.md, asked of the demo. */

const db = connect(process.env.DATABASE_URL!);
afterAll(() => poolOf(db).end());

const page = readFileSync(new URL("../docs/records.md", import.meta.url), "utf8");
const QUESTIONS = new Map(
  [...page.matchAll(/### ([^\n]+)\n+```sql\n([\s\S]*?)```/g)].map(([, title, query]) => [title!, query!]),
);

type Row = Record<string, number | string | null>;
const ask = async (title: string): Promise<Row[]> => {
  const [name, query] = [...QUESTIONS].find(([t]) => t.startsWith(title))!;
  expect(name).toContain(title);
  return (await db.execute<Row>(sql.raw(query))).rows;
};

test("six questions stand in the documentation", () => expect(QUESTIONS.size).toBe(6));

test("as-left brew pressures of a model: each with a U that is its own k times more than nothing", async () => {
  const rows = await ask("All as-left brew pressures");
  expect(rows.length).toBeGreaterThan(8);
  for (const row of rows) {
    expect(Number(row.U)).toBeGreaterThan(0);
    expect(Number(row.k)).toBeGreaterThan(1.9);
    expect(Number(row.value)).toBeGreaterThan(5);
  }
});

test("a machine drifts between visits: found otherwise than it was left", async () => {
  const rows = await ask("Drift of a machine");
  // Install, five services: as found and as left of each visit on which the valve was read.
  expect(rows.length).toBeGreaterThanOrEqual(12);
  const drifts = rows.slice(1).map((r) => Math.abs(Number(r.drift)));
  expect(Math.max(...drifts)).toBeGreaterThan(0.2);
  for (const row of rows.slice(1)) expect(Number(row["U of the drift"])).toBeGreaterThan(0);
});

test("machines of a model scatter by more than measuring does", async () => {
  const rows = await ask("Scatter of a model");
  const skerry = rows.find((r) => r.model === "Skerry" && r.knob === "opv")!;
  expect(Number(skerry.machines)).toBeGreaterThan(3);
  expect(Number(skerry.spread)).toBeGreaterThan(Number(skerry["of which measuring"]));
});

test("a thermometer’s figures are temperatures and their differences", async () => {
  const rows = await ask("Figures a thermometer touched");
  expect(rows.length).toBeGreaterThan(10);
  expect(new Set(rows.map((r) => r.knob))).toEqual(new Set(["offset", "temperature"]));
});

test("false passes: fewer expected than passed, by each class", async () => {
  const rows = await ask("False passes by class of gauge");
  expect(rows.length).toBeGreaterThan(1);
  for (const row of rows) {
    expect(Number(row["risk of one"])).toBeGreaterThanOrEqual(0);
    expect(Number(row["risk of one"])).toBeLessThan(0.5);
    expect(Number(row["false passes expected"])).toBeCloseTo(Number(row["risk of one"]) * Number(row.passed), 6);
  }
});

test("from as found to as left takes minutes, not days", async () => {
  const rows = await ask("Time from as found to as left");
  expect(rows.map((r) => r.knob)).toContain("opv");
  const { rows: span } = await db.execute<{ minutes: number }>(
    sql.raw(
      `select extract(epoch from q.usual) / 60 as minutes from (${QUESTIONS.get([...QUESTIONS.keys()].at(-1)!)!.replace(/;\s*$/, "")}) q`,
    ),
  );
  for (const { minutes } of span) {
    expect(Number(minutes)).toBeGreaterThan(0.5);
    expect(Number(minutes)).toBeLessThan(240);
  }
});
