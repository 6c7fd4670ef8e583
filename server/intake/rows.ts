import { createReadStream } from "node:fs";
import { Readable } from "node:stream";
import { TextDecoderStream } from "node:stream/web";
import Papa from "papaparse";
import { MOST_COLUMNS, type Plan, type Separator } from "../../core/intake";

/**
 * The rows of a table, one after the other, as its plan has it. What a file may hold is asked of each piece before any row is made of it: a
 * file of nothing but line ends, or one row of a million cells, is refused where it passes the bound, in the time of reading so far.
 */

export interface FileRow {
  /** Counted from 1, as an editor counts: a cell may hold several. */
  readonly line: number;
  /** The first {@link MOST_COLUMNS}; what stands in columns beyond is left out. */
  readonly cells: readonly string[];
  /** Bytes of the file read by then, about. */
  readonly bytes: number;
}

export type Form = Pick<Plan, "encoding" | "separator">;

/** Letters of one row: beyond, a quote was never closed, and the rest of the file would be one cell. */
const LONGEST_ROW = 200_000;
/** Lines of one file, and cells between two line ends. Our choice: more than a workshop writes in a lifetime, and than a spreadsheet’s page is wide. */
const MOST_LINES = 1_000_000;
const MOST_CELLS = 1000;
const PIECE = 256 * 1024;

/** A table that can’t be one: said in words for whoever brought it. */
export class Unreadable extends Error {}

/** @throws Unreadable where it has more than a table may */
export async function* rowsOf(path: string, { encoding, separator }: Form): AsyncGenerator<FileRow> {
  const file = createReadStream(path, { highWaterMark: PIECE });
  try {
    const text = Readable.toWeb(file).pipeThrough(new TextDecoderStream(encoding) as never);
    for await (const rows of lots(text as unknown as AsyncIterable<string>, separator))
      for (const row of rows) yield { ...row, bytes: file.bytesRead };
  } finally {
    file.destroy();
  }
}

/**
 * The first rows of a file.
 *
 * @param count how many, at least 1
 * @throws Unreadable when the file can’t be read so
 */
export async function firstRows(path: string, form: Form, count: number): Promise<FileRow[]> {
  const rows: FileRow[] = [];
  for await (const row of rowsOf(path, form)) if (rows.push(row) >= count) break;
  return rows;
}

/** The rows of a text that is here whole. @throws Unreadable where it has more than a table may, or more than so many rows */
export async function rowsOfText(text: string, separator: Separator, most: number): Promise<Omit<FileRow, "bytes">[]> {
  const all: Omit<FileRow, "bytes">[] = [];
  for await (const rows of lots(piecesOf(text.replace(/^\uFEFF/, "")), separator)) {
    if (all.length + rows.length > most) throw new Unreadable(`More than ${most} rows. Cut the file in pieces.`);
    for (const row of rows) all.push(row);
  }
  return all;
}

function* piecesOf(text: string): Generator<string> {
  for (let at = 0; at < text.length; at += PIECE) yield text.slice(at, at + PIECE);
}

/** Rows without empty ones, those of a piece at a time. What a piece ends in the middle of is read with the next. */
async function* lots(
  pieces: AsyncIterable<string> | Iterable<string>,
  separator: Separator,
): AsyncGenerator<Omit<FileRow, "bytes">[]> {
  const bounds = watched(separator);
  let [rest, line, cr] = ["", 1, false];
  const read = (text: string, whole: boolean) => {
    const { data, meta } = new Papa.Parser({ delimiter: separator, newline: "\n" }).parse(text, 0, !whole) as {
      data: string[][];
      meta: { cursor: number };
    };
    const rows: Omit<FileRow, "bytes">[] = [];
    for (const row of data) {
      let [ends, letters, words] = [1, row.length, false];
      for (const cell of row) {
        letters += cell.length;
        words ||= cell.trim() !== "";
        for (let at = cell.indexOf("\n"); at >= 0; at = cell.indexOf("\n", at + 1)) ends += 1;
      }
      if (letters > LONGEST_ROW) throw unclosed(line);
      // An empty line is no row.
      if (words) rows.push({ line, cells: row.slice(0, MOST_COLUMNS) });
      line += ends;
    }
    return { rows, rest: text.slice(meta.cursor) };
  };
  for await (const piece of pieces) {
    // One kind of line end, however it is written; one that is cut in two is put together.
    const text = `${cr ? "\r" : ""}${piece}`;
    cr = text.endsWith("\r");
    const even = (cr ? text.slice(0, -1) : text).replaceAll("\r\n", "\n").replaceAll("\r", "\n");
    bounds(even);
    const { rows, rest: left } = read(rest + even, false);
    if (left.length > LONGEST_ROW) throw unclosed(line);
    rest = left;
    yield rows;
  }
  if (rest) yield read(rest, true).rows;
}

const unclosed = (line: number) =>
  new Unreadable(`A quote that begins near line ${line} is never closed. Close it, or choose another separator.`);

/** Hears every piece, and ends the reading where there are more lines than a table has, or cells than a row. */
function watched(separator: Separator): (text: string) => void {
  const cut = separator.charCodeAt(0);
  let [lines, cells] = [1, 1];
  return (text) => {
    for (let i = 0; i < text.length; i++) {
      const code = text.charCodeAt(i);
      if (code === 10) [lines, cells] = [lines + 1, 1];
      else if (code === cut && ++cells > MOST_CELLS)
        throw new Unreadable(`Line ${lines} has more than ${MOST_CELLS} cells. Leave out columns that say nothing.`);
      if (lines > MOST_LINES)
        throw new Unreadable(`The file has more than ${MOST_LINES} lines, empty ones too. Cut it in pieces.`);
    }
  };
}
