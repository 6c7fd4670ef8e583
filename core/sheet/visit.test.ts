import fc from "fast-check";
import {
  NOTHING_RECORDED,
  PRESETS,
  PRESET_IDS,
  SCOPE_IDS,
  type Scope,
  presetOf,
  presetScopes,
  progress,
  scopesFor,
  sheetFor,
  toolsFor,
  visitTitle,
} from ".";
import { KINDS, KIND_IDS, type KindId, usualCard } from "../kind";
import { loopsOf } from "../knobs";
import { USUAL_OPV } from "../pressure";
import { USUAL_SCHOOLS } from "../school";

/** What a visit is for: sets of scopes, the usual ones by name. */

const card = (id: KindId) => usualCard(KINDS[id]);
function sheet(id: KindId, scopes: readonly Scope[]) {
  const usual = { kind: KINDS[id], card: card(id), schools: USUAL_SCHOOLS, spec: [] };
  return sheetFor({ ...usual, scopes, level: "machine-warm", loops: loopsOf({ ...usual, opv: USUAL_OPV }) });
}

test.each(KIND_IDS)("a %s: every usual visit has its name back, what it has nothing of is left out", (id) => {
  const here = scopesFor(KINDS[id], card(id));
  for (const preset of PRESET_IDS) {
    const scopes = presetScopes(preset, KINDS[id], card(id));
    expect(scopes.every((s) => here.includes(s))).toBe(true);
    if (scopes.length === 0) continue;
    expect(visitTitle(scopes, KINDS[id], card(id))).toBe(PRESETS[presetOf(scopes, KINDS[id], card(id))!].title);
    // Scopes kept from before that this kind has nothing of do not change the name.
    expect(presetOf([...PRESETS[preset].scopes], KINDS[id], card(id))).toBe(presetOf(scopes, KINDS[id], card(id)));
  }
});

test("put together by hand it is called by what it is for, in the order of work", () =>
  expect(visitTitle(["clean", "temperature"], KINDS.K5, card("K5"))).toBe("Temperature, clean"));

test("what there is to do depends on the machine", () => {
  expect(scopesFor(KINDS.K14, card("K14"))).toEqual(["setup", "grinder", "work", "clean", "hand-over"]);
  expect(scopesFor(KINDS.K7, card("K7"))).not.toContain("volumes");
  expect(scopesFor(KINDS.K1, { ...card("K1"), doseButtons: 0 })).not.toContain("volumes");
  expect(scopesFor(KINDS.K13, card("K13"))).not.toContain("steam");
});

test("tools are those of the scopes: a cleaning needs no gauge, a pressure check no scale", () => {
  const tools = (scopes: Scope[]) => toolsFor({ scopes, kind: KINDS.K7 });
  expect(tools(["clean"])).not.toContain("Portafilter gauge");
  expect(tools(["pressure"])).toContain("Hex keys 2, 2.5 and 3 mm");
  expect(tools(["pressure"])).not.toContain("Scale to 0.1 g");
  expect(tools(["grinder"])).toContain("Scale to 0.1 g");
});

test("every set of scopes on every kind is a sheet: whole, each station once, something ready, nothing required that can’t come", () => {
  fc.assert(
    fc.property(fc.constantFrom(...KIND_IDS), fc.subarray(SCOPE_IDS), (id, wanted) => {
      const scopes = wanted.filter((s) => scopesFor(KINDS[id], card(id)).includes(s));
      const stations = sheet(id, scopes);
      const ids = stations.map((s) => s.id);
      expect(new Set(ids).size).toBe(ids.length);
      expect([ids[0], ids.at(-1)]).toEqual(["look-over", "sign"]);
      for (const [i, s] of stations.entries())
        for (const r of s.requires) if (ids.includes(r.station)) expect(ids.indexOf(r.station)).toBeLessThan(i);
      const ready = progress(stations, NOTHING_RECORDED, 0, []).filter((p) => p.state === "ready");
      expect(ready.map((p) => p.station.id)).toEqual(["look-over"]);
      // More to do never takes anything away.
      const all = sheet(id, scopesFor(KINDS[id], card(id))).map((s) => s.id);
      expect(ids.filter((s) => !all.includes(s))).toEqual([]);
    }),
    { numRuns: 400, seed: 11 },
  );
});
