import { randomUUID } from "node:crypto";
import type { SignedIn } from "../auth";
import { addMachine } from "../machines/register";

/** A machine of a model that no other test works on: for tests. @param word what its owner and site are called */
export async function freshMachine(by: SignedIn, modelId: string, word: string): Promise<string> {
  const machineId = randomUUID();
  await addMachine(by, machineId, {
    modelId,
    serial: `${word[0]}-${machineId.slice(0, 8)}`,
    owner: `${word} Owner`,
    contact: "",
    site: `${word} site`,
    town: "Saltby",
    altitude: 0,
    water: "",
    installedOn: null,
    gaugePlace: "none",
    gaugeToGroup: 0,
    modifications: "",
    coffee: "",
    grinder: "",
  });
  return machineId;
}
