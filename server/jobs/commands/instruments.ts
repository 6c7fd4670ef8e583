import { and, eq, inArray, isNull } from "drizzle-orm";
import type { InstrumentQuantity, KitInstrument } from "../../../core/metrology";
import type { Transaction } from "../../../db/client";
import { instrumentFrom } from "../../../db/queries/job-from";
import { instrument } from "../../../db/schema";
import { Refused } from "../../refused";

/** Instruments a figure is read with: of the workshop’s kit, or built into the machine. */

/** Instruments of a kind that a workshop has to hand: none that is built into a machine. */
export async function kitOf(
  tx: Transaction,
  workshopId: string,
  quantity: InstrumentQuantity,
): Promise<KitInstrument[]> {
  const rows = await tx
    .select()
    .from(instrument)
    .where(
      and(
        eq(instrument.workshopId, workshopId),
        eq(instrument.inKit, true),
        eq(instrument.quantity, quantity),
        isNull(instrument.machineId),
      ),
    );
  return rows.map(instrumentFrom);
}

const NOT_HERE = "Choose an instrument from the kit or the machine’s own.";

/** @throws Refused at the field when it is neither of the kit nor the machine’s own */
export async function instrumentFor(
  tx: Transaction,
  { workshopId, machineId }: { workshopId: string; machineId: string },
  id: string,
  field = "instrumentId",
): Promise<KitInstrument> {
  return (await instrumentsFor(tx, { workshopId, machineId }, { [field]: id })).get(field)!;
}

/**
 * @param chosen id by field
 * @throws Refused at the field of the first that is neither of the kit nor the machine’s own
 */
export async function instrumentsFor(
  tx: Transaction,
  { workshopId, machineId }: { workshopId: string; machineId: string },
  chosen: Readonly<Record<string, string>>,
): Promise<Map<string, KitInstrument>> {
  const ids = [...new Set(Object.values(chosen))];
  if (ids.length === 0) return new Map();
  const rows = await tx
    .select()
    .from(instrument)
    .where(and(inArray(instrument.id, ids), eq(instrument.workshopId, workshopId)));
  return new Map(
    Object.entries(chosen).map(([field, id]) => {
      const found = rows.find((r) => r.id === id);
      if (!found || (found.machineId && found.machineId !== machineId)) throw new Refused(NOT_HERE, field);
      return [field, instrumentFrom(found)];
    }),
  );
}
