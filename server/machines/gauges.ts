import { and, eq, inArray } from "drizzle-orm";
import type { Transaction } from "../../db/client";
import { boilerGauge, ownGauge } from "../../db/own-gauge";
import { instrument } from "../../db/schema";

/** Gauges built into a machine are instruments like any other, kept with it. */

const at = (workshopId: string, machineId: string, places: ("group" | "pump" | "boiler")[]) =>
  and(eq(instrument.workshopId, workshopId), eq(instrument.machineId, machineId), inArray(instrument.place, places));

export async function keepOwnGauge(
  tx: Transaction,
  workshopId: string,
  machineId: string,
  place: "group" | "pump" | "none",
): Promise<void> {
  if (place === "none") return;
  const [own] = await tx
    .select({ id: instrument.id })
    .from(instrument)
    .where(at(workshopId, machineId, ["group", "pump"]));
  if (own) await tx.update(instrument).set({ place }).where(eq(instrument.id, own.id));
  else await tx.insert(instrument).values(ownGauge(crypto.randomUUID(), workshopId, machineId, place));
}

export async function keepBoilerGauge(tx: Transaction, workshopId: string, machineId: string): Promise<void> {
  const [own] = await tx
    .select({ id: instrument.id })
    .from(instrument)
    .where(at(workshopId, machineId, ["boiler"]));
  if (!own) await tx.insert(instrument).values(boilerGauge(crypto.randomUUID(), workshopId, machineId));
}
