import Papa from "papaparse";
import { guessEncoding, guessSeparator } from "../core/intake";

/** A small table that comes as text: as a file, or as it was read from one. */

/** Columns looked at. Our choice. */
const MOST_COLUMNS = 40;
/** Rows that are looked through for how wide it is. */
const WIDTH_FROM = 20;

export interface TextRow {
  /** Of the file, counted from 1 */
  readonly line: number;
  readonly cells: readonly string[];
}

/** Its rows without empty ones, by the separator that cuts them alike; and how many columns it has. */
export function rowsOfText(text: string): { rows: TextRow[]; width: number } {
  const bare = text.replace(/^\uFEFF/, "");
  const { data } = Papa.parse<string[]>(bare, { delimiter: guessSeparator(bare.slice(0, 20_000)) });
  const rows = data.flatMap((cells, i) =>
    cells.some((c) => c.trim() !== "") ? [{ line: i + 1, cells: cells.slice(0, MOST_COLUMNS) }] : [],
  );
  return { rows, width: Math.max(0, ...rows.slice(0, WIDTH_FROM).map((r) => r.cells.length)) };
}

/** Heads of its columns; those that say nothing are numbered. @param first its first row, where that is heads */
export const headsOf = (width: number, first: TextRow | null): string[] =>
  Array.from({ length: width }, (_, i) => first?.cells[i]?.trim() || `Column ${i + 1}`);

/** The text of a file, by its own bytes. */
export async function textOfFile(file: File): Promise<string> {
  const bytes = new Uint8Array(await file.arrayBuffer());
  return new TextDecoder(guessEncoding(bytes)).decode(bytes);
}
