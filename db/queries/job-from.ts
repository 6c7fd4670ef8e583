import { group } from "d3-array";
import { particularsOf, readDocument } from "../../core/job";
import type { Described, Job, JobMachine } from "../../core/job";
import { keyOf } from "../../core/knobs";
import type { KitInstrument } from "../../core/metrology";
import type { instrument, model } from "../schema";
import type { SheetRow } from "./jobs";

/** The one seam between rows and the domain: everything that works a job out takes what is made here. */

/** Whoever took a guard of the database away may have left a row of nobody’s: it is shown, beside the alarm. */
const nameOf = (person: { readonly name: string } | null): string => person?.name ?? "nobody on record";

export function jobFrom(row: SheetRow): Job {
  const readBy = group(
    row.entryInstruments.map(({ entryId, column, instrument }) => ({
      entryId,
      column,
      instrument: instrumentFrom(instrument),
    })),
    (r) => r.entryId,
  );
  return {
    id: row.id,
    revision: row.revision,
    state: row.state,
    scopes: row.scopes,
    // A job begun before its particulars were kept whole has the kind’s usual figures for the rest.
    particulars: particularsOf(row.particulars),
    complaint: row.complaint,
    startedAt: row.startedAt,
    startedBy: nameOf(row.starter),
    schools: row.schools,
    level: row.level,
    rule: row.decisionRule,
    zone: row.workshop.timeZone,
    learnt: row.learnt,
    wanted: row.wanted,
    carried: row.carried,
    spec: row.spec && { name: row.spec.card.name, version: row.spec.version, lines: row.spec.lines },
    machine: machineFrom(row.machine),
    notes: row.notes.map((n) => ({ ...n, by: nameOf(n.author) })),
    photos: row.photos,
    ticks: row.ticks.map(({ author, ...t }) => ({ ...t, by: nameOf(author) })),
    entries: row.entries.map((e) => ({ ...e, by: nameOf(e.author), readBy: readBy.get(e.id) ?? [] })),
    timers: row.timers.map((t) => ({ ...t, by: nameOf(t.starter), endedBy: t.ender?.name ?? "" })),
    readings: row.readings.map((r) => ({
      ...r,
      loop: keyOf(r),
      by: nameOf(r.reader),
      instrument: instrumentFrom(r.instrument),
    })),
    moves: row.adjustments.map((a) => ({ ...a, loop: keyOf(a), by: nameOf(a.turner) })),
    repairs: row.repairs.map((r) => ({ ...r, loop: keyOf(r), by: nameOf(r.mender) })),
    findings: row.findings.map((f) => ({ ...f, loop: keyOf(f), by: nameOf(f.finder) })),
    shots: row.shots.map((s) => ({ ...s, by: nameOf(s.author), scale: s.weighedOn && instrumentFrom(s.weighedOn) })),
    links: row.links,
    signature: row.signature && { ...row.signature, document: readDocument(row.signature.document) },
  };
}

type FullMachine = SheetRow["machine"];

function machineFrom(machine: FullMachine): JobMachine {
  const { site, model } = machine;
  return {
    id: machine.id,
    serial: machine.serial,
    maker: model.maker,
    model: model.name,
    modelId: model.id,
    site: site.name,
    town: site.town,
    owner: site.owner.name,
    modifications: machine.modifications,
    coffee: machine.coffee,
    shotsPerDay: machine.shotsPerDay,
    grinder: machine.grinder,
    described: describedFrom(machine),
    instruments: newestOf(machine.instruments).map(instrumentFrom),
  };
}

/** Of each thing the row it stands for now: changed figures of a gauge are a new row, and the old one is kept for its readings. */
function newestOf<T extends { itemId: string; position: number }>(rows: readonly T[]): T[] {
  return [...group(rows, (r) => r.itemId).values()].map((all) =>
    all.reduce((a, b) => (b.position > a.position ? b : a)),
  );
}

/** What library and register hold of a machine today. */
export function describedFrom(
  machine: Pick<
    FullMachine,
    "gaugePlace" | "gaugeWords" | "gaugeToGroup" | "gaugeToGroupU" | "flowControl" | "pumpLabel" | "wanted"
  > & {
    model: typeof model.$inferSelect;
    site: { altitude: number };
  },
): Described {
  return {
    ...modelFrom(machine.model),
    gauge: {
      place: machine.gaugePlace,
      toGroup: machine.gaugeToGroup,
      toGroupU: machine.gaugeToGroupU,
      ...(machine.gaugeWords ? { words: machine.gaugeWords } : {}),
    },
    flowControl: machine.flowControl,
    pumpLabel: machine.pumpLabel,
    wanted: machine.wanted,
    altitude: machine.site.altitude,
  };
}

/** What the library holds of a model. */
export function modelFrom(row: typeof model.$inferSelect): Pick<Described, "kind" | "card" | "opv"> {
  const { kind, card, opvResponse, opvResponseSd, opvRaises } = row;
  return { kind, card, opv: { responseMean: opvResponse, responseSd: opvResponseSd, raises: opvRaises } };
}

export function instrumentFrom(row: typeof instrument.$inferSelect): KitInstrument {
  const { corrections, ...rest } = row;
  return { ...rest, ...(corrections ? { corrections } : {}) };
}
