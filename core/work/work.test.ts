import { KINDS, type KindId, usualCard } from "../kind";
import { type TypedWork, criticalPartsOf, faultFrom, rulingOn, sayFault, sayWork, usualWork, workFrom } from ".";

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
  critical: "",
  act: "",
  notCritical: false,
  loop: null,
  part: null,
  ...over,
});
const CARD = { descaling: "owner-cycle" } as const;
const NO_ACID = { descaling: "dismantle-only" } as const;
const around = { kind: KINDS.K9, card: CARD, lead: false, today: "2026-11-28" } as const;
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

describe("parts that safety hangs on are chosen, never typed", () => {
  test.each([
    "Safety valve lapped and refitted",
    "Safety-valve: cleaned",
    "Tested the safety relief valve, cleaned it in acid and put it back",
    "S/V ground in",
    "S / V",
    "relief valve … ground in",
    "sa\u200Bfety valve spring tightened",
    "ｓａｆｅｔｙ　ｖａｌｖｅ",
    "Sicherheitsventil gereinigt",
    "soupape nettoyée",
    "valvola di sicurezza pulita",
    "Thermal cut-out bridged",
    "cutout bypassed",
    "Earth wire left off",
    "earthing not connected",
    "Heating elements descaled",
  ])("“%s” as free text asks what it is about", (what) => {
    for (const how of ["renewed", "cleaned", "other", "tested"])
      expect(refusal({ what, how })).toMatch(/^notCritical: Is this about the .*choose it above/);
    expect(refusal({ what: "Group", reason: what })).toMatch(/^notCritical: /);
    // Answered that it is something else, it is taken, and the report says that it was answered.
    const line = workFrom(typed({ what, notCritical: true }), around);
    expect(sayWork(line)).toMatch(/\(Said not to be about: .+\.\)$/);
  });

  test.each(["Group gasket", "Shower screen", "OPV: clean or renew", "Drip tray", "Coffee ground too fine", "Pump"])(
    "“%s” asks nothing",
    (what) => expect(refusal({ what })).toBe("taken"),
  );

  test("chosen: only what can be done to such a part, with who did it where a licence is asked for", () => {
    const valve = { what: "", how: "", outcome: "", critical: "safety-valve", reason: "cracked at the seat" };
    expect(refusal({ ...valve, act: "cleaned" })).toMatch(/^act: Choose what was done/);
    expect(refusal(valve)).toMatch(/^act: Choose/);
    expect(refusal({ ...valve, act: "replaced" })).toMatch(/^licence: .*licensed work where local rules say so/);
    expect(refusal({ ...valve, act: "replaced", licensedName: "Orrin Feld" })).toMatch(/^licence: /);
    expect(refusal({ ...valve, act: "put-off" })).toBe("taken");
    const line = workFrom(typed({ ...valve, act: "replaced", licensedName: "Orrin Feld", licence: "PV 2217" }), around);
    expect(sayWork(line)).toBe(
      "Safety valve: replaced by type, cracked at the seat. Done, safety-critical. By Orrin Feld, licence PV 2217.",
    );
    const out = workFrom(typed({ ...valve, act: "out-of-use" }), around);
    expect(sayWork(out)).toBe(
      "Safety valve: found faulty, machine taken out of use, cracked at the seat. Safety-critical.",
    );
    expect(refusal({ ...valve, act: "replaced", critical: "gas" })).toMatch(/^critical: This machine has no such part/);
    expect(refusal({ what: "", critical: "element", act: "replaced", reason: "open circuit" })).toBe("taken");
  });

  test("each kind has those it has: no boiler on a thermoblock, gas where it burns, nothing heated in a grinder", () => {
    expect(criticalPartsOf(KINDS.K1)).toEqual(["element", "cut-out", "wiring"]);
    expect(criticalPartsOf(KINDS.K10)).toEqual(expect.arrayContaining(["safety-valve", "boiler", "gas", "back-flow"]));
    expect(criticalPartsOf(KINDS.K14)).toEqual(["wiring"]);
  });
});

test("acid is the model’s to permit; taken apart is no acid through the tank, and what was declined was not done", () => {
  const descaled = { what: "Boiler", how: "descaled", reason: "scale" };
  expect(refusal(descaled)).toBe("taken");
  expect(refusal(descaled, { card: NO_ACID })).toMatch(/^how: This model takes no acid/);
  expect(refusal({ ...descaled, how: "descaled-apart", seen: "parts in an acid bath" }, { card: NO_ACID })).toBe(
    "taken",
  );
  expect(refusal({ ...descaled, outcome: "declined" }, { card: NO_ACID })).toBe("taken");
  for (const what of ["Citric acid through the tank", "Entkalkt", "détartrage", "vinegar run"])
    expect(refusal({ what, how: "other" }, { card: NO_ACID })).toMatch(/^notCritical: Is this about the acid/);
});

test("a lead sets a rule aside in words that the line keeps; a technician does not", () => {
  const acid = { what: "Boiler", how: "descaled", reason: "nothing else to be had" };
  const forbidden = { ...around, card: NO_ACID };
  expect(refusal(acid, forbidden)).toMatch(/Only a lead can record an exception/);
  expect(refusal(acid, { ...forbidden, lead: true })).toMatch(/^exception: .*give the reason/);
  const line = workFrom(typed({ ...acid, exception: "Maker’s bulletin allows it once." }), {
    ...forbidden,
    lead: true,
  });
  expect(sayWork(line)).toBe(
    "Boiler: descaled, nothing else to be had. Done. (Exception by a lead: Maker’s bulletin allows it once.)",
  );
});

test("a line in words, with all there is to say", () => {
  const line = workFrom(
    typed({
      critical: "safety-valve",
      act: "replaced",
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
    "Safety valve (2 × Safety valve 1.8 bar LT-2018): replaced by type, hard, leaks. Seen: crack at the seat. Done, 35 min, GBP 38.50, safety-critical. By Orrin Feld, licence PV 2217.",
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
  expect(sayFault(faultFrom(fault, "EUR"))).toBe(
    "Pump hums, since spring, comes and goes. Left in: the owner wishes it so. Price reduced: EUR 20.",
  );
  expect(() => faultFrom(fault)).toThrow("Type the currency with it");
  expect(faultFrom({ ...fault, reduction: "a free basket" }).reduction).toBe("a free basket");
  expect(() => faultFrom({ ...fault, what: "" })).toThrow("Say what it does");
  expect(() => faultFrom({ ...fault, decision: "no" })).toThrow("Choose why");
});

test("what is usual on a kind is never what a rule refuses there", () => {
  for (const id of Object.keys(KINDS) as KindId[]) {
    const kind = KINDS[id];
    const card = usualCard(kind);
    const lines = usualWork(kind, card);
    expect(lines.length).toBeGreaterThan(2);
    for (const { what, how, reason, critical = "" } of lines) {
      const line = typed({ what, how, reason: reason ?? "worn", critical, act: critical && "replaced" });
      const made = workFrom({ ...line, licensedName: "A", licence: "1" }, { ...around, kind, card });
      expect([id, what, rulingOn(made, card)]).toEqual([id, what, null]);
    }
  }
  const names = (id: KindId) => usualWork(KINDS[id], usualCard(KINDS[id])).map((l) => l.what);
  expect(names("K14")).not.toContain("Pump");
  expect(names("K9")).toContain("Safety valve");
  expect(names("K10")).not.toContain("Pump");
});
