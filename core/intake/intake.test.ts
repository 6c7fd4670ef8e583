import fc from "fast-check";
import { DAY_ORDERS, type DayOrder, possibleOrders, readDay, tellingDay } from "./day";
import { type Plan, guessPlan } from "./plan";
import { readerOf, rowText } from "./row";
import { guessEncoding, guessSeparator } from "./shape";
import { TARGETS, guessTarget } from "./targets";

/** Spreadsheets of technicians, made up: what is guessed of them, and what is never guessed. */

const TODAY = "2026-11-28";
const iso = (typed: string, order: DayOrder = "dmy") => {
  const day = readDay(typed, order, TODAY);
  return day.ok ? day.iso : day.problem;
};

describe("days", () => {
  test.each([
    ["3.6.2021", "dmy", "2021-06-03"],
    ["03/06/2021", "mdy", "2021-03-06"],
    ["03/06/21", "dmy", "2021-06-03"],
    ["21-06-03", "ymd", "2021-06-03"],
    ["2021-06-03", "mdy", "2021-06-03"],
    ["2021-06-03T10:15:00Z", "dmy", "2021-06-03"],
    ["03.06.2021 14:05", "dmy", "2021-06-03"],
    ["6/3/2021 2:05 PM", "mdy", "2021-06-03"],
    ["3 June 2021", "mdy", "2021-06-03"],
    ["June 3rd, 2021", "dmy", "2021-06-03"],
    ["Thu 3 Jun 21", "dmy", "2021-06-03"],
    ["29.2.2024", "dmy", "2024-02-29"],
    ["29.2.2023", "dmy", "no-such-day"],
    ["31/04/2022", "dmy", "no-such-day"],
    ["06/13/2021", "dmy", "no-such-day"],
    ["44350", "dmy", "serial"],
    ["yesterday", "dmy", "not-a-day"],
    ["3.6.", "dmy", "not-a-day"],
    ["3.6.202", "dmy", "not-a-day"],
    ["", "dmy", "empty"],
    ["1.1.1920", "dmy", "too-early"],
    ["1.1.2027", "dmy", "future"],
  ] as const)("%s as %s is %s", (typed, order, is) => expect(iso(typed, order)).toBe(is));

  test("every day there is comes back from each order, however it is written", () =>
    fc.assert(
      fc.property(
        fc.date({ min: new Date("1950-01-01"), max: new Date("2026-11-27"), noInvalidDate: true }),
        fc.constantFrom(...DAY_ORDERS),
        fc.constantFrom(".", "/", "-", " "),
        (date, order, mark) => {
          const day = date.toISOString().slice(0, 10);
          const [y, m, d] = day.split("-");
          const typed = { dmy: [d, m, y], mdy: [m, d, y], ymd: [y, m, d] }[order].join(mark);
          expect(iso(typed, order)).toBe(day);
        },
      ),
    ));

  test("one order fits, or it is asked with a day that tells them apart", () => {
    expect(possibleOrders(["03/06/2021", "25/06/2021"], TODAY)).toEqual(["dmy"]);
    expect(possibleOrders(["03/06/2021", "06/25/2021"], TODAY)).toEqual(["mdy"]);
    const unclear = possibleOrders(["2021-05-05", "03/06/2021", "", "04/04/2021"], TODAY);
    expect(unclear).toEqual(["dmy", "mdy"]);
    expect(tellingDay(["05/05/2021", "03/06/2021"], unclear, TODAY)).toBe("03/06/2021");
    // Nothing to ask where it makes no difference.
    expect(possibleOrders(["05/05/2021", "04.04.2022"], TODAY)).toHaveLength(1);
    expect(possibleOrders(["2021-06-03"], TODAY)).toHaveLength(1);
    expect(possibleOrders(["soon", "later"], TODAY)).toEqual([]);
    // One slip does not make the order unclear.
    expect(possibleOrders(["25/06/2021", "26/06/2021", "06/27/2021"], TODAY)).toEqual(["dmy"]);
  });
});

describe("what a file is", () => {
  const bytes = (text: string, encoding: BufferEncoding) => new Uint8Array(Buffer.from(text, encoding));
  const words = "Datum;Gerät;Überdruck\n3.6.2021;HE2;9,1\n";
  test.each([
    ["utf-8", bytes(words, "utf8")],
    ["utf-8", bytes(`\uFEFFDate,Serial`, "utf8")],
    ["utf-16le", bytes(`\uFEFF${words}`, "utf16le")],
    ["utf-16le", bytes(words, "utf16le")],
    ["utf-16be", bytes(words, "utf16le").map((_, i, all) => all[i ^ 1]!)],
    ["windows-1252", bytes(words, "latin1")],
    ["utf-8", bytes("plain", "ascii")],
    ["utf-8", new Uint8Array()],
  ] as const)("%s", (encoding, start) => expect(guessEncoding(start)).toBe(encoding));

  test("text cut in the middle of a letter is UTF-8 still", () =>
    fc.assert(
      fc.property(fc.string({ unit: "grapheme", minLength: 1 }), fc.nat(), (text, at) => {
        const all = new Uint8Array(Buffer.from(`${text} plain words behind it`, "utf8"));
        fc.pre(!all.includes(0));
        expect(guessEncoding(all.subarray(0, 1 + (at % all.length)))).toBe("utf-8");
      }),
    ));

  test.each([
    ["Date;Serial;Pressure\n3.6.2021;A-1;9,1\n4.6.2021;A-2;9,0", ";"],
    ['Date,Serial,Note\n2021-06-03,A-1,"a;b;c;d"\n', ","],
    ["Date\tSerial\n3.6.2021\tA-1, blue", "\t"],
    ["Date|Serial\n3.6.2021|A-1", "|"],
    ["One column\nonly", ","],
  ])("separator of %j", (text, separator) => expect(guessSeparator(text)).toBe(separator));
});

describe("columns", () => {
  test.each([
    ["Date", "day"],
    ["Datum", "day"],
    ["Serial no.", "serial"],
    ["S/N", "serial"],
    ["Pressure before (bar)", "opv.as-found"],
    ["Pressure after", "opv.as-left"],
    ["OPV found", "opv.as-found"],
    ["Druck nachher", "opv.as-left"],
    ["Boiler psi", "pressurestat.as-left"],
    ["Temp offset as found", "offset.as-found"],
    ["Technician", "doneBy"],
    ["Work done", "work"],
    ["Remarks", "note"],
    ["Invoice", null],
    ["", null],
  ])("“%s” is %s", (head, target) => {
    expect(guessTarget(head)).toBe(target);
    if (target) expect(TARGETS[target]).toBeDefined();
  });

  const rows = [
    ["Date", "Serial", "Pressure before (psi)", "Pressure after", "Invoice"],
    ["3.6.2021", "A-1", "150,5", "9,1", "17"],
    ["14.6.2021", "A-2", "140,0", "9,0", "18"],
  ];
  test("a whole file is guessed at, and nothing of it lost", () => {
    const plan = guessPlan(rows, { encoding: "utf-8", separator: ";" }, TODAY);
    expect(plan).toMatchObject({ headed: true, decimals: "comma", dayOrder: "dmy" });
    expect(plan.columns.map((c) => [c.target, c.unit])).toEqual([
      ["day", ""],
      ["serial", ""],
      ["opv.as-found", "psi"],
      ["opv.as-left", "bar"],
      ["to-note", ""],
    ]);
  });
  test("without heads nothing is guessed of its columns, and no row is taken for heads", () => {
    const plan = guessPlan(rows.slice(1), { encoding: "utf-8", separator: ";" }, TODAY);
    expect(plan.headed).toBe(false);
    expect(new Set(plan.columns.map((c) => c.target))).toEqual(new Set([""]));
  });
  test("of two columns that could be one thing the second is not it", () =>
    expect(
      guessPlan(
        [
          ["Date", "Date"],
          ["1.1.2021", "2.1.2021"],
        ],
        { encoding: "utf-8", separator: ";" },
        TODAY,
      ).columns[1]!.target,
    ).toBe("to-note"));
});

describe("rows", () => {
  const plan: Plan = {
    ...{
      encoding: "utf-8",
      separator: ";",
      headed: true,
      decimals: "comma",
      dayOrder: "dmy",
      serials: { "he2-330l": "m2" },
    },
    columns: [
      { head: "Date", target: "day", unit: "" },
      { head: "Serial", target: "serial", unit: "" },
      { head: "Before", target: "opv.as-found", unit: "bar" },
      { head: "Boiler", target: "pressurestat.as-left", unit: "bar" },
      { head: "Work", target: "work", unit: "" },
      { head: "Invoice", target: "to-note", unit: "" },
      { head: "Colour", target: "", unit: "" },
    ],
  };
  const read = (...cells: string[]) => readerOf(plan, (s) => ({ "a-1": "m1" })[s], TODAY).read(cells);
  const errors = (...cells: string[]) => {
    const row = read(...cells);
    return row.ok ? [] : row.errors.map((e) => `${e.column}: ${e.reason}`);
  };

  test("as it is stored: comma, unit typed beside, blanks and dashes as nothing, the rest in the note", () => {
    expect(read("3.6.2021", " A-1 ", "130,5 psi", "–", "gasket", "17", "red")).toEqual({
      ok: true,
      row: {
        ...{ machineId: "m1", doneOn: "2021-06-03", doneBy: "", work: "gasket", note: "Invoice: 17" },
        figures: [
          {
            ...{ knob: "opv", group: null, button: null, phase: "as-found", dimension: "pressure" },
            ...{ typed: "130,5 psi", unit: "psi", value: expect.closeTo(8.99766, 4) as number },
          },
        ],
      },
    });
  });
  test("a serial that somebody said which machine it is", () =>
    expect(read("3.6.2021", "HE2-330L", "9", "")).toMatchObject({ ok: true, row: { machineId: "m2" } }));
  test.each([
    [["3.6.2021", "B-9", "9"], ["Serial: No machine here has this serial"]],
    [["31.6.2021", "A-1", "9"], ["Date: There is no such day"]],
    [
      ["", "", "9"],
      ["Date: No day", "Serial: No serial"],
    ],
    [["3.6.2021", "A-1", "nine"], ["Before: “nine” is not a number"]],
    [["3.6.2021", "A-1", "90"], ["Before: Outside 0.0 bar to 25.0 bar: not a brew pressure, as found"]],
    [["3.6.2021", "A-1", "9 kg"], ["Before: “kg” is not a unit of pressure"]],
    [["3.6.2021", "A-1"], ["Row: Nothing but a day and a machine"]],
  ])("%j: %j", (cells, said) => expect(errors(...cells)).toEqual(said));

  test("read in the wrong encoding, it says so", () =>
    expect(errors("3.6.2021", "A-1", "9", "", "D\uFFFDse")).toEqual(["Work: A letter in it can’t be read"]));

  test("more words than are kept", () =>
    expect(errors("3.6.2021", "A-1", "9", "", "x".repeat(4001))).toEqual(["Work: Longer than 4000 letters"]));

  test("a thousands mark is one only with three digits behind it", () => {
    const value = (typed: string) => {
      const row = read("3.6.2021", "A-1", typed);
      return row.ok ? row.row.figures[0]!.value : row.errors[0]!.reason;
    };
    expect(value("9,25")).toBe(9.25);
    expect(value("9.25")).toBe(9.25);
    expect(value("1.000,5 kPa")).toBeCloseTo(10.005, 10);
  });

  test("each error says what would mend it", () => {
    const row = read("1.1.2027", "Z", "x", "99");
    if (row.ok) throw new Error("taken");
    expect(row.errors).toHaveLength(4);
    for (const e of row.errors) expect(e.fix).toMatch(/[A-Z].+\.$/);
  });

  test("whatever stands in a cell, a row is read or refused in words, never thrown", () =>
    fc.assert(
      fc.property(fc.array(fc.string({ unit: "grapheme" }), { maxLength: 9 }), (cells) => {
        const row = read(...cells);
        if (!row.ok) for (const e of row.errors) expect(e.reason.length).toBeGreaterThan(3);
      }),
    ));

  test("two rows are the same visit where all that is stored of them is", () => {
    const text = (...cells: string[]) => {
      const row = read(...cells);
      if (!row.ok) throw new Error(row.errors[0]!.reason);
      return rowText(row.row);
    };
    const one = text("3.6.2021", "A-1", "9,0", "1,1", "gasket");
    expect(text("03.06.2021", "a-1", "9", "1,10 bar", "gasket")).toBe(one);
    for (const other of [
      ["4.6.2021", "A-1", "9,0", "1,1", "gasket"],
      ["3.6.2021", "HE2-330l", "9,0", "1,1", "gasket"],
      ["3.6.2021", "A-1", "9,1", "1,1", "gasket"],
      ["3.6.2021", "A-1", "9,0", "", "gasket"],
      ["3.6.2021", "A-1", "9,0", "1,1", "gaskets"],
      ["3.6.2021", "A-1", "9,0", "1,1", "gasket", "17"],
    ])
      expect(text(...other)).not.toBe(one);
  });
});
