import { KINDS, type KindId, usualCard } from "../kind";
import { type TypedWork, faultFrom, rulingOn, sayFault, sayWork, usualWork, workFrom } from ".";

/** What was typed of work and parts, understood; and the rules of the trade over it (common practice, no published figure). */

const typed = (over: Partial<TypedWork> = {}): TypedWork => ({
  what: "Group gasket",
  how: "renewed",
  reason: "hard, leaks",
  seen: "",
  outcome: "done",
  until: "",
  safetyCritical: false,
  minutes: "",
  price: "",
  licensedName: "",
  licence: "",
  exception: "",
  loop: null,
  part: null,
  ...over,
});
const CARD = { descaling: "owner-cycle" } as const;
const NO_ACID = { descaling: "dismantle-only" } as const;
const around = { card: CARD, lead: false, today: "2026-11-28" } as const;
const refusal = (over: Partial<TypedWork>, about: Partial<Parameters<typeof workFrom>[1]> = {}) => {
  try {
    workFrom(typed(over), { ...around, ...about });
    return "taken";
  } catch (error) {
    return `${(error as { field: string }).field}: ${(error as Error).message}`;
  }
};

test.each([
  [{ what: " " }, /^what: Type the part/],
  [{ reason: "" }, /^reason: Say why/],
  [{ how: "magic" }, /^how: Choose/],
  [{ outcome: "" }, /^outcome: Choose/],
  [{ reason: "x".repeat(3000) }, /^reason: .*3000 characters. Keep it under 2000/],
  [{ minutes: "-5" }, /^minutes: Minutes: from 0/],
  [{ minutes: "an hour" }, /^minutes: .*not a number/],
  [{ minutes: "1e9" }, /^minutes: .*not a number/],
  [{ price: "1000001" }, /^price: Price: from 0 to 1000000/],
  [{ outcome: "postponed", until: "2026-02-30" }, /^until: There is no day/],
  [{ outcome: "postponed", until: "2026-11-01" }, /^until: That day has passed/],
  [{ licence: "G 1" }, /^licensedName: /],
])("%o is refused beside its field", (over, says) => expect(refusal(over)).toMatch(says));

test.each([
  [
    { what: "Safety valve", how: "cleaned", reason: "cleaned with descaler and refitted" },
    /^how: A safety valve is never cleaned/,
  ],
  [{ what: "Safety valve", how: "adjusted" }, /^how: A safety valve is never/],
  [{ what: "Valve", how: "other", reason: "safety valve blocked for the test" }, /A safety valve is never/],
  [{ what: "Safety valve", how: "renewed" }, /^licence: .*licensed work where local rules say so/],
  [{ what: "Gas burner", how: "adjusted" }, /^licence: /],
])("%o meets a rule", (over, says) => expect(refusal(over)).toMatch(says));

test("acid is the model’s to permit; taken apart is no acid through the tank, and what was declined was not done", () => {
  const descaled = { what: "Boiler", how: "descaled", reason: "scale" };
  expect(refusal(descaled)).toBe("taken");
  expect(refusal(descaled, { card: NO_ACID })).toMatch(/^how: This model takes no acid/);
  expect(refusal({ ...descaled, seen: "dismantled, parts in a bath" }, { card: NO_ACID })).toBe("taken");
  expect(refusal({ ...descaled, outcome: "declined" }, { card: NO_ACID })).toBe("taken");
  expect(refusal({ what: "Safety valve", how: "cleaned", outcome: "declined" })).toBe("taken");
});

test("a lead sets a rule aside in words that the line keeps; a technician does not", () => {
  const cleaned = { what: "Safety valve", how: "cleaned", reason: "nothing else to be had" };
  expect(refusal(cleaned)).toMatch(/Only a lead can record an exception/);
  expect(refusal(cleaned, { lead: true })).toMatch(/^exception: .*give the reason/);
  const line = workFrom(typed({ ...cleaned, exception: "Tested by the inspector on site." }), {
    ...around,
    lead: true,
  });
  expect(sayWork(line)).toBe(
    "Safety valve: cleaned, nothing else to be had. Done, safety-critical. (Exception by a lead: Tested by the inspector on site.)",
  );
});

test("a line in words, with all there is to say", () => {
  const line = workFrom(
    typed({
      what: "Safety valve",
      seen: "crack at the seat",
      minutes: "35",
      price: "38,5",
      licensedName: "Orrin Feld",
      licence: "PV 2217",
      part: { id: "p", name: "Safety valve 1.8 bar", number: "LT-2018", count: 2, taken: 1 },
    }),
    around,
  );
  expect(line).toMatchObject({ minutes: 35, price: 38.5, safetyCritical: true, until: null });
  expect(sayWork(line, (p) => `GBP ${p.toFixed(2)}`)).toBe(
    "Safety valve (2 × Safety valve 1.8 bar LT-2018): renewed, hard, leaks. Seen: crack at the seat. Done, 35 min, GBP 38.50, safety-critical. By Orrin Feld, licence PV 2217.",
  );
  expect(sayWork(workFrom(typed({ outcome: "declined" }), around))).toBe(
    "Group gasket: to be renewed, hard, leaks. Declined by the owner.",
  );
  const put = workFrom(typed({ outcome: "postponed", until: "2027-01-31" }), around);
  expect(sayWork(put)).toBe("Group gasket: to be renewed, hard, leaks. Postponed until 2027-01-31.");
});

test("a fault left in, in words", () => {
  const fault = {
    what: "Pump hums",
    since: "spring",
    comesAndGoes: true,
    decision: "wish",
    why: "",
    reduction: "20",
    mayTry: "",
  };
  expect(sayFault(faultFrom(fault))).toBe(
    "Pump hums, since spring, comes and goes. Left in: the owner wishes it so. Price reduced: 20.",
  );
  expect(() => faultFrom({ ...fault, what: "" })).toThrow("Say what it does");
  expect(() => faultFrom({ ...fault, decision: "no" })).toThrow("Choose why");
});

test("what is usual on a kind is never what a rule refuses there", () => {
  for (const id of Object.keys(KINDS) as KindId[]) {
    const kind = KINDS[id];
    const card = usualCard(kind);
    const lines = usualWork(kind, card);
    expect(lines.length).toBeGreaterThan(2);
    for (const { what, how, reason } of lines) {
      const line = { ...typed({ what, how, reason: reason ?? "worn" }), outcome: "done" as const };
      const made = workFrom({ ...line, licensedName: "A", licence: "1" }, { ...around, card });
      expect([id, what, rulingOn(made, card)]).toEqual([id, what, null]);
    }
  }
  const names = (id: KindId) => usualWork(KINDS[id], usualCard(KINDS[id])).map((l) => l.what);
  expect(names("K14")).not.toContain("Pump");
  expect(names("K9")).toContain("Safety valve");
  expect(names("K10")).not.toContain("Pump");
});
