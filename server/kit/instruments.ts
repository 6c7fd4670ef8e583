import { and, asc, eq } from "drizzle-orm";
import type { ErrorStatement, InstrumentQuantity, Place } from "../../core/metrology";
import { instrument } from "../../db/schema";
import type { SignedIn } from "../auth";
import { once } from "../command";
import { database } from "../database";
import { Refused } from "../refused";

/** The workshop’s kit. A changed instrument is a new one: readings taken with the old keep what it was. */

export interface InstrumentInput {
  name: string;
  quantity: InstrumentQuantity;
  place: Place;
  lowest: number;
  highest: number;
  resolution: number;
  error: ErrorStatement;
  repeatability: number;
  driftPerYear: number | null;
  hysteresis: number | null;
  corrections: [number, number][] | null;
  calibratedOn: string | null;
  dueOn: string | null;
  note: string;
}

export function kitList(workshopId: string) {
  return database()
    .select()
    .from(instrument)
    .where(and(eq(instrument.workshopId, workshopId), eq(instrument.inKit, true)))
    .orderBy(asc(instrument.quantity), asc(instrument.position), asc(instrument.name));
}

export async function instrumentRow(workshopId: string, id: string) {
  const [found] = await database()
    .select()
    .from(instrument)
    .where(and(eq(instrument.id, id), eq(instrument.workshopId, workshopId), eq(instrument.inKit, true)));
  return found;
}

/** @param replaces the instrument this one stands for from now on; null for one new to the kit */
export function saveInstrument(by: SignedIn, commandId: string, replaces: string | null, input: InstrumentInput) {
  return once(by, commandId, "instrument", { replaces, ...input }, async (tx) => {
    const workshopId = by.workshop.id;
    const [old] = replaces
      ? await tx
          .update(instrument)
          .set({ inKit: false })
          .where(and(eq(instrument.id, replaces), eq(instrument.workshopId, workshopId), eq(instrument.inKit, true)))
          .returning({ position: instrument.position, itemId: instrument.itemId })
      : [{ position: 5, itemId: commandId }];
    if (!old) throw new Refused("That instrument was changed or retired meanwhile. Load the page again.");
    await tx.insert(instrument).values({ id: commandId, workshopId, ...old, ...input });
  });
}

/** Put away: no longer offered, kept for the readings taken with it. */
export function retireInstrument(by: SignedIn, commandId: string, id: string) {
  return once(by, commandId, "instrument-retire", { id }, async (tx) => {
    await tx
      .update(instrument)
      .set({ inKit: false })
      .where(and(eq(instrument.id, id), eq(instrument.workshopId, by.workshop.id)));
  });
}
