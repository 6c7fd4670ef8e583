import {
  type Job,
  type SignedDocument,
  type Standing,
  decisiveSchools,
  kindOf,
  particularsOf,
  sameParticulars,
  standingOf,
} from "../../../core/job";
import { type LoopId, keyOf } from "../../../core/knobs";
import type { KitInstrument } from "../../../core/metrology";
import { overridden } from "../../../core/school";
import { type StationProgress, areasOf, isDone, scopesFor, stationInHand, visitTitle } from "../../../core/sheet";
import type { ResultRow } from "../../../db/queries/results";
import type { SignedIn } from "../../auth";
import { loopBrief, loopView } from "./knob";
import { scaleForecast } from "./scale-forecast";
import { clocksOf, stationBrief, stationView } from "./station";

export type SheetView = ReturnType<typeof sheetView>;

/** The sheet as the screen shows it: where each station stands, the log, and what is to do now. All figures in bar. */
export function sheetView(
  job: Job,
  kit: readonly KitInstrument[],
  results: readonly ResultRow[],
  who: SignedIn,
  {
    now,
    picked,
    look,
    loop,
  }: { now: number; picked?: string | undefined; look?: string | undefined; loop?: string | undefined },
) {
  const standing = standingOf(job);
  const progress = standing.at(now);
  const looked = progress.find((p) => p.station.id === look && p.state === "done");
  const inHand = looked ?? stationInHand(progress, picked);
  const { machine } = job;
  const pressureUnit = who.preferences.pressureUnit;
  const instruments = [...kit, ...machine.instruments.filter((own) => !kit.some((k) => k.id === own.id))];
  const shown = { standing, instruments, now, pressureUnit };
  const knob = knobInHand(standing, inHand, loop, now);
  const inPlan = new Set(standing.plan.flatMap((s) => s.tasks.flatMap((t) => ("loop" in t ? [t.loop] : []))));

  return {
    job: jobView(standing, who),
    machine: machineView(standing),
    at: now,
    stations: progress.map((p) => stationBrief(p, shown)),
    open: inHand && stationView(inHand, shown),
    clocks: clocksOf(standing, now),
    areas: inHand?.station.tasks.some((t) => t.kind === "condition") ? areasOf(standing.kind) : [],
    scale: inHand?.station.tellsScale ? scaleForecast(standing) : null,
    /** Every knob of the sheet, told short. */
    loops: standing.loops.filter((l) => inPlan.has(l.loop.id)).map((l) => loopBrief(l, standing, pressureUnit)),
    /** The knob in hand, told in full. */
    loop: knob && loopView(knob, standing, instruments, { who, now }),
    notes: job.notes.map(({ id, station, area, text, by, at }) => ({
      id,
      station,
      area,
      text,
      by,
      at: at.toISOString(),
    })),
    photos: job.photos.map(({ id, station, area, width, height }) => ({ id, station, area, width, height })),
    visits: knob ? knobVisits(results, knob.loop.id) : [],
    signature: job.signature && {
      name: job.signature.name,
      at: job.signature.at.toISOString(),
      hash: job.signature.hash,
      remark: job.signature.remark,
      verdict: leftVerdict(job.signature.document),
    },
    links: job.links
      .filter((l) => l.revokedAt === null)
      .map((l) => ({ id: l.id, token: l.token, at: l.at.toISOString() })),
  };
}

/** The verdict of the first knob of the sheet as it was left; null where nothing was read. */
function leftVerdict({ results }: SignedDocument) {
  return results.find((r) => r.asLeft)?.asLeft?.verdict ?? null;
}

function jobView(standing: Standing, who: SignedIn) {
  const { job, kind, card } = standing;
  return {
    id: job.id,
    revision: job.revision,
    state: job.state,
    complaint: job.complaint,
    startedAt: job.startedAt.toISOString(),
    startedBy: job.startedBy,
    title: visitTitle(job.scopes, kind, card),
    scopes: job.scopes,
    /** What else there is to do on this machine. */
    offered: scopesFor(kind, card).filter((id) => !job.scopes.includes(id)),
    schools: job.schools,
    own: overridden(job.schools, who.workshop.schools),
    decisive: decisiveSchools(standing),
    level: job.level,
    spec: job.spec && { name: job.spec.name, version: job.spec.version },
    /** What library or register say otherwise today than when the job began; "" while they say the same. */
    changedSince: job.state === "open" ? changedSince(job) : "",
    rule: job.rule,
  };
}

function changedSince({ particulars, machine }: Job): string {
  const now = particularsOf(machine.described);
  if (sameParticulars(now, particulars)) return "";
  if (now.kind !== particulars.kind) return `the model is listed as “${kindOf(now).label}” now`;
  return "the model’s or the machine’s data were changed since";
}

function machineView({ job: { machine, particulars }, kind }: Standing) {
  return {
    id: machine.id,
    maker: machine.maker,
    model: machine.model,
    serial: machine.serial,
    site: machine.site,
    town: machine.town,
    owner: machine.owner,
    kind: kind.label,
    groups: kind.groups,
    gaugePlace: particulars.gauge.place,
    gaugeToGroup: particulars.gauge.toGroup,
    modifications: machine.modifications,
    special: kind.special,
    forbidden: kind.forbidden,
  };
}

/** The knob the instrument zone shows: the one asked for, the first of the station in hand that is not done, else the one beside it. */
function knobInHand(standing: Standing, inHand: StationProgress | null, asked: string | undefined, now: number) {
  const { job, records } = standing;
  const of = (id: LoopId | undefined) => standing.loops.find((l) => l.loop.id === id) ?? null;
  const at = { records, now, loops: standing.loops.map((l) => l.loop) };
  const tasks = (inHand?.station.tasks ?? []).flatMap((t) => ("loop" in t ? [t] : []));
  const wanted = tasks.find((t) => t.loop === asked);
  if (wanted) return of(wanted.loop);
  const open = tasks.find((t) => !t.optional && !isDone(t, at)) ?? tasks.findLast((t) => !t.optional);
  if (open) return of(open.loop);
  // Whoever signs, or reads a signed sheet, sees first what was read first.
  if (job.state === "signed" || inHand?.station.tasks.some((t) => t.kind === "sign"))
    return standing.loops.find((l) => l.log.length > 0) ?? null;
  return of(inHand?.station.beside?.loop);
}

/** The readings of one knob at earlier visits, newest first: those where it was read as found and as left. */
export function knobVisits(results: readonly ResultRow[], loop: LoopId) {
  const own = results.filter((r) => keyOf(r) === loop);
  return own.flatMap((left) => {
    const found = left.phase === "as-left" && own.find((r) => r.jobId === left.jobId && r.phase === "as-found");
    if (!found) return [];
    const point = ({ value, U, verdict, resolution }: ResultRow) => ({ value, U, verdict, resolution });
    return [
      {
        jobId: left.jobId,
        at: left.at.toISOString(),
        asFound: point(found),
        asLeft: point(left),
        tolerance: { lower: left.lower ?? undefined, upper: left.upper ?? undefined },
      },
    ];
  });
}
