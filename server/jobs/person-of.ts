import { randomUUID } from "node:crypto";
import { eq } from "drizzle-orm";
import { account, workshop } from "../../db/schema";
import type { SignedIn } from "../auth";
import { database } from "../database";

/** A person of the demo as if signed in: for tests. */
export async function personOf(email: string): Promise<SignedIn> {
  const [row] = await database()
    .select()
    .from(account)
    .innerJoin(workshop, eq(workshop.id, account.workshopId))
    .where(eq(account.email, email));
  const { account: a, workshop: w } = row!;
  const { id, name, role, preferences } = a;
  return {
    id,
    name,
    role,
    way: "password",
    sessionId: randomUUID(),
    proven: true,
    needsFactor: false,
    preferences,
    workshop: w,
  };
}
