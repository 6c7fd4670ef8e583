import fc from "fast-check";
import { mixesAlphabets, plainSerial } from ".";

test.each([
  ["BV-70517", "BV-70517"],
  [" BV\u200b-705\u00ad17\u2060 ", "BV-70517"],
  ["ＢＶ－７０５１７", "BV-70517"],
  ["BV 705\t\t17", "BV 705 17"],
  ["BV\u00a070517", "BV 70517"],
  ["\u202eBV-1", "BV-1"],
])("%j is %s", (typed, serial) => expect(plainSerial(typed)).toBe(serial));

test("once plain, it stays as it is", () => {
  fc.assert(
    fc.property(fc.string({ unit: "binary", maxLength: 40 }), (typed) =>
      expect(plainSerial(plainSerial(typed))).toBe(plainSerial(typed)),
    ),
  );
});

test.each([
  ["BV-70517", false],
  ["ВУ-70517", false],
  ["ΒV-70517", true],
  ["BV-7О517", true],
  ["70517", false],
])("%s mixes alphabets: %p", (serial, mixed) => expect(mixesAlphabets(serial)).toBe(mixed));
