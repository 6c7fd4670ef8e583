import type { Person } from "../auth";
import { isDatabaseDown } from "../database-error";
import { RIGHTS, type Right } from "../permissions";
import { useOnce } from "../sign-in-limits";
import { inTransaction } from "../transaction";
import { keepEvent } from "./events";

/** s between two that are kept of one person for one right: who taps ten times is one line. */
const EVERY = 3600;

/** Somebody asked for what is not theirs to see or do: kept for the lead. */
export async function keepRefusal(by: Pick<Person, "id" | "workshop">, right: Right): Promise<void> {
  const workshopId = by.workshop.id;
  try {
    if (await useOnce(`refused ${by.id} ${right}`, EVERY))
      await inTransaction((tx) => keepEvent(tx, { workshopId, what: "refused", of: by.id, about: RIGHTS[right].no }));
  } catch (error) {
    // It is refused all the same.
    if (!isDatabaseDown(error)) throw error;
  }
}
