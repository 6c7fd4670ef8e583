import { createHash, randomUUID, timingSafeEqual } from "node:crypto";
import { sql } from "drizzle-orm";
import { workshopIds } from "../../db/queries/doors";
import { ensureStartingCards } from "../../db/queries/specs";
import type { Database } from "../../db/client";
import { account, workshop } from "../../db/schema";
import { inWorkshop } from "../../db/wall";
import { KEY_FOLDER } from "../keys";
import { markComplete } from "../proof/memory";
import { admit, hashPassword } from "../auth";
import { database } from "../database";
import { Refused } from "../refused";
import { inTransaction } from "../transaction";
import { unlessGuessed } from "./guesses";
import { passwordProblem } from "./passwords";

/**
 * The first start on an empty database: whoever reads the terminal makes the first workshop and its lead. The code is new with each start,
 * and means nothing once there is a workshop.
 */

let full = false;

/** Whether there is no workshop at all. Once there is one it is not asked again. */
export async function isEmpty(): Promise<boolean> {
  if (full) return false;
  full = (await workshopIds(database())).length > 0;
  return !full;
}

const digest = (words: string) => createHash("sha256").update(words.trim().toUpperCase()).digest();

export interface FirstWorkshop {
  code: string;
  workshop: string;
  town: string;
  timeZone: string;
  name: string;
  email: string;
  password: string;
}

/**
 * Makes workshop, lead and starting cards, and signs the lead in.
 *
 * @returns the cookies
 * @throws Refused beside the field it concerns
 */
export async function makeFirst(request: Request, given: FirstWorkshop, address: string): Promise<string[]> {
  const code = process.env.SETUP_CODE;
  if (!code) throw new Refused("Start the application with npm start: it prints the code for this.", "code");
  const wrong = "That is not the code. It stands in the terminal in which the application was started.";
  await unlessGuessed({ email: "setup", address }, { field: "code", wrong }, () =>
    timingSafeEqual(digest(code), digest(given.code)),
  );
  const problem = passwordProblem(given.password, [given.email, given.name, given.workshop]);
  if (problem) throw new Refused(problem, "password");
  const [workshopId, accountId] = [randomUUID(), randomUUID()];
  const passwordHash = await hashPassword(given.password);
  return inWorkshop(workshopId, async () => {
    await inTransaction(async (tx) => {
      // Two who do it at once: the second finds a workshop.
      await tx.execute(sql`lock table ${workshop} in share row exclusive mode`);
      if ((await workshopIds(tx)).length > 0)
        throw new Refused("There is a workshop already. Sign in, or ask its lead for a link.");
      const { town, timeZone, name, email } = given;
      await tx.insert(workshop).values({ id: workshopId, name: given.workshop, town, timeZone, contact: "" });
      await tx.insert(account).values({
        id: accountId,
        workshopId,
        name,
        email: email.trim().toLowerCase(),
        role: "lead",
        passwordHash,
        preferences: { pressureUnit: "bar", theme: "system" },
      });
      await ensureStartingCards(tx as unknown as Database);
    });
    markComplete(KEY_FOLDER(), [workshopId]);
    return admit(request, accountId);
  });
}
