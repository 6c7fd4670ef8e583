import { type Encoding, SEPARATORS, type Separator } from "./plan";

/** What a file is, before anything of it is understood. */

/**
 * The encoding of a text, by its bytes: its mark, else what can only be UTF-8 or UTF-16, else what a Western spreadsheet writes.
 *
 * @param start the first bytes of it
 */
export function guessEncoding(start: Uint8Array): Encoding {
  const [a, b, c] = start;
  if (a === 0xff && b === 0xfe) return "utf-16le";
  if (a === 0xfe && b === 0xff) return "utf-16be";
  if (a === 0xef && b === 0xbb && c === 0xbf) return "utf-8";
  // Of Latin letters in UTF-16 every other byte is 0.
  const even = share(start, 0);
  const odd = share(start, 1);
  if (odd > 0.3 && even < 0.05) return "utf-16le";
  if (even > 0.3 && odd < 0.05) return "utf-16be";
  return isUtf8(start) ? "utf-8" : "windows-1252";
}

function share(bytes: Uint8Array, from: 0 | 1): number {
  let zero = 0;
  let all = 0;
  for (let i = from; i < bytes.length; i += 2, all++) if (bytes[i] === 0) zero++;
  return all === 0 ? 0 : zero / all;
}

/** Well-formed by RFC 3629; cut off at the end is no fault. */
function isUtf8(bytes: Uint8Array): boolean {
  for (let i = 0; i < bytes.length;) {
    const byte = bytes[i]!;
    const more =
      byte < 0x80
        ? 0
        : byte >= 0xc2 && byte < 0xe0
          ? 1
          : byte >= 0xe0 && byte < 0xf0
            ? 2
            : byte >= 0xf0 && byte < 0xf5
              ? 3
              : -1;
    if (more < 0) return false;
    for (let k = 1; k <= more && i + k < bytes.length; k++) if ((bytes[i + k]! & 0xc0) !== 0x80) return false;
    i += more + 1;
  }
  return true;
}

/** The separator that cuts the lines into the same number of pieces, more than one; outside quotes. */
export function guessSeparator(text: string): Separator {
  const bare = text.replace(/"(?:[^"]|"")*"/g, "");
  const lines = bare
    .split(/\r\n|\r|\n/)
    .filter((l) => l.trim() !== "")
    .slice(0, 50);
  const score = (separator: string) => {
    const counts = lines.map((l) => l.split(separator).length - 1);
    const usual = [...counts].sort((a, b) => a - b)[Math.floor(counts.length / 2)] ?? 0;
    const alike = counts.filter((c) => c === usual).length;
    return usual === 0 ? 0 : alike / lines.length + usual / 1000;
  };
  return SEPARATORS.reduce((best, s) => (score(s) > score(best) ? s : best), ",");
}
