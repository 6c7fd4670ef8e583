import fc from "fast-check";
import { LEAST_CHARACTERS, passwordProblem } from "./passwords";

const door = ["mara@dock.example", "Mara Quill", "Dock Lane Espresso"];
const why = (password: string) => passwordProblem(password, door);

test.each([
  ["too short", "kettle-42", "the least"],
  ["of the commonest", "passwordpassword", "tried first"],
  ["the commonest with a tail", "password1234!!", "tried first"],
  ["one sign over and over", "aaaaaaaaaaaaaa", "tried first"],
  ["what stands on the door", "MaraQuill2026!", "on the door"],
  ["the workshop’s own name", "Dock-Lane-Espresso", "on the door"],
  ["words of the trade", "espresso-machine-1", "of this trade"],
  ["of product and trade", "NimbleGauge-9bar!", "of this trade"],
  ["longer than any", "x".repeat(150) + "abcdefghij".repeat(10), "longer than"],
])("%s is refused, with the reason", (_, password, words) => expect(why(password)).toContain(words));

test("some words in a row are taken, blanks and all signs too", () => {
  for (const password of ["three wet towels", "grün-kalt-Siebträger", "kettle mara nine stairs"])
    expect(why(password)).toBeNull();
});

test("never an error, whatever is typed; never one shorter than the least (property)", () => {
  fc.assert(
    fc.property(fc.string({ unit: "grapheme", maxLength: 40 }), (password) => {
      const problem = why(password);
      if ([...password].length < LEAST_CHARACTERS) expect(problem).not.toBeNull();
    }),
  );
});
