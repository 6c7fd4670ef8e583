import { KIND_IDS, KINDS, usualCard } from "../kind";
import { USUAL_OPV } from "../pressure";
import { PRESET_IDS, presetScopes } from "../sheet";
import { type Described, kindOf, particularsOf, sameParticulars, scopesOfPreset, standingOf } from ".";
import { aJob, knobOf } from "./job.fixture";

const described = (more: Partial<Described> = {}): Described => ({
  kind: "K7",
  card: {},
  opv: USUAL_OPV,
  gauge: { place: "none", toGroup: 0, toGroupU: 0 },
  altitude: 0,
  ...more,
});

describe("what decides a sheet, as it was when the job began", () => {
  test("where a card says nothing its kind does; what it says comes first", () => {
    expect(particularsOf(described()).card).toEqual(usualCard(KINDS.K7));
    const own = particularsOf(described({ card: { boilerLitres: 3.3, opvAccess: "none" } }));
    expect(own.card).toMatchObject({ boilerLitres: 3.3, opvAccess: "none", buttons: usualCard(KINDS.K7).buttons });
    expect(kindOf(own)).toMatchObject({ opv: "none", groups: own.card.groups });
  });

  test("the same in another order is the same; one figure apart, deep inside, is not", () => {
    const a = particularsOf(described({ card: { ratingPlate: { volts: 230, watts: 3000, hertz: 50 } } }));
    const turned = (value: unknown): unknown =>
      value && typeof value === "object" && !Array.isArray(value)
        ? Object.fromEntries(
            Object.entries(value)
              .reverse()
              .map(([k, v]) => [k, turned(v)]),
          )
        : value;
    expect(sameParticulars(a, turned(a) as typeof a)).toBe(true);
    expect(sameParticulars(a, { ...a, altitude: 1 })).toBe(false);
    const plate = { ...a.card.ratingPlate, volts: 231 };
    expect(sameParticulars(a, { ...a, card: { ...a.card, ratingPlate: plate } })).toBe(false);
    // The order of a list says something: springs stand weakest first.
    const springs = [
      { name: "soft", bar: 8 },
      { name: "stiff", bar: 11 },
    ];
    const sprung = { ...a, card: { ...a.card, springs } };
    expect(sameParticulars(sprung, { ...a, card: { ...a.card, springs: [...springs].reverse() } })).toBe(false);
  });

  test.each(KIND_IDS)("%s: a usual visit is for what this machine has", (id) => {
    const particulars = particularsOf(described({ kind: id }));
    for (const preset of PRESET_IDS)
      expect(scopesOfPreset(preset, particulars)).toEqual(presetScopes(preset, KINDS[id], usualCard(KINDS[id])));
  });

  test("the way the screw turns is the job’s own, whatever the model says by now", () => {
    const sign = (raises: "clockwise" | "anticlockwise") =>
      knobOf(
        standingOf(aJob("K7", "check", { particulars: particularsOf(described({ opv: { ...USUAL_OPV, raises } })) })),
        "opv",
      ).loop.hand!.sign;
    expect(sign("clockwise")).toBe(-sign("anticlockwise"));
  });
});
