import { KINDS, KIND_IDS, type KindId, usualCard } from "../kind";
import { USUAL_SCHOOLS } from "../school";
import { demonstrationOf, descaleEvery, normalOn, routineOf } from ".";

/** The owner’s routine, by kind. Common practice of the trade, no published figure. */

const of = (id: KindId, over: Partial<typeof USUAL_SCHOOLS> = {}) =>
  routineOf(KINDS[id], usualCard(KINDS[id]), { ...USUAL_SCHOOLS, ...over }).map((c) => `${c.when}: ${c.what}`);
const said = (id: KindId, over = {}) => of(id, over).join("\n");

test.each(KIND_IDS)("%s: something after each use or day, something each week, nothing twice", (id) => {
  const lines = of(id);
  expect(new Set(lines).size).toBe(lines.length);
  expect(lines.some((l) => l.startsWith("week: "))).toBe(true);
  expect(lines.some((l) => /^(shot|day): /.test(l))).toBe(true);
});

test("what a kind can’t do it is not told to: no back-flush without a three-way valve or a pump, no wand without steam", () => {
  for (const id of KIND_IDS) {
    const kind = KINDS[id];
    if (!kind.threeWayValve || kind.pump === "none") expect(said(id)).not.toMatch(/back-flush/i);
    if (!kind.steams) expect(said(id)).not.toMatch(/wand/);
    if (kind.supply !== "tank") expect(said(id)).not.toMatch(/fill the tank/);
    if (kind.groups === 0) expect(said(id)).not.toMatch(/portafilter/);
  }
  expect(said("K2")).toMatch(/Refill the boiler straight away/);
  expect(said("K11")).not.toMatch(/Refill the boiler/);
});

test("the workshop’s methods decide how often, and who descales", () => {
  expect(said("K7")).toMatch(/day: Back-flush with plain water\.$/m);
  expect(said("K7", { backFlush: "every-session" })).toMatch(/in a shop several times a day/);
  expect(said("K1")).toMatch(/by the owner’s cycle/);
  expect(said("K1", { ownerDescaling: "never" })).toMatch(/by the workshop only/);
  expect(said("K8")).toMatch(/never acid through the tank/);
});

test("what is normal is so on that kind", () => {
  const normal = (id: KindId) => normalOn(KINDS[id]).join("\n");
  expect(normal("K7")).toMatch(/runs back to the tank or tray/);
  expect(normal("K10")).not.toMatch(/needle trembles|runs back/);
  expect(normal("K13")).not.toMatch(/short gush/);
  expect(normal("K11")).toMatch(/fills up/);
});

test("an owner who may descale is told by litres and shots once the hardness was read; others never are", () => {
  const at = (id: KindId, hardness: number | null) =>
    routineOf(KINDS[id], usualCard(KINDS[id]), USUAL_SCHOOLS, { hardness })
      .map((c) => `${c.when}: ${c.what}`)
      .join("\n");
  expect(at("K1", 200)).toMatch(/use: Descale by the owner’s cycle every 50 L, about 400 doubles/);
  expect(at("K1", null)).toMatch(/month: Descaling: by the owner’s cycle, as often as the hardness asks/);
  expect(at("K8", 200)).not.toMatch(/every \d+ L/);
});

test("litres between descalings: half at twice the hardness, within what is worth counting", () => {
  expect(descaleEvery(100)).toBe(2 * descaleEvery(200));
  expect(descaleEvery(1)).toBe(200);
  expect(descaleEvery(5000)).toBe(20);
});

describe("the demonstration", () => {
  const parts = (id: KindId, over: Partial<typeof USUAL_SCHOOLS> = {}) =>
    demonstrationOf(KINDS[id], { ...USUAL_SCHOOLS, ...over });

  test.each(KIND_IDS)("%s: each part once, with something to say, to show and to try", (id) => {
    const ids = parts(id).map((p) => p.id);
    expect(new Set(ids).size).toBe(ids.length);
    for (const { say, show, tries } of parts(id)) {
      expect(say.length * tries.length).toBeGreaterThan(0);
      expect(show.length).toBeGreaterThan(0);
    }
    expect(ids).toContain("clean");
  });

  test("only what the kind can do", () => {
    const ids = (id: KindId) => parts(id).map((p) => p.id);
    expect(ids("K7")).toEqual(["warm-up", "dose", "tamp", "shot", "milk", "clean", "water"]);
    // It tamps by itself.
    expect(ids("K6")).not.toContain("tamp");
    expect(ids("K13")).not.toContain("milk");
    expect(ids("K14")).toEqual(["dose", "clean"]);
    expect(
      parts("K2")
        .find((p) => p.id === "milk")!
        .show.join(" "),
    ).toMatch(/Refill the boiler/);
    expect(
      parts("K13")
        .find((p) => p.id === "shot")!
        .show.join(" "),
    ).toMatch(/until the pressure is gone/);
  });

  test("the workshop’s methods: wait or blank shots, how often is back-flushed", () => {
    const warm = (method: "wait" | "blank-shots") => JSON.stringify(parts("K7", { warmUp: method })[0]);
    expect(warm("wait")).not.toMatch(/blank shots/);
    expect(warm("blank-shots")).toMatch(/[Tt]wo blank shots/);
    const clean = JSON.stringify(parts("K7", { backFlush: "every-session" }).find((p) => p.id === "clean"));
    expect(clean).toMatch(/after every session/);
  });
});
