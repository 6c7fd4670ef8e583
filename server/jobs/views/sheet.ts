import {
  type Job,
  type SignedDocument,
  type Standing,
  WITHDRAWN_TASK,
  decisiveSchools,
  kindOf,
  nextService,
  particularsOf,
  sameParticulars,
  standingNotes,
  standingOf,
} from "../../../core/job";
import { type KnobId, type LoopId, keyOf } from "../../../core/knobs";
import { unsafeNow } from "../../../core/sheet";
import { linkTokenOf } from "../../open-links";
import { may } from "../../permissions";
import type { KitInstrument } from "../../../core/metrology";
import { overridden } from "../../../core/school";
import { WANTED_IDS, type WantedId } from "../../../core/spec";
import { WARM_LEVELS } from "../../../core/warmup";
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
  { now, picked, loop }: { now: number; picked?: string | undefined; loop?: string | undefined },
) {
  const standing = standingOf(job);
  const progress = standing.at(now);
  const inHand = stationInHand(progress, job.state === "open" ? picked : undefined);
  const first = stationInHand(progress);
  const goesOn =
    first && first.station.id !== inHand?.station.id && !(inHand?.state === "running" && first.state === "running");
  const next = inHand && inHand.state !== "ready" && goesOn ? first : null;
  const pressureUnit = who.preferences.pressureUnit;
  const { machine } = job;
  const instruments = [...kit, ...machine.instruments.filter((own) => !kit.some((k) => k.id === own.id))];
  const shown = { standing, instruments, now, pressureUnit };
  const inPlan = new Set(standing.plan.flatMap((s) => s.tasks.flatMap((t) => ("loop" in t ? [t.loop] : []))));
  const told = (step: StationProgress | null, asked?: string) => inHandView(step, asked, { ...shown, results, who });

  return {
    job: { ...jobView(standing, who), nextService: nextService(standing, now, results) },
    machine: machineView(standing),
    at: now,
    stations: progress.map((p) => stationBrief(p, shown)),
    ...told(inHand, loop),
    /** Where the sheet goes on once the step in hand is done: named, and told in full, so that it is there at once. */
    next: next && { id: next.station.id, title: next.station.title },
    ahead: next && told(next),
    clocks: clocksOf(standing, now),
    /** Every knob of the sheet, told short. */
    loops: standing.loops.filter((l) => inPlan.has(l.loop.id)).map((l) => loopBrief(l, standing, pressureUnit)),
    notes: notesView(job),
    photos: job.photos.map(({ id, station, area, width, height }) => ({ id, station, area, width, height })),
    signature: job.signature && {
      name: job.signature.name,
      at: job.signature.at.toISOString(),
      hash: job.signature.hash,
      remark: job.signature.remark,
      verdict: leftVerdict(job.signature.document),
    },
    links: job.links
      .filter((l) => l.revokedAt === null)
      .map((l) => ({ id: l.id, token: linkTokenOf("owner", l), at: l.at.toISOString() })),
  };
}

type Told = Parameters<typeof stationView>[1] & { results: readonly ResultRow[]; who: SignedIn };

/** Earlier visits shown beside a reading. */
const SHOWN = 5;

/** A step in hand with all that is told beside it. */
function inHandView(step: StationProgress | null, asked: string | undefined, { results, who, ...shown }: Told) {
  const { standing, instruments, now } = shown;
  const knob = knobInHand(standing, step, asked, now);
  return {
    open: step && stationView(step, shown),
    areas: step?.station.tasks.some((t) => t.kind === "condition") ? areasOf(standing.kind) : [],
    scale: step?.station.tellsScale ? scaleForecast(standing) : null,
    /** The knob in hand, told in full. */
    loop: knob && loopView(knob, standing, instruments, { who, now }),
    visits: knob ? knobVisits(results, knob.loop.id).slice(0, SHOWN) : [],
  };
}

/** Condition notes with those they replaced: a note corrected or taken back stays, struck through. */
function notesView(job: Job) {
  const stands = new Set(standingNotes(job));
  return job.notes
    .filter((n) => n.text !== "")
    .map((n) => {
      const by = job.notes.find((other) => other.supersedes === n.id);
      return {
        id: n.id,
        station: n.station,
        area: n.area,
        text: n.text,
        by: n.by,
        at: n.at.toISOString(),
        stands: stands.has(n),
        struck: by ? { by: by.by, at: by.at.toISOString(), reason: by.reason } : null,
      };
    });
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
    /** Levels this kind has. */
    levels: WARM_LEVELS.filter((l) => l !== "heat-soaked" || kind.warmUp.heatSoaked !== null),
    heats: kind.boiler !== "none",
    withdrawn: withdrawnIn(job),
    wanted: wantedView(standing),
    spec: job.spec && { name: job.spec.name, version: job.spec.version },
    /** What nobody may be handed, a sentence each; and whether this person may sign it as an exception. */
    unsafe: job.state === "open" ? unsafeNow(standing.records) : [],
    mayExcept: may(who, "exception"),
    /** What library or register say otherwise today than when the job began; "" while they say the same. */
    changedSince: job.state === "open" ? changedSince(job) : "",
    rule: job.rule,
  };
}

/** Who withdrew it, when and why; null while it is open or signed. */
function withdrawnIn({ state, entries }: Job) {
  const last = state === "withdrawn" && entries.findLast((e) => e.task === WITHDRAWN_TASK);
  if (!last) return null;
  return { by: last.by, at: last.at.toISOString(), reason: last.value.form === "text" ? last.value.text : "" };
}

/** Values that can be wanted otherwise on this machine or visit, with what stands now. */
function wantedView({ job, loops, recipe }: Standing) {
  return WANTED_IDS.flatMap((of) => {
    const loop = loops.find((l) => l.loop.at.knob === WANTED_KNOB[of]);
    const range = of === "dose" ? recipe.dose : loop?.loop.tolerance;
    if (!loop || !range) return [];
    return [{ of, now: range, own: job.wanted[of] ?? null, held: loop.loop.held ?? "" }];
  });
}

const WANTED_KNOB: Readonly<Record<WantedId, KnobId>> = {
  brew: "opv",
  steam: "pressurestat",
  dose: "basket",
  offset: "offset",
};

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
    gaugeWords: particulars.gauge.words ?? "",
    pumpLabel: particulars.pumpLabel ?? null,
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
