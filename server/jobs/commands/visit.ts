import { and, eq } from "drizzle-orm";
import {
  VISIT_TASK,
  WITHDRAWN_TASK,
  begunIn,
  kindOf,
  particularsOf,
  sameParticulars,
  standingOf,
} from "../../../core/job";
import { baseUnit, formatFigure } from "../../../core/quantity";
import type { SchoolsOf } from "../../../core/school";
import { SCOPES, SCOPE_IDS, type Scope, scopesFor } from "../../../core/sheet";
import { WANTED, type WantedId, type WantedRange } from "../../../core/spec";
import { WARM_WORDS, type WarmLevel } from "../../../core/warmup";
import { entry, job as jobs } from "../../../db/schema";
import { Refused } from "../../refused";
import { heatLevel } from "./clocks";
import { type Target, inJob, keys } from "./in-job";

/** What a visit is for, by which choices, and on what machine: all of it can change while the job is open, and stays on record. */

/** Chooses schools for this job alone. */
export function chooseSchools(target: Target, input: { schools: SchoolsOf }) {
  return inJob(target, "schools", input, async (tx, job) => {
    await tx.update(jobs).set({ schools: input.schools }).where(eq(jobs.id, job.id));
  });
}

/** Adds to what the visit is for, always; takes out what was begun only with a reason. */
export function changeScopes(target: Target, input: { scopes: Scope[]; reason: string }) {
  return inJob(target, "scopes", input, async (tx, job, standing) => {
    const scopes = SCOPE_IDS.filter((id) => input.scopes.includes(id));
    if (scopes.length === 0) throw new Refused("Leave at least one: a visit is for something.", "scopes");
    const kind = kindOf(job.particulars);
    const odd = scopes.find((id) => !job.scopes.includes(id) && !scopesFor(kind, job.particulars.card).includes(id));
    if (odd) throw new Refused(`This kind has nothing of “${SCOPES[odd].title.toLowerCase()}”.`, "scopes");
    const added = scopes.filter((id) => !job.scopes.includes(id));
    const taken = job.scopes.filter((id) => !scopes.includes(id));
    if (added.length === 0 && taken.length === 0) return;
    const left = standingOf({ ...job, scopes });
    const begun = begunIn(standing()).filter((s) => !left.plan.some((p) => p.id === s.id));
    if (begun.length > 0 && input.reason.length < 3)
      throw new Refused(
        `${begun.map((s) => s.title).join(", ")}: begun already. Say why it goes; what was recorded stays on record.`,
        "reason",
      );
    const words = (ids: readonly Scope[]) => ids.map((id) => SCOPES[id].title.toLowerCase()).join(", ");
    const said = [
      added.length > 0 ? `added: ${words(added)}` : "",
      taken.length > 0 ? `taken out: ${words(taken)}${input.reason && ` (${input.reason})`}` : "",
    ].filter(Boolean);
    await tx.update(jobs).set({ scopes }).where(eq(jobs.id, job.id));
    await tx.insert(entry).values({
      ...keys(target),
      task: VISIT_TASK,
      value: { form: "text", text: said.join("; ") },
    });
  });
}

/** The sheet is made anew from what library and register say today; all records stay. */
export function takeParticulars(target: Target) {
  return inJob(target, "particulars", {}, async (tx, job) => {
    const particulars = particularsOf(job.machine.described);
    if (sameParticulars(particulars, job.particulars)) return;
    if (standingOf({ ...job, particulars }).plan.length <= EVERY_SHEET)
      throw new Refused(
        "Nothing of this visit is left on the machine as it is listed now. Change what the visit is for, or sign this sheet as it is.",
      );
    await tx.update(jobs).set({ particulars }).where(eq(jobs.id, job.id));
    await tx.insert(entry).values({
      ...keys(target),
      task: VISIT_TASK,
      value: { form: "text", text: "the model’s and the machine’s data taken as they are now" },
    });
  });
}

/** A job begun by mistake: taken off the bench with the reason; all that was recorded stays, and it can be reopened. */
export function withdrawJob(target: Target, input: { reason: string }) {
  return inJob(target, "withdraw", input, async (tx, job) => {
    await tx.insert(entry).values({
      ...keys(target),
      task: WITHDRAWN_TASK,
      value: { form: "text", text: input.reason },
    });
    await tx.update(jobs).set({ state: "withdrawn" }).where(eq(jobs.id, job.id));
  });
}

/** A withdrawn job gone on with, unless another has been opened on its machine since. */
export function reopenJob(target: Target) {
  return inJob(
    target,
    "reopen",
    {},
    async (tx, job) => {
      if (job.state === "open") return;
      const [other] = await tx
        .select({ id: jobs.id })
        .from(jobs)
        .where(
          and(eq(jobs.workshopId, target.by.workshop.id), eq(jobs.machineId, job.machine.id), eq(jobs.state, "open")),
        );
      if (other) throw new Refused("Another job is open on this machine. Go on with that one, or withdraw it first.");
      await tx.update(jobs).set({ state: "open" }).where(eq(jobs.id, job.id));
    },
    "reopen",
  );
}

/** The level of warm-up that readings are held against from now on; what was marked before keeps its mark. */
export function chooseLevel(target: Target, { level }: { level: WarmLevel }) {
  return inJob(target, "level", { level }, async (tx, job, standing) => {
    if (level === job.level) return;
    const { kind } = standing();
    if (level === "heat-soaked" && kind.warmUp.heatSoaked === null)
      throw new Refused("This kind is not heat-soaked: warmed up is as far as it goes.", "level");
    await tx.update(jobs).set({ level }).where(eq(jobs.id, job.id));
    await heatLevel(tx, standing(), target, level);
    await tx.insert(entry).values({
      ...keys(target),
      task: VISIT_TASK,
      value: { form: "text", text: `warm-up required: ${WARM_WORDS[level].toLowerCase()}` },
    });
  });
}

export interface WantedInput {
  of: WantedId;
  /** Null: as the machine and the spec have it. */
  range: Pick<WantedRange, "lower" | "upper"> | null;
  reason: string;
}

/** A value wanted on this visit alone, with the reason that the report gives. */
export function chooseWanted(target: Target, input: WantedInput) {
  return inJob(target, "wanted", input, async (tx, job) => {
    const { of, range, reason } = input;
    const others = Object.fromEntries(Object.entries(job.wanted).filter(([id]) => id !== of));
    await tx
      .update(jobs)
      .set({ wanted: range ? { ...others, [of]: { ...range, reason } } : others })
      .where(eq(jobs.id, job.id));
    const { label, dimension, resolution } = WANTED[of];
    const unit = baseUnit(dimension);
    const figure = (x: number) => formatFigure(x, resolution, unit);
    await tx.insert(entry).values({
      ...keys(target),
      task: VISIT_TASK,
      value: {
        form: "text",
        text: range
          ? `${label.toLowerCase()} wanted: ${figure(range.lower)} to ${figure(range.upper)} ${unit.symbol} (${reason})`
          : `${label.toLowerCase()}: as the spec has it`,
      },
    });
  });
}

/** Look over, tools and the signature stand on every sheet. */
const EVERY_SHEET = 3;
