import type { Evidence, PatternId } from "../../core/diagnose";
import { flowingTest } from "../../core/pressure";
import type { SheetRow } from "../../db/queries/jobs";
import { runOf, summarise } from "./events";
import { judged } from "./judged";
import type { Stand } from "./stand";

/** What the readings on the sheet say by themselves towards a cause: nobody types twice what was read. */
export function seenInReadings(pattern: PatternId, stand: Stand, row: Pick<SheetRow, "decisionRule">): Evidence[] {
  const brew = stand.loops.find((l) => l.loop.id === "opv");
  if (pattern !== "brew-pressure" || !brew) return [];
  const { loop, entries } = brew;
  const found = runOf(entries, "as-found");
  const read = judged(summarise(found, loop, stand.kind.pump), loop.tolerance, row.decisionRule);
  if (!read || read.count < loop.needed.found) return [];
  const evidence: Evidence[] = [];
  if (read.verdict === "off")
    evidence.push({ check: "static", outcome: read.value < (loop.tolerance.lower ?? -Infinity) ? "low" : "high" });
  if (read.verdict === "holds") evidence.push({ check: "static", outcome: "inside" });
  const looked = found.findLast((r) => r.detail.returned !== undefined)?.detail.returned;
  if (looked) evidence.push({ check: "return", outcome: looked === "none" ? "none" : "some" });
  const flowing = entries.flatMap((e) => (e.kind === "reading" && e.stands && e.row.detail.flowing ? [e.row] : []));
  const under = summarise(flowing.slice(-2), loop, stand.kind.pump);
  if (under) {
    const test = flowingTest({ static: read.value, flowing: under.value, u: Math.hypot(under.u, read.u) / Math.SQRT2 });
    if (test.verdict === "sags") evidence.push({ check: "flowing", outcome: "sags" });
    if (test.verdict === "holds under flow") evidence.push({ check: "flowing", outcome: "holds" });
  }
  return evidence;
}
