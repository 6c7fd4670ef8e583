/** Serials as they are told apart: what looks the same to who reads the plate is the same machine. */

/**
 * A serial without what nobody sees: signs of no width, wide letters, blanks in a row.
 *
 * @example plainSerial("ＢＶ-\u200b705  17") // "BV-705 17"
 */
export const plainSerial = (typed: string): string =>
  typed
    .normalize("NFKC")
    .replace(/[\p{Cf}\p{Cc}]/gu, (sign) => (/\s/.test(sign) ? " " : ""))
    .replace(/\s+/g, " ")
    .trim();

const ALPHABETS = [/\p{Script=Latin}/u, /\p{Script=Cyrillic}/u, /\p{Script=Greek}/u];

/** Letters of two alphabets that have the same shapes stand in one serial: one of them was taken for another. */
export const mixesAlphabets = (serial: string): boolean =>
  ALPHABETS.filter((letters) => letters.test(serial)).length > 1;
