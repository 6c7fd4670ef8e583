import { and, eq } from "drizzle-orm";
import { kindOf, particularsOf, scopesOfPreset } from "../../../core/job";
import type { SchoolsOf } from "../../../core/school";
import { PRESETS, type Preset, SCOPES, SCOPE_IDS, type Scope, scopesFor } from "../../../core/sheet";
import type { WarmLevel } from "../../../core/warmup";
import { carriedOf } from "../../../db/queries/carried";
import { describedFrom } from "../../../db/queries/job-from";
import { machineRow } from "../../../db/queries/machines";
import { pinnedSpec } from "../../../db/queries/specs";
import { job, machine as machines } from "../../../db/schema";
import type { Person } from "../../auth";
import { once } from "../../command";
import { database } from "../../database";
import { tell } from "../../events";
import { keepBoilerGauge } from "../../machines/gauges";
import { learntFor } from "./learning";
import { moment } from "../../moment";
import { Refused } from "../../refused";

export interface StartInput {
  machineId: string;
  /** What the visit is for: a usual one, or put together. */
  visit: Preset | readonly Scope[];
  complaint: string;
  schools: Partial<SchoolsOf>;
  level: WarmLevel;
  specCardId: string | null;
}

/** Starts a job. Its id is the command's. What it is for, the machine’s particulars, schools and spec card are pinned now. */
export async function startJob(by: Person, commandId: string, input: StartInput) {
  const machine = await machineRow(database(), by.workshop.id, input.machineId);
  if (!machine) throw new Refused("There is no such machine in this workshop.");
  const particulars = particularsOf(describedFrom(machine));
  const kind = kindOf(particulars);
  const here = scopesFor(kind, particulars.card);
  const { visit } = input;
  const usual = typeof visit === "string";
  const wanted = usual ? scopesOfPreset(visit, particulars) : visit;
  const scopes = SCOPE_IDS.filter((id) => wanted.includes(id));
  const odd = scopes.find((id) => !here.includes(id));
  if (odd) throw new Refused(`This kind has nothing of “${SCOPES[odd].title.toLowerCase()}”.`, "scopes");
  if (scopes.length === 0)
    throw usual
      ? new Refused(`This kind has nothing of a ${PRESETS[visit].title.toLowerCase()}.`, "type")
      : new Refused("Say what the visit is for: one thing at least.", "scopes");
  const level = kind.warmUp.heatSoaked === null && input.level === "heat-soaked" ? "machine-warm" : input.level;
  const schools = { ...by.workshop.schools, ...input.schools };
  return once(by, commandId, "start", input, async (tx) => {
    // Locks the machine, so that two people starting at once make one job.
    const [own] = await tx
      .select({ retiredOn: machines.retiredOn })
      .from(machines)
      .where(eq(machines.id, machine.id))
      .for("update");
    if (own?.retiredOn) throw new Refused("This machine is retired. Take it back into service first.");
    const [open] = await tx
      .select({ id: job.id })
      .from(job)
      .where(and(eq(job.workshopId, by.workshop.id), eq(job.machineId, machine.id), eq(job.state, "open")))
      .limit(1);
    if (open) throw new Refused("A job is open on this machine already. Load the page again and go on with that one.");
    const spec = await pinnedSpec(tx, by.workshop.id, input.specCardId ?? by.workshop.specCardId);
    if (kind.steamGauge) await keepBoilerGauge(tx, by.workshop.id, machine.id);
    await tx.insert(job).values({
      id: commandId,
      workshopId: by.workshop.id,
      machineId: machine.id,
      scopes,
      particulars,
      complaint: input.complaint,
      schools,
      level,
      specVersionId: spec?.id ?? null,
      decisionRule: by.workshop.decisionRule,
      learnt: await learntFor(tx, machine),
      carried: await carriedOf(tx, by.workshop.id, machine.id),
      startedBy: by.id,
      startedAt: moment(),
    });
    await tell(tx, by.workshop.id, commandId, 0);
  });
}
