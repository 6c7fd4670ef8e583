import { KNOB_IDS, moduleOf } from "../../core/knobs";
import { DIMENSIONS, baseUnit } from "../../core/quantity";
import { type OpenTable, columns } from "./table";

/**
 * The tables that people take away and programs ask for, each as one view in schema `records`: what is meant by a row and by each of its
 * columns stands here, once. Columns are added at the end; none is renamed or taken out.
 */

const perKnob = (of: (knob: (typeof KNOB_IDS)[number]) => string, from: string) =>
  `case ${from}.knob ${KNOB_IDS.map((knob) => `when '${knob}' then '${of(knob)}'`).join(" ")} end`;

/** What readings of a knob are stored in: an offset is read as a temperature and judged as a difference, both °C. */
const storedUnit = (from: string) => perKnob((knob) => baseUnit(moduleOf(knob).reads.dimension).symbol, from);
const moveUnit = (from: string) =>
  perKnob((knob) => (moduleOf(knob).reads.moves === "turns" ? "turns" : "steps"), from);

const UNIT_OF_DIMENSION = (t: string) =>
  `case ${t}.dimension ${DIMENSIONS.map((d) => `when '${d}' then '${baseUnit(d).symbol}'`).join(" ")} end`;

const ofMachine = "machine_of.machine_id";
const MACHINE_OF = (t: string) =>
  `join job machine_of on machine_of.workshop_id = ${t}.workshop_id and machine_of.id = ${t}.job_id`;
const PERSON = (t: string) =>
  `left join account person on person.workshop_id = ${t}.workshop_id and person.id = ${t}.by`;
/** What replaced a row, if anything did. */
const CORRECTED = (table: string, t: string) =>
  `left join ${table} later on later.workshop_id = ${t}.workshop_id and later.supersedes = ${t}.id`;

const WHERE_AT = (t: string) =>
  columns(
    ["knob", "word", `${t}.knob`, "What is set: opv, offset, pressurestat, basket, button and so on", "opv"],
    ["group_no", "count?", `${t}.group_no`, "Group, counted from 1; of a button only", "1"],
    ["button", "word?", `${t}.button`, "Button of that group", "double"],
  );
const OF_VISIT = (t: string) =>
  columns(
    ["visit_id", "id", `${t}.job_id`, "The visit it belongs to", "3f6c0a52-7d0e-4f0e-9a53-0c4a8a4f7e11"],
    ["machine_id", "id", ofMachine, "The machine", "8a2f1d4e-51c9-4a55-8f5c-2f9f3a1b6c20"],
  );
const CORRECTION = (t: string) =>
  columns(
    ["corrects", "id?", `${t}.supersedes`, "The row this one replaces", "0b9e2c1a-4a65-4d8e-8a0f-6f3b8a7c5d21"],
    [
      "corrected_by",
      "id?",
      "later.id",
      "The row that replaced this one; empty: it stands",
      "5e1c7f6b-93cb-4f49-bc11-3a8b2b1f0d90",
    ],
  );
const ID = (t: string) =>
  columns([
    "id",
    "id",
    `${t}.id`,
    "The number of this row, everywhere and for ever",
    "0b9e2c1a-4a65-4d8e-8a0f-6f3b8a7c5d21",
  ]);
const WHEN = (t: string, what: string) =>
  columns(
    ["at", "moment", `${t}.at`, `When it was ${what}`, "2026-03-04T09:41:07.120Z"],
    ["by", "text?", "person.name", "Who wrote it down", "Tobin Marsh"],
  );

export const OPEN_TABLES: readonly OpenTable[] = [
  {
    name: "machine",
    plural: "machines",
    about: "A machine with its model, its owner and where it stands.",
    from: `machine t join model on model.workshop_id = t.workshop_id and model.id = t.model_id
      join site on site.workshop_id = t.workshop_id and site.id = t.site_id
      join owner on owner.workshop_id = t.workshop_id and owner.id = site.owner_id`,
    key: ["id"],
    machine: "t.id",
    columns: [
      ...ID("t"),
      ...columns(
        ["serial", "text", "t.serial", "Serial on the rating plate", "HE2-3301"],
        ["maker", "text", "model.maker", "Maker of the model", "Hollin"],
        ["model", "text", "model.name", "Name of the model", "Skerry"],
        ["kind", "word", "model.kind", "Kind of machine, K1 to K12", "K7"],
        ["owner_id", "id", "owner.id", "The owner’s number", "7d3e9b60-2f5e-4c40-9f57-9b1d2a6e4c01"],
        ["owner", "text", "owner.name", "Owner", "Harbour Kiosk"],
        ["site", "text", "site.name", "Where it stands", "Quayside"],
        ["town", "text", "site.town", "Town", "Saltby"],
        ["altitude_m", "number", "site.altitude", "Metres above the sea", "12"],
        ["water", "text", "site.water", "What is known of the water there", "softened"],
        ["installed_on", "day?", "t.installed_on", "Day it was installed", "2022-05-17"],
        ["retired_on", "day?", "t.retired_on", "Day it went out of service; empty: it works", "2026-01-31"],
        ["gauge_place", "word", "t.gauge_place", "Where its own gauge sits", "pump"],
        [
          "gauge_to_group_bar",
          "number",
          "t.gauge_to_group",
          "Added to its gauge for the pressure at the group, bar",
          "-0.4",
        ],
        ["gauge_to_group_u_bar", "number", "t.gauge_to_group_u", "Standard uncertainty of that, bar", "0.1"],
        ["pump_label_bar", "number?", "t.pump_label", "Dead-end pressure on the pump’s label, bar", "15"],
        ["flow_control", "yes", "t.flow_control", "A valve before the group throttles the flow", "false"],
        ["modifications", "text", "t.modifications", "What was changed on it, in words", "needle valve fitted"],
        ["coffee", "text", "t.coffee", "Coffee it is run with", "Breakwater blend"],
        ["grinder", "text", "t.grinder", "Grinder beside it", "built in"],
        ["shots_per_day", "count?", "t.shots_per_day", "Doubles a day, about", "80"],
      ),
    ],
  },
  {
    name: "visit",
    plural: "visits",
    about: "A visit to a machine: open, signed or withdrawn.",
    from: `job t left join signature on signature.workshop_id = t.workshop_id and signature.job_id = t.id
      left join account person on person.workshop_id = t.workshop_id and person.id = t.started_by`,
    key: ["id"],
    machine: "t.machine_id",
    columns: [
      ...ID("t"),
      ...columns(
        ["machine_id", "id", "t.machine_id", "The machine", "8a2f1d4e-51c9-4a55-8f5c-2f9f3a1b6c20"],
        ["state", "word", "t.state", "open, signed or withdrawn", "signed"],
        [
          "scopes",
          "word",
          "array_to_string(t.scopes, ' ')",
          "What the visit was for, one word each",
          "service handover",
        ],
        ["complaint", "text", "t.complaint", "What the owner said was wrong", "sour since March"],
        ["started_at", "moment", "t.started_at", "When it began", "2026-03-04T08:55:00.000Z"],
        ["started_by", "text?", "person.name", "Who began it", "Tobin Marsh"],
        ["signed_at", "moment?", "t.signed_at", "When it was signed; empty: it was not", "2026-03-04T11:20:30.000Z"],
        ["signed_as", "text?", "signature.name", "The name under it", "T. Marsh"],
        ["finding", "text?", "signature.finding", "Faults left, as lists say them", "OPV sticks"],
        ["skipped_steps", "count?", "signature.skipped", "Steps left out, each with its reason in the report", "0"],
        ["decision_rule", "word", "t.decision_rule", "guarded: inside by its uncertainty; simple: inside", "guarded"],
        [
          "document_sha256",
          "word?",
          "signature.hash",
          "SHA-256 of the document that was signed",
          "9f86d081884c7d659a2feaa0c55ad015a3bf4f1b2b0b822cd15d6c15b0f00a08",
        ],
      ),
    ],
  },
  {
    name: "reading",
    plural: "readings",
    about: "One reading of one knob, as it was typed and as it counts.",
    from: `reading t ${MACHINE_OF("t")} ${PERSON("t")} ${CORRECTED("reading", "t")}
      left join instrument on instrument.workshop_id = t.workshop_id and instrument.id = t.instrument_id`,
    key: ["visit_id", "knob", "id"],
    machine: ofMachine,
    columns: [
      ...ID("t"),
      ...OF_VISIT("t"),
      ...WHERE_AT("t"),
      ...columns(["no", "count", "t.sequence", "Which entry of its knob’s log, moves counted too", "3"]),
      ...WHEN("t", "taken"),
      ...columns(
        ["typed", "text", "t.typed", "As it was typed", "9,2"],
        ["typed_unit", "word", "t.unit", "The unit it was typed in", "bar"],
        ["indicated", "number", "t.indicated", "What the instrument showed, in stored_unit", "9.2"],
        ["value", "number", "t.value", "What is judged, corrections applied, in stored_unit", "8.85"],
        ["u", "number", "t.u", "Standard uncertainty of this reading, in stored_unit", "0.09"],
        ["u_common", "number", "t.u_common", "Of that, what all readings of this instrument share", "0.06"],
        ["stored_unit", "word", storedUnit("t"), "Unit of indicated, value and uncertainties", "bar"],
        ["instrument_id", "id", "t.instrument_id", "What it was read with", "c1d2e3f4-0a1b-4c2d-8e3f-5a6b7c8d9e0f"],
        ["instrument", "text?", "instrument.name", "Its name", "Portafilter gauge 2"],
        ["place", "word", "t.place", "Where the instrument sat", "group"],
        ["instrument_out_of_date", "yes", "t.instrument_out_of_date", "Its calibration was past its date", "false"],
        ["not_warm", "yes", "t.early", "Taken before the chosen level of warm-up", "false"],
        ["reason", "text", "t.reason", "Why it was corrected", "misread"],
      ),
      ...CORRECTION("t"),
    ],
  },
  {
    name: "result",
    plural: "results",
    about: "One figure of a signed visit: a knob, as found or as left, with its uncertainty and its verdict.",
    from: `result t join machine on machine.workshop_id = t.workshop_id and machine.id = t.machine_id`,
    key: ["visit_id", "no"],
    machine: "t.machine_id",
    columns: columns(
      ["visit_id", "id", "t.job_id", "The visit it belongs to", "3f6c0a52-7d0e-4f0e-9a53-0c4a8a4f7e11"],
      ["no", "count", "t.no", "Which figure of its visit, in the order of the report", "2"],
      ["machine_id", "id", "t.machine_id", "The machine", "8a2f1d4e-51c9-4a55-8f5c-2f9f3a1b6c20"],
      ["serial", "text", "machine.serial", "Its serial", "HE2-3301"],
      ["knob", "word", "t.knob", "What is set: opv, offset, pressurestat, basket, button and so on", "opv"],
      ["group_no", "count?", "t.group_no", "Group, counted from 1; of a button only", "1"],
      ["button", "word?", "t.button", "Button of that group", "double"],
      ["phase", "word", "t.phase", "as-found or as-left", "as-left"],
      ["value", "number", "t.value", "The figure, in unit", "8.98"],
      ["unit", "word", UNIT_OF_DIMENSION("t"), "Its unit", "bar"],
      ["u", "number", "t.u", "Standard uncertainty", "0.07"],
      ["dof", "number?", "t.dof", "Effective degrees of freedom; empty: taken as known", "14.2"],
      ["k", "number", "t.k", "Coverage factor for 95 %", "2.14"],
      ["expanded", "number", "t.expanded", "Expanded uncertainty, k × u", "0.15"],
      ["n", "count", "t.n", "Readings it is made of", "3"],
      ["resolution", "number", "t.resolution", "Step of the instrument: to how many places it is written", "0.1"],
      ["lower", "number?", "t.lower", "Lower limit; empty: open", "8.5"],
      ["upper", "number?", "t.upper", "Upper limit; empty: open", "9.5"],
      ["verdict", "word", "t.verdict", "Against those limits, by that rule", "holds"],
      ["p_inside", "number", "t.p_inside", "Probability that it is inside", "0.998"],
      ["rule", "word", "t.rule", "guarded or simple", "guarded"],
      ["method", "word?", "t.method", "How it was come by", "blind-portafilter"],
      ["not_warm", "count", "t.not_warm", "Of its readings, those taken before it was warm", "0"],
      ["instrument_out_of_date", "yes", "t.out_of_date", "An instrument behind it was past its date", "false"],
      ["read_at", "moment", "t.read_at", "When it was last read", "2026-03-04T10:05:12.000Z"],
      ["signed_at", "moment", "t.at", "When the visit was signed", "2026-03-04T11:20:30.000Z"],
    ),
  },
  {
    name: "move",
    plural: "moves",
    about: "A knob was moved: how far, and what was advised.",
    from: `adjustment t ${MACHINE_OF("t")} ${PERSON("t")} ${CORRECTED("adjustment", "t")}`,
    key: ["visit_id", "knob", "id"],
    machine: ofMachine,
    columns: [
      ...ID("t"),
      ...OF_VISIT("t"),
      ...WHERE_AT("t"),
      ...columns(["no", "count", "t.sequence", "Which entry of its knob’s log, readings counted too", "4"]),
      ...WHEN("t", "made"),
      ...columns(
        ["typed", "text", "t.typed", "As it was typed", "1/4"],
        ["amount", "number", "t.amount", "Turns clockwise, or steps up; minus: the other way", "0.25"],
        ["amount_unit", "word", moveUnit("t"), "turns or steps", "turns"],
        ["advised", "number?", "t.advised", "What was advised, in the same sense; empty: nothing was", "0.25"],
        ["reason", "text", "t.reason", "Why it was corrected", "it was the other way"],
      ),
      ...CORRECTION("t"),
    ],
  },
  {
    name: "shot",
    plural: "shots",
    about: "A calibration shot.",
    from: `shot t ${MACHINE_OF("t")} ${PERSON("t")} ${CORRECTED("shot", "t")}`,
    key: ["visit_id", "id"],
    machine: ofMachine,
    columns: [
      ...ID("t"),
      ...OF_VISIT("t"),
      ...columns(["no", "count", "t.sequence", "Which try of the visit; a correction keeps the number", "2"]),
      ...WHEN("t", "written down"),
      ...columns(
        ["group_no", "count", "(t.pull->>'group')::int", "Group, counted from 1", "1"],
        ["ended_by", "word", "t.pull->>'by'", "manual, or the button that measured it", "manual"],
        ["coffee", "text", "t.pull->'coffee'->>'name'", "Coffee", "Breakwater blend"],
        ["roasted_on", "day?", "(t.pull->'coffee'->>'roastedOn')::date", "Day it was roasted", "2026-02-20"],
        ["grinder", "text", "t.pull->'grinder'->>'name'", "Grinder", "built in"],
        ["grind_setting", "number", "(t.pull->>'setting')::float8", "Mark on the grinder’s own scale", "11"],
        ["basket", "word", "t.pull->>'basket'", "Basket", "double"],
        ["dose_g", "number", "(t.pull->>'dose')::float8", "Coffee in the basket, g", "18.1"],
        [
          "yield_g",
          "number?",
          "(t.pull->>'yield')::float8",
          "In the cup at the end, g; empty: it choked before anything was worth weighing",
          "36.4",
        ],
        ["time_s", "number", "(t.pull->>'seconds')::float8", "How long it ran, s", "27.5"],
        ["time_from", "word", "t.pull->>'from'", "What the seconds count from", "pump"],
        ["first_drop_s", "number?", "(t.pull->>'firstDrop')::float8", "To the first drop, s", "6.2"],
        ["peak_bar", "number?", "(t.pull->>'peak')::float8", "Highest pressure at the group, bar", "9.1"],
        ["plateau_bar", "number?", "(t.pull->>'plateau')::float8", "Steady pressure at the group, bar", "8.9"],
        ["set_point_c", "number?", "(t.pull->>'setPoint')::float8", "Set point on the display, °C", "93"],
        ["volume_ml", "number?", "(t.pull->>'volume')::float8", "In the cup, crema and all, ml", "48"],
        ["water_in_ml", "number?", "(t.pull->>'waterIn')::float8", "Water that went in, by the meter, ml", "62"],
        ["tds_percent", "number?", "(t.pull->>'tds')::float8", "Dissolved solids, %", "9.1"],
        ["choked", "yes", "(t.pull->>'choked')::boolean", "It choked", "false"],
        ["flow", "word?", "t.pull->>'flow'", "How it ran", "even"],
        ["taste", "word?", "t.pull->>'taste'", "How it tasted", "balanced"],
        ["note", "text?", "t.pull->>'note'", "In words", "first after cleaning"],
        ["scale", "text", "t.scale", "Scale it was weighed on", "Bench scale"],
        ["u_dose_g", "number", "t.u_dose", "Standard uncertainty of the dose, g", "0.06"],
        ["u_yield_g", "number", "t.u_yield", "Standard uncertainty of the yield, g", "0.06"],
        ["not_warm", "yes", "t.early", "Pulled before the chosen level of warm-up", "false"],
        ["after_signing", "yes", "t.amends", "Added after the visit was signed", "false"],
        ["reason", "text", "t.reason", "Why it was corrected, or came later", "scale was on ounces"],
      ),
      ...CORRECTION("t"),
    ],
  },
  {
    name: "programme",
    plural: "programmes",
    about: "What a button was left giving, and what coffee, grind and dose that holds for.",
    from: "programme t",
    key: ["visit_id", "group_no", "button"],
    machine: "t.machine_id",
    columns: columns(
      ["visit_id", "id", "t.job_id", "The visit it belongs to", "3f6c0a52-7d0e-4f0e-9a53-0c4a8a4f7e11"],
      ["machine_id", "id", "t.machine_id", "The machine", "8a2f1d4e-51c9-4a55-8f5c-2f9f3a1b6c20"],
      ["group_no", "count", "t.group_no", "Group, counted from 1", "1"],
      ["button", "word", "t.button", "Button of that group", "double"],
      ["at", "moment", "t.at", "When the visit was signed", "2026-03-04T11:20:30.000Z"],
      ["target_g", "number", "t.target", "Wanted in the cup, g", "36"],
      ["mean_g", "number", "t.mean", "Mean of the shots that verified it, g", "36.3"],
      ["sd_g", "number?", "t.sd", "Their standard deviation, g; empty: one shot", "0.4"],
      ["shots", "count", "t.shots", "How many they were", "3"],
      ["verdict", "word", "t.verdict", "Against its limits", "holds"],
      ["coffee", "text", "t.coffee", "Coffee it holds for", "Breakwater blend"],
      ["grinder", "text", "t.grinder", "Grinder it holds for", "built in"],
      ["grind_setting", "number?", "t.setting", "Mark on the grinder’s own scale", "11"],
      ["dose_g", "number?", "t.dose", "Coffee in the basket, g", "18"],
      ["after_reset", "yes", "t.after_reset", "Set back to factory values before it was taught", "false"],
    ),
  },
  {
    name: "work",
    plural: "work-lines",
    about: "A line of work: what was done to which part and why, or what was advised and not done.",
    from: `entry t ${MACHINE_OF("t")} ${PERSON("t")} ${CORRECTED("entry", "t")}`,
    key: ["visit_id", "id"],
    machine: ofMachine,
    columns: [
      ...ID("t"),
      ...OF_VISIT("t"),
      ...WHEN("t", "written down"),
      ...columns(
        ["what", "text", "t.value->>'what'", "Part or task", "Boiler"],
        [
          "how",
          "word",
          "t.value->>'how'",
          "renewed, fitted, cleaned, descaled, adjusted, freed, tested or other",
          "descaled",
        ],
        ["reason", "text", "t.value->>'reason'", "Why", "4 mm of lime"],
        ["seen", "text", "t.value->>'seen'", "What was seen", "boiler out and taken apart"],
        ["outcome", "word", "t.value->>'outcome'", "done, declined, refused, postponed or open", "done"],
        ["until", "day?", "(t.value->>'until')::date", "Put off until", "2026-09-01"],
        [
          "safety_critical",
          "yes",
          "coalesce((t.value->>'safetyCritical')::boolean, false)",
          "Its failure can hurt somebody",
          "false",
        ],
        ["minutes", "number?", "(t.value->>'minutes')::float8", "Minutes", "150"],
        ["price", "number?", "(t.value->>'price')::float8", "In the workshop’s currency", "48.5"],
        [
          "part_id",
          "id?",
          "(t.value->'part'->>'id')::uuid",
          "Part of the workshop’s list",
          "d0c9b8a7-1e2f-4a3b-8c4d-5e6f7a8b9c0d",
        ],
        ["part", "text?", "t.value->'part'->>'name'", "Its name", "Group gasket 8 mm"],
        ["part_number", "text?", "t.value->'part'->>'number'", "Its number", "GG-8"],
        ["part_count", "number?", "(t.value->'part'->>'count')::float8", "How many were used", "2"],
        [
          "licensed_person",
          "text?",
          "t.value->'licensed'->>'name'",
          "Who did work that a licence is asked for",
          "Orrin Feld",
        ],
        ["licence", "text?", "t.value->'licensed'->>'licence'", "That licence", "PV 2217"],
      ),
      ...CORRECTION("t"),
    ],
  },
  {
    name: "part",
    plural: "parts",
    about: "A part the workshop keeps.",
    from: "part t",
    key: ["id"],
    machine: null,
    columns: [
      ...ID("t"),
      ...columns(
        ["name", "text", "t.name", "Name", "Group gasket 8 mm"],
        ["number", "text", "t.number", "The maker’s number", "GG-8"],
        ["stock", "count", "t.stock", "On the shelf", "6"],
        ["reorder_at", "count?", "t.reorder_at", "To be ordered once no more than so many are left", "2"],
        ["price", "number?", "t.price", "In the workshop’s currency", "4.2"],
        ["kept", "yes", "t.active", "On the list; false: put away", "true"],
      ),
    ],
  },
  {
    name: "instrument",
    plural: "instruments",
    about: "An instrument of the kit, or a gauge built into a machine, by its papers.",
    from: "instrument t",
    key: ["id"],
    machine: null,
    columns: [
      ...ID("t"),
      ...columns(
        [
          "item_id",
          "id",
          "t.item_id",
          "The thing itself: new papers make a new row of the same thing",
          "c1d2e3f4-0a1b-4c2d-8e3f-5a6b7c8d9e0f",
        ],
        ["name", "text", "t.name", "Name", "Portafilter gauge 2"],
        ["quantity", "word", "t.quantity", "What it measures; its figures are in the stored unit of that", "pressure"],
        ["place", "word", "t.place", "Where a gauge sits", "group"],
        ["machine_id", "id?", "t.machine_id", "The machine it is built into", "8a2f1d4e-51c9-4a55-8f5c-2f9f3a1b6c20"],
        ["lowest", "number", "t.lowest", "Lower end of its scale", "0"],
        ["highest", "number", "t.highest", "Upper end of its scale", "16"],
        ["resolution", "number", "t.resolution", "Its step", "0.1"],
        ["repeatability", "number", "t.repeatability", "Standard deviation of one reading", "0.05"],
        ["error", "word", "t.error::text", "What its papers say of its error, JSON", '{"form": "limit", "limit": 0.1}'],
        ["drift_per_year", "number?", "t.drift_per_year", "± a year, where the papers state it", "0.05"],
        ["hysteresis", "number?", "t.hysteresis", "Between rising and falling, where the papers state it", "0.08"],
        ["calibrated_on", "day?", "t.calibrated_on", "Last calibrated", "2025-09-12"],
        ["due_on", "day?", "t.due_on", "To be calibrated by", "2026-09-12"],
        ["note", "text", "t.note", "The workshop’s own words", "in the red case"],
        ["in_kit", "yes", "t.in_kit", "It is used today", "true"],
      ),
    ],
  },
  {
    name: "past_visit",
    plural: "past-visits",
    about: "A visit from before this product, as a spreadsheet had it.",
    from: `past_visit t join transfer came on came.workshop_id = t.workshop_id and came.id = t.transfer_id
      join machine on machine.workshop_id = t.workshop_id and machine.id = t.machine_id`,
    key: ["file_id", "line"],
    machine: "t.machine_id",
    columns: columns(
      ["file_id", "id", "t.transfer_id", "The file it came with", "6a1b2c3d-4e5f-4a6b-8c7d-8e9f0a1b2c3d"],
      ["line", "count", "t.line", "Its line there, counted from 1", "17"],
      ["machine_id", "id", "t.machine_id", "The machine", "8a2f1d4e-51c9-4a55-8f5c-2f9f3a1b6c20"],
      ["serial", "text", "machine.serial", "Its serial", "HE2-3301"],
      ["done_on", "day", "t.done_on", "Day of the visit", "2021-06-03"],
      ["done_by", "text", "t.done_by", "Who was there", "Orrin"],
      ["work", "text", "t.work", "What was done", "gasket, descaled"],
      ["note", "text", "t.note", "What else was written", "pump loud"],
      ["file", "text", "came.about", "Name of that file", "visits.csv"],
    ),
  },
  {
    name: "past_figure",
    plural: "past-figures",
    about:
      "A figure of such a visit: without uncertainty and verdict, since nobody knows any more how it was measured.",
    from: `past_figure t join past_visit on past_visit.workshop_id = t.workshop_id and past_visit.transfer_id = t.transfer_id and past_visit.line = t.line
      join transfer came on came.workshop_id = t.workshop_id and came.id = t.transfer_id`,
    key: ["file_id", "line", "no"],
    machine: "past_visit.machine_id",
    columns: [
      ...columns(
        ["file_id", "id", "t.transfer_id", "The file it came with", "6a1b2c3d-4e5f-4a6b-8c7d-8e9f0a1b2c3d"],
        ["line", "count", "t.line", "Its line there, counted from 1", "17"],
        ["no", "count", "t.no", "Which figure of that line", "1"],
        ["machine_id", "id", "past_visit.machine_id", "The machine", "8a2f1d4e-51c9-4a55-8f5c-2f9f3a1b6c20"],
        ["done_on", "day", "past_visit.done_on", "Day of the visit", "2021-06-03"],
      ),
      ...WHERE_AT("t"),
      ...columns(
        ["phase", "word", "t.phase", "as-found or as-left", "as-left"],
        ["typed", "text", "t.typed", "As it stood in the file", "9,1"],
        ["typed_unit", "word", "t.unit", "The unit it was understood in", "bar"],
        ["value", "number", "t.value", "The figure, in stored_unit", "9.1"],
        ["stored_unit", "word", UNIT_OF_DIMENSION("t"), "Its unit", "bar"],
      ),
    ],
  },
];

/** Rows of a table that are none of the open one. */
export const ONLY: Readonly<Record<string, string>> = {
  past_visit: "came.state = 'done'",
  past_figure: "came.state = 'done'",
  work: "t.task = 'parts.line' and t.value->>'form' = 'work'",
};

export const openTable = (plural: string): OpenTable | undefined => OPEN_TABLES.find((t) => t.plural === plural);
