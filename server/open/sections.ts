import { type PgColumn, type PgTable, getTableConfig } from "drizzle-orm/pg-core";
import * as t from "../../db/schema";
import { momentText } from "./tables-out";
import { type Scope, machinesOf } from "./scope";

/**
 * The record of a workshop as one JSON document: a section for each kind of thing, in an order in which each rests on what stands before
 * it. Nothing is left out of a row but secrets and what is worked out again from the rest. One list for writing, reading and the schema.
 */

export const FORMAT = "nimble-gauge-records";
/** Counts on when a reader of the one before would not understand it. */
export const FORMAT_VERSION = 1;

/** Of the workshop itself: what its records are understood by. */
export const WORKSHOP_FIELDS = [
  "id",
  "name",
  "town",
  "contact",
  "time_zone",
  "schools",
  "decision_rule",
  "pressure_unit",
  "paper",
  "currency",
] as const;

export interface Field {
  readonly name: string;
  readonly column: PgColumn;
  /** How it is spelt in SQL, of a row called t. */
  readonly sql: string;
}

export interface Section {
  readonly name: string;
  readonly table: string;
  readonly about: string;
  readonly fields: readonly Field[];
  /** Columns that tell its rows apart in a workshop. */
  readonly key: readonly string[];
  /** Bytes beside the document: the folder, and the column that holds them. */
  readonly files?: { readonly folder: string; readonly column: string; readonly type: "photo" | "png" };
  /** Which rows are of a scope, as SQL over t. */
  readonly within: (scope: Scope) => string;
}

const snake = (key: string) => key.replace(/[A-Z]/g, (c) => `_${c.toLowerCase()}`);
export const nameOf = (column: PgColumn) => (column.keyAsName ? snake(column.name) : column.name);

function spelt(table: string, name: string, column: PgColumn): string {
  const own = `t."${name}"`;
  if (column.columnType === "PgTimestamp") return momentExact(own);
  // What was signed is a text: the one that was hashed.
  if (table === "signature" && name === "document") return `${own}::text`;
  return own;
}

/** To the microsecond, as it is stored. */
const momentExact = (column: string) => momentText(column).replace(".MS", ".US");

interface Given {
  readonly about: string;
  readonly key?: readonly string[];
  readonly but?: readonly string[];
  readonly only?: readonly string[];
  readonly files?: Section["files"];
  readonly within?: (machines: string, jobs: string) => string;
}

function section(name: string, table: PgTable, given: Given): Section {
  const { name: sqlName, columns } = getTableConfig(table);
  const but = ["workshop_id", ...(given.but ?? []), ...(given.files ? [given.files.column] : [])];
  const fields = columns
    .map((column) => ({ name: nameOf(column), column }))
    .filter((f) => !but.includes(f.name) && (given.only?.includes(f.name) ?? true))
    .map((f) => ({ ...f, sql: spelt(sqlName, f.name, f.column) }));
  const own = given.within ?? ((_machines: string, jobs: string) => `t.job_id in (${jobs})`);
  return {
    name,
    table: sqlName,
    about: given.about,
    fields,
    key: given.key ?? ["job_id", "id"],
    ...(given.files ? { files: given.files } : {}),
    within(scope) {
      const machines = machinesOf(scope);
      if (!machines) return "true";
      return own(machines, `select id from job where machine_id in (${machines})`);
    },
  };
}

const ofMachine = (machines: string) => `t.machine_id in (${machines})`;
/** Everybody who wrote anything there. */
const WRITERS = [
  "note",
  "photo",
  "tick",
  "entry",
  "timer",
  "reading",
  "adjustment",
  "repair",
  "finding",
  "shot_clock",
  "shot",
  "shot_tap",
  "shot_trace",
  "signature",
  "amendment",
];

export const SECTIONS: readonly Section[] = [
  section("people", t.account, {
    about: "Who wrote things down: a name, nothing that opens an account.",
    key: ["id"],
    only: ["id", "name", "role"],
    within: (machines, jobs) =>
      `t.id in (select started_by from job where machine_id in (${machines}) union select "by" from machine_change where machine_id in (${machines}) union select ended_by from timer where job_id in (${jobs}) union select "by" from part_move where job_id in (${jobs}) ${WRITERS.map((w) => `union select "by" from ${w} where job_id in (${jobs})`).join(" ")} union select v."by" from spec_version v join job j on j.workshop_id = v.workshop_id and j.spec_version_id = v.id where j.machine_id in (${machines}) union select f."by" from transfer f join past_visit p on p.workshop_id = f.workshop_id and p.transfer_id = f.id where p.machine_id in (${machines}))`,
  }),
  section("models", t.model, {
    about: "Models of machines, with what differs from their kind’s usual.",
    key: ["id"],
    within: (machines) =>
      `t.id in (select model_id from machine where id in (${machines}) union select model_id from result where machine_id in (${machines}) union select model_id from response where machine_id in (${machines}))`,
  }),
  section("owners", t.owner, {
    about: "Owners, and how they are reached.",
    key: ["id"],
    within: (machines) =>
      `t.id in (select owner_id from site where id in (select site_id from machine where id in (${machines})))`,
  }),
  section("sites", t.site, {
    about: "Where machines stand.",
    key: ["id"],
    within: (machines) => `t.id in (select site_id from machine where id in (${machines}))`,
  }),
  section("machines", t.machine, {
    about: "Machines.",
    key: ["id"],
    but: ["search"],
    within: (machines) => `t.id in (${machines})`,
  }),
  section("machine_changes", t.machineChange, {
    about: "What was changed on a machine between visits.",
    key: ["machine_id", "id"],
    within: ofMachine,
  }),
  section("instruments", t.instrument, {
    about: "Instruments by their papers.",
    key: ["id"],
    within: (machines, jobs) =>
      `(t.machine_id in (${machines}) or t.id in (select instrument_id from reading where job_id in (${jobs}) union select scale_id from shot where job_id in (${jobs}) union select instrument_id from entry_instrument where job_id in (${jobs}) union select instrument_id from result_instrument where job_id in (${jobs})))`,
  }),
  section("spec_cards", t.specCard, {
    about: "Cards of specifications.",
    key: ["id"],
    within: (machines) =>
      `t.id in (select card_id from spec_version where id in (select spec_version_id from job where machine_id in (${machines})))`,
  }),
  section("spec_versions", t.specVersion, {
    about: "Versions of those cards.",
    key: ["id"],
    within: (machines) => `t.id in (select spec_version_id from job where machine_id in (${machines}))`,
  }),
  section("parts", t.part, {
    about: "Parts the workshop keeps.",
    key: ["id"],
    within: (_machines, jobs) => `t.id in (select part_id from part_move where job_id in (${jobs}))`,
  }),
  section("visits", t.job, {
    about: "Visits: what was pinned when each began.",
    key: ["id"],
    but: ["revision"],
    within: ofMachine,
  }),
  section("part_moves", t.partMove, {
    about: "What came onto the shelf and what was taken.",
    key: ["id"],
    within: (_machines, jobs) => `t.job_id in (${jobs})`,
  }),
  section("notes", t.note, { about: "Notes of a visit." }),
  section("photos", t.photo, {
    about: "Photos of a visit; the picture itself lies in photos/.",
    files: { folder: "photos", column: "data", type: "photo" },
  }),
  section("ticks", t.tick, { about: "Tasks ticked and stops confirmed.", key: ["job_id", "key"] }),
  section("entries", t.entry, { about: "What was recorded for a task.", key: ["job_id", "task", "id"] }),
  section("entry_instruments", t.entryInstrument, {
    about: "What an entry was read with.",
    key: ["job_id", "task", "entry_id", "col"],
  }),
  section("timers", t.timer, { about: "What was timed." }),
  section("readings", t.reading, { about: "Readings of knobs.", key: ["job_id", "knob", "id"] }),
  section("moves", t.adjustment, { about: "Moves of knobs.", key: ["job_id", "knob", "id"] }),
  section("repairs", t.repair, { about: "Repairs after which a knob is a new one.", key: ["job_id", "knob", "id"] }),
  section("findings", t.finding, { about: "Faults that ended the setting of a knob." }),
  section("shot_clocks", t.shotClock, { about: "Clocks of shots." }),
  section("shots", t.shot, { about: "Calibration shots." }),
  section("shot_taps", t.shotTap, { about: "Taps of those clocks." }),
  section("shot_traces", t.shotTrace, { about: "What loggers wrote down of shots." }),
  section("signatures", t.signature, {
    about: "Signatures, each with the document that was signed, as the text that was hashed.",
    key: ["job_id"],
  }),
  section("results", t.result, { about: "What signed visits came to.", key: ["job_id", "no"] }),
  section("result_instruments", t.resultInstrument, {
    about: "What a result was read with.",
    key: ["job_id", "no", "instrument_id"],
  }),
  section("programmes", t.programme, {
    about: "What buttons were left giving.",
    key: ["job_id", "group_no", "button"],
  }),
  section("responses", t.response, {
    about: "What knobs answered, by visit.",
    key: ["job_id", "knob", "group_no", "button"],
  }),
  section("acknowledgements", t.acknowledgement, {
    about: "Owners’ own signatures; the drawing lies in drawings/.",
    files: { folder: "drawings", column: "drawing", type: "png" },
  }),
  section("amendments", t.amendment, { about: "Words added after a signature." }),
  section("files", t.transfer, {
    about: "Files of earlier years that were brought in.",
    key: ["id"],
    only: ["id", "way", "about", "state", "by", "at"],
    within: (machines) => `t.id in (select transfer_id from past_visit where machine_id in (${machines}))`,
  }),
  section("past_visits", t.pastVisit, {
    about: "Visits from before this product, as a spreadsheet had them.",
    key: ["transfer_id", "line"],
    within: ofMachine,
  }),
  section("past_figures", t.pastFigure, {
    about: "Figures of those.",
    key: ["transfer_id", "line", "no"],
    within: (machines) =>
      `(t.transfer_id, t.line) in (select transfer_id, line from past_visit where machine_id in (${machines}))`,
  }),
  section("keys", t.workshopKey, {
    about: "The public halves of the keys that statements were signed with.",
    key: ["id"],
    within: () => "true",
  }),
  section("statements", t.seal, {
    about: "The statement under each signature: what it was of, and signed with which key (docs/records.md).",
    key: ["machine_id", "no"],
    but: ["sequence"],
    within: ofMachine,
  }),
];

/** How files of pictures end. */
export const FILE_END: Readonly<Record<string, string>> = {
  "image/jpeg": "jpg",
  "image/png": "png",
  "image/webp": "webp",
};

/** Which rows a section has at all: of files those that count. */
const ALSO: Readonly<Record<string, string>> = {
  files: "t.way = 'table-in' and t.state = 'done'",
  past_visits: "t.transfer_id in (select id from transfer where state = 'done')",
  past_figures: "t.transfer_id in (select id from transfer where state = 'done')",
};

export const fromSection = (s: Section, scope: Scope, workshopId: string) =>
  `from public."${s.table}" t where t.workshop_id = '${workshopId}' and ${s.within(scope)} and ${ALSO[s.name] ?? "true"}`;
