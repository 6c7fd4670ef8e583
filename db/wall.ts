import { AsyncLocalStorage } from "node:async_hooks";

/**
 * The second wall between workshops: whatever a query asks for, the database shows rows of the workshop that was named for its transaction
 * and of no other (policies in migration 0017). Here is kept which one that is; connections name it (db/client.ts).
 */

const inside = new AsyncLocalStorage<string | undefined>();

// It goes into a statement as text.
const UUID = /^[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}$/;

/**
 * Runs work for one workshop: all it asks the database, directly or later on, is asked behind this workshop’s wall.
 *
 * @param workshopId a UUID, lower case
 * @throws on anything else
 */
export async function inWorkshop<T>(workshopId: string, work: () => PromiseLike<T>): Promise<T> {
  if (!UUID.test(workshopId)) throw new Error("A workshop’s id is a UUID.");
  // Awaited in here: a query asks only once somebody waits for it.
  return inside.run(workshopId, async () => await work());
}

/** Runs work that belongs to no workshop, wherever it is asked for. */
export function outside<T>(work: () => T): T {
  return inside.run(undefined, work);
}

/** How a transaction begins: with its workshop named. With none, as for somebody who has not signed in, it sees no rows at all. */
export function begin(mode: "" | "read only" | "isolation level repeatable read, read only" = ""): string {
  const workshopId = inside.getStore();
  return `begin ${mode}${workshopId ? `; set local gauge.workshop = '${workshopId}'` : ""}`;
}

/** The workshop that is named here, by its id. */
export const workshopInForce = (): string | undefined => inside.getStore();

/** Whether a workshop is named here. */
export const isInside = (): boolean => inside.getStore() !== undefined;
