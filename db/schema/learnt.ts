import { doublePrecision, index, integer, pgTable, timestamp, unique, uuid } from "drizzle-orm/pg-core";
import { LEARNT_IDS } from "../../core/knobs";
import { bounded, timely, within } from "./bounds";
import { job } from "./jobs";
import { knobAtHolds, learntAt } from "./knob-at";
import { machine, model } from "./register";

/** What each signed job showed of a knob: worked out once, when it is signed. */
export const response = pgTable(
  "response",
  {
    workshopId: uuid().notNull(),
    jobId: uuid().notNull(),
    ...learntAt(),
    machineId: uuid().notNull(),
    modelId: uuid().notNull(),
    /** Reading units per knob unit, and its standard deviation. */
    value: doublePrecision().notNull(),
    sd: doublePrecision().notNull(),
    moves: integer().notNull(),
    at: timestamp({ withTimezone: true }).notNull().defaultNow(),
  },
  (t) => [
    unique("response_knob").on(t.jobId, t.knob, t.group, t.button).nullsNotDistinct(),
    within("response_of_job", t, t.jobId, job),
    within("response_on_machine", t, t.machineId, machine),
    within("response_of_model", t, t.modelId, model),
    timely("response_at_is", t.at),
    ...knobAtHolds("response", t, LEARNT_IDS),
    index("response_of").on(t.workshopId, t.modelId, t.knob, t.group, t.button, t.machineId),
    bounded("response_value", t.value, -100_000, 100_000),
    bounded("response_sd", t.sd, 1e-9, 100_000),
    bounded("response_moves", t.moves, 0, 100_000),
  ],
);

/** Kept up by the version before, which may still run beside this one: read by nobody now, and dropped with the next version. */
export const machineResponse = pgTable(
  "machine_response",
  {
    workshopId: uuid().notNull(),
    machineId: uuid().notNull(),
    ...learntAt(),
    modelId: uuid().notNull(),
    weight: doublePrecision().notNull(),
    weighted: doublePrecision().notNull(),
    jobs: integer().notNull(),
    at: timestamp({ withTimezone: true }).notNull(),
  },
  (t) => [
    unique("machine_response_knob").on(t.machineId, t.knob, t.group, t.button).nullsNotDistinct(),
    within("machine_response_on_machine", t, t.machineId, machine),
    within("machine_response_of_model", t, t.modelId, model),
    timely("machine_response_at_is", t.at),
    ...knobAtHolds("machine_response", t, LEARNT_IDS),
    index("machine_response_newest").on(t.workshopId, t.modelId, t.knob, t.group, t.button, t.at),
    bounded("machine_response_weight", t.weight, 0, 1e24),
    bounded("machine_response_weighted", t.weighted, -1e24, 1e24),
    bounded("machine_response_jobs", t.jobs, 0, 1_000_000),
  ],
);

/** As {@link machineResponse}: of the version before, and dropped with the next. */
export const modelResponse = pgTable(
  "model_response",
  {
    workshopId: uuid().notNull(),
    modelId: uuid().notNull(),
    ...learntAt(),
    mean: doublePrecision().notNull(),
    sd: doublePrecision().notNull(),
    between: doublePrecision().notNull(),
    machines: integer().notNull(),
    at: timestamp({ withTimezone: true }).notNull(),
  },
  (t) => [
    unique("model_response_knob").on(t.modelId, t.knob, t.group, t.button).nullsNotDistinct(),
    within("model_response_of_model", t, t.modelId, model),
    timely("model_response_at_is", t.at),
    ...knobAtHolds("model_response", t, LEARNT_IDS),
    bounded("model_response_mean", t.mean, -100_000, 100_000),
    bounded("model_response_sd", t.sd, 0, 100_000),
    bounded("model_response_between", t.between, 0, 100_000),
    bounded("model_response_machines", t.machines, 0, 1_000_000_000),
  ],
);
