import { and, desc, eq, inArray } from "drizzle-orm";
import type { GaugeSeat } from "../../core/job";
import type { Transaction } from "../../db/client";
import { boilerGauge, ownGauge } from "../../db/own-gauge";
import { instrument } from "../../db/schema";

/** Gauges built into a machine are instruments like any other, kept with it. */

const at = (workshopId: string, machineId: string, places: ("group" | "pump" | "boiler" | "flow")[]) =>
  and(eq(instrument.workshopId, workshopId), eq(instrument.machineId, machineId), inArray(instrument.place, places));

export interface OwnGauge {
  place: GaugeSeat;
  /** Bar, bar, % of span; null: as such gauges usually are. */
  highest: number | null;
  step: number | null;
  percentOfSpan: number | null;
}

/** The machine's own brew gauge as it was described: changed figures are a new row, so that what was read keeps what it was read with. */
export async function keepOwnGauge(
  tx: Transaction,
  workshopId: string,
  machineId: string,
  { place, highest, step, percentOfSpan }: OwnGauge,
): Promise<void> {
  if (place === "none") return;
  const [own] = await tx
    .select()
    .from(instrument)
    .where(at(workshopId, machineId, ["group", "pump", "flow"]))
    .orderBy(desc(instrument.position))
    .limit(1);
  const usual = ownGauge(crypto.randomUUID(), workshopId, machineId, place);
  const given = {
    highest: highest ?? own?.highest ?? usual.highest,
    resolution: step ?? own?.resolution ?? usual.resolution,
    error: percentOfSpan === null ? (own?.error ?? usual.error) : { form: "class" as const, percentOfSpan },
  };
  if (!own) {
    await tx.insert(instrument).values({ ...usual, ...given });
    return;
  }
  const same =
    own.highest === given.highest &&
    own.resolution === given.resolution &&
    JSON.stringify(own.error) === JSON.stringify(given.error);
  if (same) await tx.update(instrument).set({ place }).where(eq(instrument.id, own.id));
  else
    await tx
      .insert(instrument)
      .values({ ...own, ...given, place, id: crypto.randomUUID(), position: own.position + 1 });
}

export async function keepBoilerGauge(tx: Transaction, workshopId: string, machineId: string): Promise<void> {
  const [own] = await tx
    .select({ id: instrument.id })
    .from(instrument)
    .where(at(workshopId, machineId, ["boiler"]));
  if (!own) await tx.insert(instrument).values(boilerGauge(crypto.randomUUID(), workshopId, machineId));
}
