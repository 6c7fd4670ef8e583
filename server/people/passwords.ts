import { dictionary } from "@zxcvbn-ts/language-common";

/** Which passwords are taken. Length is what counts; what everybody tries first, and what stands on the door, is refused. */

/** Characters at least. OWASP ASVS 5, 6.2.1, asks for 8 and recommends 15; a PIN pad of a tablet is no place for it, a phrase is. */
export const LEAST_CHARACTERS = 12;
export const MOST_CHARACTERS = 200;

/** What everybody on this job would think of first. */
const TRADE =
  "nimble gauge espresso coffee crema roast bean beans grinder grind portafilter basket boiler steam group pump valve pressure brew barista machine machines technician service workshop water milk latte shot shots descale spring".split(
    " ",
  );

/** The commonest passwords of leaked lists, as a kept package has them. */
const COMMON = new Set(dictionary["passwords-common"].map(String));

/**
 * Why a password is not taken, in words for beside its field; null where it is.
 *
 * @param about words that stand on the door: address, names of person and workshop
 */
export function passwordProblem(password: string, about: readonly string[]): string | null {
  const length = [...password].length;
  if (length < LEAST_CHARACTERS)
    return `It has ${length} characters; ${LEAST_CHARACTERS} are the least. Some words in a row are easy to keep.`;
  if (length > MOST_CHARACTERS) return "That is longer than a password can be.";
  const bare = password.toLowerCase();
  // “password2026!!” is “password” to whoever guesses.
  const stem = /[a-z](?:.*[a-z])?/su.exec(bare)?.[0] ?? "";
  if (COMMON.has(bare) || COMMON.has(stem) || new Set(bare).size < 5)
    return "It is one of those that are tried first. Take another.";
  const door = about.flatMap((words) => words.toLowerCase().split(/[^\p{L}\d]+/u)).filter((word) => word.length > 3);
  // The longer first: “machines” is not “machine” and an s.
  const guessed = [...door, ...TRADE].sort((a, b) => b.length - a.length);
  const rest = guessed.reduce((left, word) => left.replaceAll(word, ""), bare.replace(/[^\p{L}\d]+/gu, ""));
  if (rest.length < LEAST_CHARACTERS / 2)
    return "It is made of words of this trade, or of names that stand on the door. Add words of your own.";
  return null;
}
