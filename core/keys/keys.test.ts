import { KEY_ACTIONS, KEY_ACTION_IDS, type KeyAction, keyFaults, keyOf, ownKeys } from ".";

const usual = Object.fromEntries(KEY_ACTION_IDS.map((a) => [a, KEY_ACTIONS[a].key])) as Record<KeyAction, string>;

describe("single keys", () => {
  test("the usual ones can be taken, and none of them needs to be kept", () => {
    expect(keyFaults(usual)).toEqual({});
    expect(ownKeys(usual)).toEqual({});
  });

  test("another key is kept, and is the one that counts", () => {
    const own = ownKeys({ ...usual, stop: "x" });
    expect(own).toEqual({ stop: "x" });
    expect(keyOf("stop", { own })).toBe("x");
    expect(keyOf("pump", { own })).toBe("p");
  });

  test("switched off, no action has a key", () => {
    for (const action of KEY_ACTION_IDS) expect(keyOf(action, { off: true, own: { [action]: "x" } })).toBeNull();
  });

  test.each([
    ["nothing", ""],
    ["two", "ab"],
    ["a space", " "],
    ["a tab", "\t"],
  ])("%s is no key", (_, key) => {
    expect(keyFaults({ ...usual, why: key }).why).toMatch(/One letter/);
  });

  test("one of several code units is one", () => {
    expect(keyFaults({ ...usual, why: "𝄞" })).toEqual({});
  });

  test("a key that two actions want is refused at both", () => {
    const faults = keyFaults({ ...usual, why: "p" });
    expect(Object.keys(faults).sort()).toEqual(["pump", "why"]);
    expect(faults.why).toContain("Pump on");
  });
});
