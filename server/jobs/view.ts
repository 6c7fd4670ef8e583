import { FAULT_CHECKS, explain } from "../../core/adjust";
import { judge, outOfDate, pInside } from "../../core/metrology";
import { raising } from "../../core/pressure";
import { KINDS } from "../../core/kind";
import { overridden } from "../../core/school";
import { READINGS_NEEDED, areasOf, readingRuns, stationInHand, toolsFor } from "../../core/sheet";
import type { SheetRow } from "../../db/queries/jobs";
import type { SignedIn } from "../auth";
import { type Summary, runOf, standing, summarise } from "./events";
import { adjustable, standOf } from "./stand";
import { decisiveSchools } from "./report";
import { scaleView } from "./scale";
import { stationView } from "./station-view";
import { wordingFor } from "./wording";

export type SheetView = ReturnType<typeof sheetView>;
export type Judged = ReturnType<typeof judged>;

/** The sheet as the screen shows it: where each station stands, the log, and what is to do now. All figures in bar. */
export function sheetView(
  row: SheetRow,
  kit: SheetRow["machine"]["instruments"],
  visits: VisitRow[],
  who: SignedIn,
  { now, picked, look }: { now: number; picked?: string | undefined; look?: string | undefined },
) {
  const stand = standOf(row);
  const today = new Date(now).toISOString().slice(0, 10);
  const progress = stand.at(now);
  const looked = progress.find((p) => p.station.id === look && p.state === "done");
  const inHand = looked ?? stationInHand(progress, picked);
  const { machine } = row;
  const rule = row.decisionRule;
  const asFound = judged(summarise(runOf(stand.entries, "as-found")), row);
  const runs = readingRuns(standing(stand.entries).map((e) => e.kind));
  const asLeft =
    runs.moves > 0 || row.state === "signed" ? judged(summarise(runOf(stand.entries, "as-left")), row) : null;
  const gauges = [...kit, ...machine.instruments.filter((own) => !kit.some((k) => k.id === own.id))];
  const lastGauge = row.readings.at(-1)?.instrument;
  const resolution = lastGauge?.resolution ?? gauges[0]?.resolution ?? 0.1;
  const said = explain(stand.advice, stand.question, wordingFor(who.preferences.pressureUnit, resolution, stand.opv));
  const { action, belief } = stand.advice;

  return {
    job: {
      id: row.id,
      revision: row.revision,
      state: row.state,
      complaint: row.complaint,
      startedAt: row.startedAt.toISOString(),
      startedBy: row.starter.name,
      type: row.type,
      school: row.schools.opv,
      schools: row.schools,
      own: overridden(row.schools, who.workshop.schools),
      decisive: decisiveSchools(stand.plan, row),
      level: row.level,
      spec: row.spec && { name: row.spec.card.name, version: row.spec.version },
      /** Set when the register lists the machine as another kind than this sheet was made for. */
      otherKind: machine.model.kind === row.kind ? null : KINDS[machine.model.kind].label,
      rule,
      tolerance: row.tolerance,
    },
    machine: {
      id: machine.id,
      maker: machine.model.maker,
      model: machine.model.name,
      serial: machine.serial,
      site: machine.site.name,
      town: machine.site.town,
      owner: machine.site.owner.name,
      kind: stand.kind.label,
      gaugePlace: machine.gaugePlace,
      gaugeToGroup: machine.gaugeToGroup,
      modifications: machine.modifications,
      raises: stand.opv.raises,
    },
    at: now,
    stations: progress.map((p) => stationView(p, stand, row, now)),
    inHand: inHand?.station.id ?? null,
    tools: toolsFor({ type: row.type, kind: stand.kind }),
    areas: areasOf(stand.kind),
    special: stand.kind.special,
    forbidden: stand.kind.forbidden,
    pressure: stand.plan.some((s) => s.id === "as-found"),
    scale: scaleView(row, stand.records),
    adjustable: adjustable(stand.kind),
    needed: READINGS_NEEDED,
    runs,
    notes: row.notes.map((n) => ({
      id: n.id,
      station: n.station,
      area: n.area,
      text: n.text,
      by: n.author.name,
      at: n.at.toISOString(),
    })),
    photos: row.photos.map((p) => ({ id: p.id, station: p.station, area: p.area, width: p.width, height: p.height })),
    gauges: gauges.map((g) => ({
      id: g.id,
      name: g.name,
      place: g.place,
      lowest: g.lowest,
      highest: g.highest,
      resolution: g.resolution,
      outOfDate: outOfDate(g, today),
      dueOn: g.dueOn,
    })),
    lastGaugeId: lastGauge?.id ?? null,
    resolution,
    log: stand.entries.map((e) =>
      e.kind === "reading"
        ? {
            kind: e.kind,
            id: e.row.id,
            stands: e.stands,
            by: e.row.reader.name,
            at: e.row.at.toISOString(),
            gauge: e.row.instrument.name,
            typed: e.row.typed,
            indicated: e.row.indicated,
            value: e.row.value,
            resolution: e.row.instrument.resolution,
            reason: e.row.reason,
            early: e.row.early,
          }
        : {
            kind: e.kind,
            id: e.row.id,
            stands: e.stands,
            by: e.row.turner.name,
            at: e.row.at.toISOString(),
            turns: e.row.turns,
            reason: e.row.reason,
          },
    ),
    asFound,
    asLeft,
    advice: {
      kind: action.kind,
      ...said,
      // Signed clockwise, as the hand turns and the log keeps it.
      turns: action.kind === "move" ? action.amount * raising(stand.opv.raises) : null,
      expected: action.kind === "move" && action.purpose === "into-tolerance" ? action.expected : null,
      checks: action.kind === "fault" ? [...FAULT_CHECKS[action.fault]] : [],
      fault: action.kind === "fault" ? action.fault : null,
    },
    now: belief && { value: belief.value, sd: belief.sd, pInside: belief.pInside },
    finding: row.findings[0] ? { fault: row.findings[0].fault, text: row.findings[0].text } : null,
    visits: visits.map(visitView).filter((v) => v !== null),
    signature: row.signature && {
      name: row.signature.name,
      at: row.signature.at.toISOString(),
      hash: row.signature.hash,
      remark: row.signature.remark,
      verdict: row.signature.document.asLeft?.verdict ?? null,
    },
    links: row.links
      .filter((l) => l.revokedAt === null)
      .map((l) => ({ id: l.id, token: l.token, at: l.at.toISOString() })),
  };
}

export interface VisitRow {
  jobId: string;
  signedAt: Date | null;
  document: {
    asFound: SignedPoint | null;
    asLeft: SignedPoint | null;
    tolerance: { lower?: number | undefined; target?: number | undefined; upper?: number | undefined };
  };
}
type SignedPoint = {
  value: number;
  U: number;
  verdict: "holds" | "just holds" | "can't tell" | "off";
  resolution: number;
};

/** The brew pressure of an earlier visit; null when none was read then. */
export function visitView(v: VisitRow) {
  const { asFound, asLeft, tolerance } = v.document;
  if (!asFound || !asLeft) return null;
  const point = ({ value, U, verdict, resolution }: SignedPoint) => ({ value, U, verdict, resolution });
  return {
    jobId: v.jobId,
    at: v.signedAt?.toISOString() ?? "",
    asFound: point(asFound),
    asLeft: point(asLeft),
    tolerance,
  };
}

/** A run of readings held against the job's tolerance. */
export function judged(summary: Summary | null, job: Pick<SheetRow, "tolerance" | "decisionRule">) {
  if (!summary) return null;
  const conformity = judge(summary, job.tolerance, job.decisionRule);
  return { ...summary, ...conformity, pInside: pInside(summary, job.tolerance) };
}
