import { randomUUID } from "node:crypto";
import type { SignedIn } from "../auth";
import { type MachineInput, addMachine } from "../machines/register";
import { type StartInput, startJob } from "./commands/start";

/** Machines of this test’s own, so that no other works on them, and jobs on them: for tests. */

export function entryOf(model: string, more: Partial<MachineInput> = {}): MachineInput {
  return {
    model,
    serial: randomUUID(),
    owner: "Harbour Office",
    contact: "",
    phone: "",
    email: "",
    site: "Quay 3",
    town: "Saltby",
    altitude: 0,
    water: "",
    installedOn: null,
    gaugePlace: "none",
    gaugeWords: "",
    gaugeToGroup: 0,
    gaugeToGroupU: null,
    gaugeHighest: null,
    gaugeStep: null,
    gaugeClass: null,
    flowControl: false,
    pumpLabel: null,
    wanted: {},
    serves: "",
    modifications: "",
    coffee: "",
    shotsPerDay: null,
    grinder: "",
    ...more,
  };
}

/** @param word what its owner and site are called */
export async function freshMachine(by: SignedIn, modelId: string, word: string): Promise<string> {
  const machineId = randomUUID();
  const serial = `${word[0]}-${machineId.slice(0, 8)}`;
  await addMachine(by, machineId, entryOf(modelId, { serial, owner: `${word} Owner`, site: `${word} site` }));
  return machineId;
}

/** A job as it begins when nothing is chosen. @returns its id */
export async function beginJob(
  by: SignedIn,
  machineId: string,
  visit: StartInput["visit"],
  more: Partial<StartInput> = {},
): Promise<string> {
  const jobId = randomUUID();
  const usual = { complaint: "", schools: {}, level: "machine-warm", specCardId: null } as const;
  await startJob(by, jobId, { ...usual, machineId, visit, ...more });
  return jobId;
}
