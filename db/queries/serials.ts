import { eq } from "drizzle-orm";
import type { Database } from "../client";
import { machine } from "../schema";

/** Every machine of a workshop by its serial in lower case. */
export async function serialsOf(db: Pick<Database, "select">, workshopId: string) {
  const rows = await db
    .select({ id: machine.id, serial: machine.serial })
    .from(machine)
    .where(eq(machine.workshopId, workshopId));
  return new Map(rows.map((m) => [m.serial.toLowerCase(), m]));
}
