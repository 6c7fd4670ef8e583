import fc from "fast-check";
import { aGauge, aJob, aReading } from "../../../core/job/job.fixture";
import { type Job, type Move, type Reading, type Repair, documentOf, standingOf } from "../../../core/job";
import { KIND_IDS, KINDS, type KindId } from "../../../core/kind";
import { type Loop, moduleOf } from "../../../core/knobs";
import { BREW_PRESSURE } from "../../../core/diagnose/patterns/brew-pressure";
import type { KitInstrument } from "../../../core/metrology";
import type { SignedIn } from "../../auth";
import { loopView } from "./knob";

/**
 * Random visits on every kind and knob, in any order, with a fine and a coarse instrument, repairs, exclusions and checks for a cause: what
 * one part of the screen says, no other speaks against. As many as `COHERENCE_RUNS` says; a few hundred by default.
 */

const RUNS = Number(process.env.COHERENCE_RUNS ?? 250);

const WHO = { preferences: { pressureUnit: "bar", theme: "system" } } as unknown as SignedIn;
const SIGNING = { workshop: "Shop", name: "Ilka", remark: "", at: new Date("2026-05-04T12:00:00Z") };

type Event =
  | {
      readonly kind: "reading";
      readonly at: number;
      readonly coarse: boolean;
      readonly returned: "seen" | "none" | null;
    }
  | { readonly kind: "move"; readonly steps: number }
  | { readonly kind: "advised" }
  | { readonly kind: "repair" }
  | { readonly kind: "check"; readonly check: string; readonly outcome: string };

const someEvent: fc.Arbitrary<Event> = fc.oneof(
  {
    weight: 6,
    arbitrary: fc.record({
      kind: fc.constant("reading" as const),
      // In half tolerances from the middle: most of them near it, some far off.
      at: fc.oneof(fc.double({ min: -1.5, max: 1.5, noNaN: true }), fc.double({ min: -6, max: 6, noNaN: true })),
      coarse: fc.boolean(),
      returned: fc.constantFrom("seen" as const, "none" as const, null, null),
    }),
  },
  { weight: 2, arbitrary: fc.constant({ kind: "advised" as const }) },
  { weight: 1, arbitrary: fc.record({ kind: fc.constant("move" as const), steps: fc.integer({ min: -6, max: 6 }) }) },
  { weight: 1, arbitrary: fc.constant({ kind: "repair" as const }) },
  {
    weight: 1,
    arbitrary: fc
      .constantFrom(...BREW_PRESSURE.checks.flatMap((c) => c.outcomes.map((o) => [c.id, o.id] as const)))
      .map(([check, outcome]) => ({ kind: "check" as const, check, outcome })),
  },
);

function limitsOf({ tolerance: { lower, upper, target } }: Loop): { middle: number; half: number } {
  const middle = target ?? lower ?? upper!;
  const half = lower !== undefined && upper !== undefined ? (upper - lower) / 2 : Math.max(0.1, 0.1 * Math.abs(middle));
  return { middle, half };
}

function instrumentOf(loop: Loop, coarse: boolean): KitInstrument {
  const { half } = limitsOf(loop);
  const share = coarse ? 0.55 : 0.06;
  return {
    ...aGauge(coarse ? "Coarse" : "Fine"),
    quantity: moduleOf(loop.at.knob).reads.quantity,
    place: loop.places[0] ?? "group",
    lowest: -1000,
    highest: 1000,
    resolution: half / 10,
    error: { form: "certificate", U: 2 * share * half, k: 2 },
    repeatability: 0.12 * half,
  };
}

/** The visit as far as it went. */
function after(kind: KindId, loopId: string, events: readonly Event[]) {
  let job: Job = aJob(kind, "service", { rule: "guarded" });
  const loopOf = () => standingOf(job).loops.find((l) => l.loop.id === loopId)!;
  events.forEach((event, i) => {
    const sequence = i + 1;
    const { loop, advice, stop } = loopOf();
    const row = {
      id: `line ${sequence}`,
      by: "Ilka",
      at: aReading(sequence, 0).at,
      loop: loop.id,
      sequence,
      supersedes: null,
      reason: "",
    };
    if (event.kind === "reading") {
      const { middle, half } = limitsOf(loop);
      const instrument = instrumentOf(loop, event.coarse);
      const value = Math.round((middle + event.at * half) / instrument.resolution) * instrument.resolution;
      const uCommon = (event.coarse ? 0.55 : 0.06) * half;
      const detail = {
        ...(loop.with.brew && event.returned ? { returned: event.returned } : {}),
        ...(event.coarse ? { finer: "Fine" } : {}),
        ...(loop.with.setPoint ? { setPoint: 93 } : {}),
      };
      const reading: Reading = {
        ...aReading(sequence, value, detail, { instrument, u: Math.hypot(uCommon, 0.12 * half), uCommon }),
        loop: loop.id,
        place: instrument.place,
      };
      job = { ...job, readings: [...job.readings, reading] };
    }
    if (event.kind === "check") {
      const value = { form: "evidence" as const, check: event.check, outcome: event.outcome };
      const entry = { ...row, task: "diagnosis.brew-pressure", value, typed: "", unit: "", readBy: [] };
      job = { ...job, entries: [...job.entries, entry] };
    }
    if (event.kind === "repair") {
      const repair: Repair = { ...row, text: "Renewed" };
      job = { ...job, repairs: [...job.repairs, repair] };
    }
    const { action } = advice ?? {};
    const steps = event.kind === "move" ? event.steps * (loop.knob?.step ?? 0) : 0;
    const amount = event.kind === "advised" && action?.kind === "move" && !stop ? action.amount : steps;
    if (amount !== 0 && loop.hand) {
      const move: Move = { ...row, amount: amount * loop.hand.sign };
      job = { ...job, moves: [...job.moves, move] };
    }
  });
  return standingOf(job);
}

/** "Turn OPV ½ turn clockwise.", "Fit a spring …", "Teach it again …": what tells a hand to change the setting. */
const TELLS_A_CHANGE = /^(Turn|Fit|Raise|Lower|Set|Programme|Teach)\b/;

test("whatever is read, turned, renewed and looked at: no part of the screen speaks against another", () => {
  const cases = KIND_IDS.flatMap((kind) =>
    standingOf(aJob(kind, "service")).loops.flatMap(({ loop }) => (loop.knob ? [{ kind, loop: loop.id }] : [])),
  );
  fc.assert(
    fc.property(
      fc.constantFrom(...cases),
      fc.array(someEvent, { minLength: 1, maxLength: 9 }),
      ({ kind, loop: id }, events) => {
        const standing = after(kind, id, events);
        const at = standing.loops.find((l) => l.loop.id === id)!;
        const kit = [instrumentOf(at.loop, false), instrumentOf(at.loop, true)];
        const view = loopView(at, standing, kit, { who: WHO, now: SIGNING.at.getTime() });
        const { advice } = view;
        if (!advice?.now) return;
        const current = view.asLeft ?? view.asFound;
        const words = [advice.headline, advice.expect, ...advice.why, ...advice.checks, advice.part];

        const tells = advice.kind === "move" || TELLS_A_CHANGE.test(advice.headline);
        if (current?.verdict === "holds") expect([tells, view.stopped]).toEqual([false, false]);
        if (current?.verdict === "holds") expect(advice.fault).not.toBe("look-first");
        if (current?.verdict === "off") expect(advice.headline).not.toMatch(/in spec\. (Done|Next)|^In spec/i);
        if (advice.kind === "accept") expect([view.stopped, view.accepted]).toEqual([false, true]);
        if (view.stopped) expect([view.accepted, tells]).toEqual([false, false]);
        // A turn is never told that is less likely in spec than standing still.
        if (advice.expected) expect(advice.expected.pInside).toBeGreaterThanOrEqual(advice.now.pInside - 1e-9);
        // Nothing is named that is not there.
        const screw = KINDS[kind].opv !== "spring" && KINDS[kind].opv !== "none";
        if (at.loop.at.knob === "opv" && !screw)
          for (const sentence of words)
            expect(sentence).not.toMatch(/\bscrew\b|[Tt]urn OPV|\bturns?\b (anti)?clockwise/);
        if (at.loop.at.knob === "opv" && screw)
          for (const sentence of words) expect(sentence).not.toMatch(/spring \d|[Ff]it a spring/);
        for (const sentence of words) expect(sentence).not.toMatch(/NaN|Infinity|undefined|null/);
        // One figure, on the screen and on paper.
        const paper = documentOf(standing, SIGNING).results.find((r) => r.title === view.title);
        expect(paper?.asFound?.value ?? null).toBe(view.asFound?.value ?? null);
        expect(paper?.asFound?.verdict ?? null).toBe(view.asFound?.verdict ?? null);
        if (view.asLeft) expect(paper?.asLeft?.value).toBe(view.asLeft.value);
      },
    ),
    { numRuns: RUNS },
  );
});
