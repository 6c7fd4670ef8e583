import Papa from "papaparse";
import type { TextTable } from "../table-text";
import { FORMULA } from "../formula";

/** The parts list as a table (RFC 4180): out to any spreadsheet, and in again. */

export const PART_COLUMNS = ["name", "number", "fits", "stock", "order_at", "price"] as const;

export interface PartLine {
  name: string;
  number: string;
  /** Ids of models; none: any. */
  fits: string[];
  stock: number;
  reorderAt: number | null;
  price: number | null;
}

interface Model {
  readonly id: string;
  readonly name: string;
}

/** Most lines of one table, its heads among them. Our choice: more than a workshop keeps. */
export const MOST_PARTS = 2000;
/** Faults told at once. */
const TOLD = 20;
const COUNT = 1_000_000;

/** Models are told by name, several with “;” between them. Nothing in it is a formula to a spreadsheet. */
export function partsTable(parts: readonly PartLine[], models: readonly Model[]): string {
  const named = new Map(models.map((m) => [m.id, m.name]));
  const rows = parts.map((p) => ({
    ...{ name: p.name, number: p.number, stock: p.stock, order_at: p.reorderAt ?? "", price: p.price ?? "" },
    fits: p.fits.map((id) => named.get(id) ?? "").join("; "),
  }));
  return Papa.unparse(
    { fields: [...PART_COLUMNS], data: rows.map((r) => PART_COLUMNS.map((c) => r[c])) },
    { escapeFormulae: FORMULA, newline: "\r\n" },
  );
}

/** A name and number in any case are one part. */
export const partKey = ({ name, number }: Pick<PartLine, "name" | "number">) =>
  JSON.stringify([name.toLowerCase(), number.toLowerCase()]);

/** What was neutralised on the way out is itself again. */
const plain = (cell: string) => (cell.startsWith("'") && FORMULA.test(cell.slice(1)) ? cell.slice(1) : cell).trim();

/**
 * A table as it was pasted: with commas, semicolons or tabs, decimal points or commas, its columns in any order.
 *
 * @returns all lines, or what is wrong with which: nothing of a table with faults is taken
 */
export function readPartsTable(
  { rows: [heads, ...rows] }: Pick<TextTable, "rows">,
  models: readonly Model[],
): { lines: PartLine[]; faults?: undefined } | { faults: string[]; lines?: undefined } {
  const columns = (heads?.cells ?? []).map((head) => head.trim().toLowerCase().replaceAll(" ", "_"));
  if (!columns.includes("name")) return { faults: ["The first line names the columns: “name” at least."] };
  if (rows.length === 0) return { faults: ["There is no line below the names of the columns."] };
  const byName = new Map(models.map((m) => [m.name.toLowerCase(), m.id]));
  const faults: string[] = [];
  const seen = new Set<string>();
  const lines = rows.map(({ line, cells }): PartLine => {
    const fault = (column: string, says: string) => void faults.push(`Line ${line}, ${column}: ${says}`);
    const cell = (column: string) => plain(cells[columns.indexOf(column)] ?? "");
    const figure = (column: string, whole: boolean): number | null => {
      const typed = cell(column);
      if (!typed) return null;
      // “1,000” may be one or a thousand, as everywhere.
      if (/^-?[1-9]\d{0,2}([.,]\d{3})+$/.test(typed)) {
        fault(
          column,
          `“${typed.slice(0, 20)}” can be read two ways. Leave the thousands mark out, or write fewer decimals.`,
        );
        return null;
      }
      const value = Number(typed.replace(",", "."));
      const fits = /^-?\d+([.,]\d+)?$/.test(typed) && (!whole || Number.isInteger(value));
      if (fits && value >= 0 && value <= COUNT) return value;
      fault(column, `“${typed.slice(0, 20)}” is not ${whole ? "a whole number" : "a number"} from 0 to 1,000,000.`);
      return null;
    };
    const [name, number] = [cell("name"), cell("number")];
    if (name.length < 2 || name.length > 120) fault("name", "from 2 to 120 characters.");
    if (number.length > 80) fault("number", "80 characters at most.");
    const key = partKey({ name, number });
    if (seen.has(key)) fault("name", `“${name}” with this number stands above already.`);
    seen.add(key);
    const fits = cell("fits")
      .split(";")
      .map((model) => model.trim())
      .filter(Boolean)
      .flatMap((model) => {
        const id = byName.get(model.toLowerCase());
        if (!id) fault("fits", `no model “${model.slice(0, 60)}” is in the library.`);
        return id ?? [];
      });
    return {
      ...{ name, number, fits },
      stock: figure("stock", true) ?? 0,
      reorderAt: figure("order_at", true),
      price: figure("price", false),
    };
  });
  if (faults.length === 0) return { lines };
  const more = faults.length - TOLD;
  return { faults: more > 0 ? [...faults.slice(0, TOLD), `And ${more} more.`] : faults };
}
