import fc from "fast-check";
import { type SheetRecords, progress, readingRuns, stationInHand, stationsFor, toolsFor } from ".";
import { KINDS, KIND_IDS } from "../kind";
import { pressureCheck } from "../pressure";

const nothing: SheetRecords = {
  noted: new Set(),
  ticked: new Set(),
  events: [],
  accepted: false,
  faultTaken: false,
  signed: false,
};
const ids = (kind: keyof typeof KINDS) => stationsFor(KINDS[kind]).map((s) => s.id);
const inHand = (kind: keyof typeof KINDS, records: Partial<SheetRecords>) =>
  stationInHand(progress(stationsFor(KINDS[kind]), { ...nothing, ...records }))?.id;

test("covers come off for a screw inside, and go back on", () => {
  expect(ids("K7")).toEqual(["look-over", "tools", "covers", "as-found", "adjust", "as-left", "refit", "sign"]);
});

test("a screw reached from outside needs no cover off", () => {
  expect(ids("K4")).toEqual(["look-over", "tools", "as-found", "adjust", "as-left", "sign"]);
});

test("without a three-way valve the pressure must be let out; no screw, no adjusting", () => {
  expect(ids("K13")).toEqual(["look-over", "tools", "as-found", "release", "sign"]);
});

test.each(["K10", "K14"] as const)("%s has no pump: the check is refused", (kind) => {
  expect(() => stationsFor(KINDS[kind])).toThrow(/does not apply/);
});

test.each(KIND_IDS.filter((id) => pressureCheck(KINDS[id]) !== "not-applicable"))(
  "%s: complete, in order, hard stops where needed",
  (id) => {
    const stations = stationsFor(KINDS[id]);
    const order = stations.map((s) => s.id);
    expect(new Set(order).size).toBe(order.length);
    expect(order[0]).toBe("look-over");
    expect(order.at(-1)).toBe("sign");
    expect(order.includes("release")).toBe(!KINDS[id].threeWayValve);
    expect(order.includes("covers")).toBe(order.includes("refit"));
    for (const s of stations) if (s.hardStop) expect(s.hardStop.lines.join(" ")).toMatch(/Local codes/);
    expect(toolsFor(KINDS[id])).toContain("Portafilter gauge");
  },
);

test("one step after the other", () => {
  expect(inHand("K7", {})).toBe("look-over");
  const noted = new Set(["look-over"]);
  expect(inHand("K7", { noted })).toBe("tools");
  expect(inHand("K7", { noted, ticked: new Set(["tools"]) })).toBe("covers");
  const ticked = new Set(["tools", "covers"]);
  expect(inHand("K7", { noted, ticked })).toBe("as-found");
  expect(inHand("K7", { noted, ticked, events: ["reading"] })).toBe("as-found");
  expect(inHand("K7", { noted, ticked, events: ["reading", "reading"] })).toBe("adjust");
  const events = ["reading", "reading", "move", "reading"] as const;
  expect(inHand("K7", { noted, ticked, events, accepted: true })).toBe("as-left");
  expect(inHand("K7", { noted, ticked, events: [...events, "reading"], accepted: true })).toBe("refit");
  expect(inHand("K7", { noted, ticked, events, faultTaken: true })).toBe("as-left");
  const all = new Set([...ticked, "refit"]);
  expect(inHand("K7", { noted, ticked: all, events: [...events, "reading"], accepted: true })).toBe("sign");
  expect(
    inHand("K7", { noted, ticked: all, events: [...events, "reading"], accepted: true, signed: true }),
  ).toBeUndefined();
});

test("as found ends at the first move, as left begins after the last; no move: found is left", () => {
  expect(readingRuns(["reading", "reading", "move", "reading", "move", "reading", "reading"])).toEqual({
    asFound: 2,
    asLeft: 2,
    moves: 2,
  });
  expect(readingRuns(["reading", "reading"])).toEqual({ asFound: 2, asLeft: 2, moves: 0 });
  expect(readingRuns(["reading", "move"])).toEqual({ asFound: 1, asLeft: 0, moves: 1 });
});

test("never more than one station open, and nothing behind it done (property)", () => {
  const stations = stationsFor(KINDS.K7);
  const some = fc
    .uniqueArray(fc.constantFrom("look-over", "tools", "covers", "refit", "release"))
    .map((x) => new Set(x));
  fc.assert(
    fc.property(
      some,
      some,
      fc.array(fc.constantFrom("reading" as const, "move" as const)),
      fc.boolean(),
      (noted, ticked, events, accepted) => {
        const states = progress(stations, { ...nothing, noted, ticked, events, accepted }).map((p) => p.state);
        expect(states.filter((s) => s === "open")).toHaveLength(1);
        expect(states.slice(states.indexOf("open") + 1).every((s) => s === "ahead")).toBe(true);
      },
    ),
  );
});
