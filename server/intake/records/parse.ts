import { createReadStream } from "node:fs";
import { Transform } from "node:stream";
import StreamJson from "stream-json";
import Assembler from "stream-json/Assembler.js";

/** A document of records read piece by piece: one row at a time, whatever its size, however it is laid out. */

export type Piece =
  | { readonly kind: "head"; readonly name: string; readonly value: unknown }
  | {
      readonly kind: "row";
      readonly section: string;
      readonly no: number;
      readonly row: unknown;
      readonly bytes: number;
    };

interface Token {
  readonly name: string;
  readonly value?: string | number | boolean | null;
}

/** Brackets in brackets; bytes of one row. Our choice: ten times what the largest signed visit has. */
const DEEPEST = 40;
const LONGEST_ROW = 4 * 1024 ** 2;
/** Brackets around a row: the document’s, and its section’s. */
const ROWS_AT = 2;
const [QUOTE, STROKE, COMMA] = [0x22, 0x5c, 0x2c];

/** Lets a document through, byte by byte, until it holds what would grow without end in the memory of whoever reads it. */
function withinBounds(): Transform {
  let [depth, row] = [0, 0];
  let [inText, stroke] = [false, false];
  const wrong = (piece: Buffer): string | null => {
    for (const byte of piece) {
      if (++row > LONGEST_ROW) return `One row is longer than ${LONGEST_ROW / 1024 ** 2} MB.`;
      if (inText) {
        if (stroke) stroke = false;
        else if (byte === STROKE) stroke = true;
        else if (byte === QUOTE) inText = false;
      } else if (byte === QUOTE) inText = true;
      else if (byte === 0x7b || byte === 0x5b) {
        if (++depth > DEEPEST) return `Brackets stand in brackets, more than ${DEEPEST} deep.`;
      } else if (byte === 0x7d || byte === 0x5d) depth -= 1;
      if (byte === COMMA && !inText && depth <= ROWS_AT) row = 0;
    }
    return null;
  };
  return new Transform({
    transform(piece: Buffer, _encoding, done) {
      const words = wrong(piece);
      if (words) done(new SyntaxError(words));
      else done(null, piece);
    },
  });
}

/** @throws SyntaxError where it is no JSON, not one object, or holds more than a document of records may */
export async function* piecesOf(path: string): AsyncGenerator<Piece> {
  const file = createReadStream(path, { highWaterMark: 256 * 1024 });
  const parser = StreamJson.parser({ packValues: true, streamValues: false });
  const bounds = withinBounds();
  file.on("error", (error) => parser.destroy(error));
  bounds.on("error", (error) => parser.destroy(error));
  file.pipe(bounds).pipe(parser);
  let depth = 0;
  let name = "";
  let no = 0;
  let whole: Assembler | null = null;
  let started = false;
  try {
    for await (const token of parser as AsyncIterable<Token>) {
      const opens = token.name === "startObject" || token.name === "startArray";
      const closes = token.name === "endObject" || token.name === "endArray";
      if (!started) {
        if (token.name !== "startObject") throw new SyntaxError("It is not one object.");
        started = true;
        depth = 1;
        continue;
      }
      if (whole) {
        whole.consume(token as never);
        depth += opens ? 1 : closes ? -1 : 0;
        if (!whole.done) continue;
        const value: unknown = whole.current;
        whole = null;
        if (depth === 1) yield { kind: "head", name, value };
        else yield { kind: "row", section: name, no: ++no, row: value, bytes: file.bytesRead };
        continue;
      }
      if (depth === 1 && token.name === "keyValue") [name, no] = [String(token.value), 0];
      else if (depth === 1 && token.name === "startArray") depth = 2;
      else if (closes) depth -= 1;
      else if (opens) {
        whole = new Assembler();
        whole.consume(token as never);
        depth += 1;
      } else yield { kind: "head", name, value: token.name === "numberValue" ? Number(token.value) : token.value };
    }
  } catch (error) {
    throw error instanceof SyntaxError ? error : new SyntaxError((error as Error).message);
  } finally {
    file.destroy();
  }
}
