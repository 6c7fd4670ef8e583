import { LOOP_IDS } from "../../core/loop";
import { doublePrecision, index, integer, pgTable, primaryKey, text, timestamp, uuid } from "drizzle-orm/pg-core";
import { bounded } from "./bounds";
import { machine, model } from "./register";

/** What a knob’s response is taken to be when a job begins, and whom it was learnt from. */
export interface LearntLoop {
  mean: number;
  sd: number;
  /** Machines of the model behind it. */
  machines: number;
  /** Visits to this very machine behind it. */
  own: number;
}

/** What each signed job showed of a knob: worked out once, when it is signed. */
export const response = pgTable(
  "response",
  {
    jobId: uuid().notNull(),
    loop: text({ enum: LOOP_IDS }).notNull(),
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
    primaryKey({ columns: [t.jobId, t.loop] }),
    index("response_model").on(t.modelId, t.loop, t.machineId),
    index("response_machine").on(t.machineId, t.loop),
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
    loop: text({ enum: LOOP_IDS }).notNull(),
    modelId: uuid()
      .notNull()
      .references(() => model.id),
    weight: doublePrecision().notNull(),
    weighted: doublePrecision().notNull(),
    jobs: integer().notNull(),
    at: timestamp({ withTimezone: true }).notNull(),
  },
  (t) => [
    primaryKey({ columns: [t.machineId, t.loop] }),
    index("machine_response_model").on(t.modelId, t.loop, t.at),
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
    loop: text({ enum: LOOP_IDS }).notNull(),
    mean: doublePrecision().notNull(),
    sd: doublePrecision().notNull(),
    between: doublePrecision().notNull(),
    machines: integer().notNull(),
    at: timestamp({ withTimezone: true }).notNull(),
  },
  (t) => [
    primaryKey({ columns: [t.modelId, t.loop] }),
    bounded("model_response_mean", t.mean, -100_000, 100_000),
    bounded("model_response_sd", t.sd, 0, 100_000),
    bounded("model_response_between", t.between, 0, 100_000),
    bounded("model_response_machines", t.machines, 0, 1_000_000_000),
  ],
);
