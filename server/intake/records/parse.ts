import { createReadStream } from "node:fs";
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

/** @throws SyntaxError where it is no JSON, or not one object */
export async function* piecesOf(path: string): AsyncGenerator<Piece> {
  const file = createReadStream(path, { highWaterMark: 256 * 1024 });
  const parser = StreamJson.parser({ packValues: true, streamValues: false });
  file.on("error", (error) => parser.destroy(error));
  file.pipe(parser);
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
