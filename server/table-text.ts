import { guessEncoding, guessSeparator } from "../core/intake";
import { aside } from "./aside/threads";

/** A small table that comes as text: as a file, or as it was read from one. */

/** Rows that are looked through for how wide it is. */
const WIDTH_FROM = 20;

export interface TextRow {
  /** Of the file, counted from 1 */
  readonly line: number;
  readonly cells: readonly string[];
}

export interface TextTable {
  readonly rows: readonly TextRow[];
  /** How many columns it has. */
  readonly width: number;
}

/**
 * Its rows without empty ones, by the separator that cuts them alike.
 *
 * @param most rows that it may have
 * @param field beside which it is said where it has more, or can’t be read
 * @throws Refused
 */
export async function tableOfText(text: string, most: number, field: string): Promise<TextTable> {
  const separator = guessSeparator(text.slice(0, 20_000));
  const rows = await aside({ kind: "text", text, separator, most }, { field });
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
