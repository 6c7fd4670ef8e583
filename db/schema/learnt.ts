import { doublePrecision, index, integer, pgTable, timestamp, unique, uuid } from "drizzle-orm/pg-core";
import { bounded } from "./bounds";
import { knobAt, knobAtHolds } from "./knob-at";
import { machine, model } from "./register";

/** What each signed job showed of a knob: worked out once, when it is signed. */
export const response = pgTable(
  "response",
  {
    jobId: uuid().notNull(),
    ...knobAt(),
    machineId: uuid()
      .notNull()
      .references(() => machine.id),
    modelId: uuid()
      .notNull()
      .references(() => model.id),
    /** Reading units per knob unit, and its standard deviation. */
    value: doublePrecision().notNull(),
    sd: doublePrecision().notNull(),
    moves: integer().notNull(),
    at: timestamp({ withTimezone: true }).notNull().defaultNow(),
  },
  (t) => [
    unique("response_knob").on(t.jobId, t.knob, t.group, t.button).nullsNotDistinct(),
    knobAtHolds("response", t),
    index("response_model").on(t.modelId, t.knob, t.group, t.button, t.machineId),
    index("response_machine").on(t.machineId, t.knob),
    bounded("response_value", t.value, -100_000, 100_000),
    bounded("response_sd", t.sd, 1e-9, 100_000),
    bounded("response_moves", t.moves, 0, 100_000),
  ],
);

/** One figure per machine and knob, kept up as jobs are signed: weights and weighted sum of what its jobs showed. */
export const machineResponse = pgTable(
  "machine_response",
  {
    machineId: uuid()
      .notNull()
      .references(() => machine.id),
    ...knobAt(),
    modelId: uuid()
      .notNull()
      .references(() => model.id),
    weight: doublePrecision().notNull(),
    weighted: doublePrecision().notNull(),
    jobs: integer().notNull(),
    at: timestamp({ withTimezone: true }).notNull(),
  },
  (t) => [
    unique("machine_response_knob").on(t.machineId, t.knob, t.group, t.button).nullsNotDistinct(),
    knobAtHolds("machine_response", t),
    index("machine_response_model").on(t.modelId, t.knob, t.group, t.button, t.at),
    bounded("machine_response_weight", t.weight, 0, 1e24),
    bounded("machine_response_weighted", t.weighted, -1e24, 1e24),
    bounded("machine_response_jobs", t.jobs, 0, 1_000_000),
  ],
);

/** The hierarchical prior of a model’s knob, worked out again whenever one of its machines has shown more. */
export const modelResponse = pgTable(
  "model_response",
  {
    modelId: uuid()
      .notNull()
      .references(() => model.id),
    ...knobAt(),
    mean: doublePrecision().notNull(),
    sd: doublePrecision().notNull(),
    between: doublePrecision().notNull(),
    machines: integer().notNull(),
    at: timestamp({ withTimezone: true }).notNull(),
  },
  (t) => [
    unique("model_response_knob").on(t.modelId, t.knob, t.group, t.button).nullsNotDistinct(),
    knobAtHolds("model_response", t),
    bounded("model_response_mean", t.mean, -100_000, 100_000),
    bounded("model_response_sd", t.sd, 0, 100_000),
    bounded("model_response_between", t.between, 0, 100_000),
    bounded("model_response_machines", t.machines, 0, 1_000_000_000),
  ],
);
