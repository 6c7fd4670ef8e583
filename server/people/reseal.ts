import { and, eq, isNotNull } from "drizzle-orm";
import type { Database } from "../../db/client";
import { workshopIds } from "../../db/queries/doors";
import { account } from "../../db/schema";
import { forgetOlderKeys, open, renewKey, seal } from "../keys";

/**
 * Renews the key under which secrets of second factors lie: they are sealed anew, all of them, and then the key of before goes. Cut off
 * anywhere, both keys are there, and what is sealed under either opens: it is begun again. Statements of signed visits are under other keys.
 *
 * @returns how many secrets were sealed anew
 */
export async function renewSealKey(db: Database): Promise<number> {
  renewKey("seal.key", Date.now());
  let sealed = 0;
  for (const workshopId of await workshopIds(db))
    // One workshop at a time, each whole: nobody waits for it.
    // eslint-disable-next-line no-restricted-syntax
    sealed += await db.transaction(async (tx) => {
      const rows = await tx
        .select({ id: account.id, secret: account.totpSecret })
        .from(account)
        .where(and(eq(account.workshopId, workshopId), isNotNull(account.totpSecret)))
        .for("update");
      for (const { id, secret } of rows)
        await tx
          .update(account)
          .set({ totpSecret: seal(open(secret!)) })
          .where(eq(account.id, id));
      return rows.length;
    });
  forgetOlderKeys("seal.key");
  return sealed;
}
