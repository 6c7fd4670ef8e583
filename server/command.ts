import { createHash } from "node:crypto";
import { eq } from "drizzle-orm";
import { type Transaction } from "../db/client";
import { command } from "../db/schema";
import type { SignedIn } from "./auth";
import { moment } from "./moment";
import { inTransaction } from "./transaction";

export type Outcome = "done" | "repeated" | "clash";

/**
 * Runs a write once, however often it is sent. The command id is the client's; the same id with the same content is a
 * repeat and changes nothing, the same id with other content is a clash: the first was saved, the second was not.
 */
export async function once(
  by: Pick<SignedIn, "id"> & { workshop: Pick<SignedIn["workshop"], "id"> },
  commandId: string,
  kind: string,
  payload: unknown,
  write: (tx: Transaction) => Promise<void>,
): Promise<Outcome> {
  const payloadHash = createHash("sha256").update(JSON.stringify(payload)).digest("hex");
  return inTransaction(async (tx) => {
    const fresh = await tx
      .insert(command)
      .values({ id: commandId, workshopId: by.workshop.id, accountId: by.id, kind, payloadHash, at: moment() })
      .onConflictDoNothing()
      .returning({ id: command.id });
    if (fresh.length > 0) {
      await write(tx);
      return "done";
    }
    const [earlier] = await tx.select().from(command).where(eq(command.id, commandId));
    const same = earlier?.workshopId === by.workshop.id && earlier.kind === kind && earlier.payloadHash === payloadHash;
    return same ? "repeated" : "clash";
  });
}
