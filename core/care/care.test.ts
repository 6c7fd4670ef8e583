import { KINDS, KIND_IDS, type KindId, usualCard } from "../kind";
import { USUAL_SCHOOLS } from "../school";
import { normalOn, routineOf } from ".";

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
