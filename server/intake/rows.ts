import { createReadStream } from "node:fs";
import { Readable } from "node:stream";
import { TextDecoderStream } from "node:stream/web";
import Papa from "papaparse";
import type { Plan } from "../../core/intake";
import { Refused } from "../refused";

/** The rows of a file, one after the other, as its plan has it. */

export interface FileRow {
  /** Counted from 1, as an editor counts: a cell may hold several. */
  readonly line: number;
  readonly cells: readonly string[];
  /** Bytes of the file read by then, about. */
  readonly bytes: number;
}

type Form = Pick<Plan, "encoding" | "separator">;

/** Letters of one row: beyond, a quote was never closed, and the rest of the file would be one cell. */
const LONGEST_ROW = 200_000;

/** @throws Error when a row is too long to be one */
export async function* rowsOf(path: string, { encoding, separator }: Form): AsyncGenerator<FileRow> {
  const file = createReadStream(path, { highWaterMark: 256 * 1024 });
  const text = Readable.toWeb(file).pipeThrough(new TextDecoderStream(encoding) as never);
  const parser = Papa.parse(Papa.NODE_STREAM_INPUT, { delimiter: separator });
  const cells = Readable.fromWeb(text as never, { objectMode: false })
    .on("error", (e) => parser.destroy(e))
    .pipe(parser);
  let line = 1;
  try {
    for await (const row of cells as AsyncIterable<string[]>) {
      let ends = 1;
      let letters = 0;
      for (const cell of row) {
        letters += cell.length;
        if (cell.includes("\n")) ends += cell.split("\n").length - 1;
      }
      if (letters > LONGEST_ROW) throw new UnclosedQuote(line);
      // An empty line is no row.
      if (letters > 0 && row.some((cell) => cell.trim() !== "")) yield { line, cells: row, bytes: file.bytesRead };
      line += ends;
    }
  } finally {
    file.destroy();
  }
}

export class UnclosedQuote extends Error {
  constructor(readonly line: number) {
    super(`A quote that begins near line ${line} is never closed. Close it, or choose another separator.`);
  }
}

/**
 * The first rows of a file.
 *
 * @param count how many, at least 1
 * @param field beside which it is said
 * @throws Refused when the file can’t be read so
 */
export async function firstRows(
  path: string,
  form: Form,
  { count, field }: { count: number; field: string },
): Promise<FileRow[]> {
  const rows: FileRow[] = [];
  try {
    for await (const row of rowsOf(path, form)) if (rows.push(row) >= count) break;
  } catch (error) {
    throw error instanceof UnclosedQuote ? new Refused(error.message, field) : error;
  }
  return rows;
}
