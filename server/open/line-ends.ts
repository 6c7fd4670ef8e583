import { Transform } from "node:stream";

const LF = 0x0a;
const QUOTE = 0x22;

/**
 * Ends the rows of a copy as its format asks: RFC 4180 says CR LF after each, a list in JSON has commas between. Line ends inside quotes are
 * somebody’s words and stay.
 *
 * @param onRows hears how many rows have passed
 */
export function lineEnds(kind: "csv" | "json", onRows: (count: number) => void): Transform {
  const end = Buffer.from(kind === "csv" ? "\r\n" : ",\n");
  let quoted = false;
  // The last row of a list has no comma after it: an end is written once something follows.
  let owed = false;
  return new Transform({
    transform(chunk: Buffer, _encoding, done) {
      if (chunk.length === 0) return done();
      const ends: number[] = [];
      for (let i = 0; i < chunk.length; i++) {
        const byte = chunk[i];
        // JSON holds its line ends as \n: each one here ends a row.
        if (byte === QUOTE && kind === "csv") quoted = !quoted;
        else if (byte === LF && !quoted) ends.push(i);
      }
      const first = owed && kind === "json" ? 1 : 0;
      const last = kind === "json" && ends.at(-1) === chunk.length - 1;
      const whole = Buffer.allocUnsafe(chunk.length + ends.length * (end.length - 1) + end.length);
      let [from, at] = [0, 0];
      if (first) at += end.copy(whole, at);
      for (const [n, i] of ends.entries()) {
        at += chunk.copy(whole, at, from, i);
        from = i + 1;
        if (last && n === ends.length - 1) break;
        at += end.copy(whole, at);
      }
      at += chunk.copy(whole, at, from);
      owed = last;
      onRows(ends.length);
      done(null, whole.subarray(0, at));
    },
  });
}
