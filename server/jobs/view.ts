import { KINDS } from "../../core/kind";
import { type LoopId } from "../../core/loop";
import { overridden } from "../../core/school";
import { type StationProgress, areasOf, isDone, stationInHand, toolsFor } from "../../core/sheet";
import type { SheetRow } from "../../db/queries/jobs";
import type { SignedDocument } from "../../db/schema";
import type { SignedIn } from "../auth";
import { unlessBroken } from "../unless-broken";
import { type FullLoop, loopBrief, loopView } from "./loop-view";
import { decisiveSchools } from "./report";
import { scaleView } from "./scale";
import { type Stand, standOf } from "./stand";
import { stationView } from "./station-view";

export type SheetView = ReturnType<typeof sheetView>;

/** The sheet as the screen shows it: where each station stands, the log, and what is to do now. All figures in bar. */
export function sheetView(
  row: SheetRow,
  kit: SheetRow["machine"]["instruments"],
  visits: VisitRow[],
  who: SignedIn,
  {
    now,
    picked,
    look,
    loop,
  }: { now: number; picked?: string | undefined; look?: string | undefined; loop?: string | undefined },
) {
  const stand = standOf(row);
  const progress = stand.at(now);
  const looked = progress.find((p) => p.station.id === look && p.state === "done");
  const inHand = looked ?? stationInHand(progress, picked);
  const { machine } = row;
  const instruments = [...kit, ...machine.instruments.filter((own) => !kit.some((k) => k.id === own.id))];
  const shown = loopInHand(stand, row, inHand, loop, now);

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
      rule: row.decisionRule,
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
      groups: stand.kind.groups,
      gaugePlace: machine.gaugePlace,
      gaugeToGroup: machine.gaugeToGroup,
      modifications: machine.modifications,
      altitude: machine.site.altitude,
    },
    at: now,
    stations: progress.map((p) =>
      stationView(p, stand, row, instruments, { now, open: p.station.id === inHand?.station.id }),
    ),
    inHand: inHand?.station.id ?? null,
    tools: toolsFor({ type: row.type, kind: stand.kind }),
    areas: areasOf(stand.kind),
    special: stand.kind.special,
    forbidden: stand.kind.forbidden,
    scale: scaleView(row, stand.records),
    /** Every loop of the sheet, told short. */
    loops: stand.loops
      .filter((l) => stand.plan.some((st) => st.tasks.some((t) => "loop" in t && t.loop === l.loop.id)))
      .map((l) => loopBrief(l, stand, row, who.preferences.pressureUnit)),
    /** The loop in hand, told in full. */
    loop: shown && loopView(shown, stand, row, instruments, { who, now }),
    notes: row.notes.map((n) => ({
      id: n.id,
      station: n.station,
      area: n.area,
      text: n.text,
      by: n.author.name,
      at: n.at.toISOString(),
    })),
    photos: row.photos.map((p) => ({ id: p.id, station: p.station, area: p.area, width: p.width, height: p.height })),
    visits: shown
      ? visits.map((v) => unlessBroken("a visit", () => visitView(v, shown.loop.id))).filter((v) => v !== null)
      : [],
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

const AT_THE_BREW_GAUGE = ["covers", "as-found", "adjust", "as-left", "refit", "release", "sign"];

type FullStand = Omit<Stand, "loops"> & { loops: FullLoop[] };

/** The loop the instrument zone shows: the one asked for, the first of the station in hand that is not done, else brew pressure. */
function loopInHand(
  stand: FullStand,
  row: SheetRow,
  inHand: StationProgress | null,
  asked: string | undefined,
  now: number,
) {
  const loops = stand.loops.map((l) => l.loop);
  const of = (id: LoopId) => stand.loops.find((l) => l.loop.id === id) ?? null;
  const tasks = (inHand?.station.tasks ?? []).flatMap((t) => ("loop" in t ? [t] : []));
  const wanted = tasks.find((t) => t.loop === asked);
  if (wanted) return of(wanted.loop);
  const open =
    tasks.find((t) => !t.optional && !isDone(t, stand.records, now, loops)) ?? tasks.findLast((t) => !t.optional);
  if (open) return of(open.loop);
  const brew = stand.plan.some((s) => s.id === "as-found");
  return brew && (row.state === "signed" || AT_THE_BREW_GAUGE.includes(inHand?.station.id ?? "")) ? of("opv") : null;
}

export interface VisitRow {
  jobId: string;
  signedAt: Date | null;
  document: Pick<SignedDocument, "asFound" | "asLeft" | "tolerance" | "loops">;
}

/** One reading of an earlier visit; null when it was not read then. */
export function visitView(v: VisitRow, loop: LoopId) {
  const signed = loop === "opv" ? v.document : v.document.loops?.find((l) => l.loop === loop);
  if (!signed?.asFound || !signed.asLeft) return null;
  const point = ({ value, U, verdict, resolution }: NonNullable<SignedDocument["asFound"]>) => ({
    value,
    U,
    verdict,
    resolution,
  });
  return {
    jobId: v.jobId,
    at: v.signedAt?.toISOString() ?? "",
    asFound: point(signed.asFound),
    asLeft: point(signed.asLeft),
    tolerance: signed.tolerance,
  };
}
