import { z } from "zod";
import { PRESET_IDS, SCOPE_IDS } from "~core/sheet";
import type { StartInput } from "~server/jobs/commands/start";
import { commandId } from "~server/web";

/** The form that begins a visit. */

export const startSchema = z.object({
  commandId,
  type: z.enum([...PRESET_IDS, "own"], "Choose what the visit is for."),
  scopes: z.array(z.enum(SCOPE_IDS)).default([]),
  complaint: z.string().trim().max(2000, "Keep it under 2000 characters.").default(""),
  school: z.enum(["regulate", "ceiling"], "Choose what the OPV is set as."),
  hardness: z.enum(["under-50", "published-band"]).optional(),
  warmUp: z.enum(["wait", "blank-shots"]).optional(),
  level: z.enum(["boiler-ready", "machine-warm", "heat-soaked"]).default("machine-warm"),
  specCardId: z.uuid().optional(),
});

type Typed = Omit<z.output<typeof startSchema>, "commandId">;

export function startInput(machineId: string, typed: Typed): StartInput {
  const { type, scopes, complaint, level, specCardId, school, hardness, warmUp } = typed;
  return {
    machineId,
    visit: type === "own" ? scopes : type,
    complaint,
    level,
    specCardId: specCardId ?? null,
    schools: { opv: school, ...(hardness ? { hardness } : {}), ...(warmUp ? { warmUp } : {}) },
  };
}
