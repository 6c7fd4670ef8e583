import { and, eq, inArray, lt } from "drizzle-orm";
import { workshopIds } from "../../db/queries/doors";
import { transfer } from "../../db/schema";
import { inWorkshop } from "../../db/wall";
import { database } from "../database";
import { inTransaction } from "../transaction";
import { sweepFiles } from "./files";

/** Files that nobody answered for are not kept: a question stands open for a day, and then its file goes. */

const A_DAY = 86_400_000;

/** Answers that did not come, and files that are of no use any more. @param older than this, ms */
export async function sweep(older = A_DAY): Promise<void> {
  const before = new Date(Date.now() - older);
  for (const id of await workshopIds(database()))
    await inWorkshop(id, () =>
      inTransaction((tx) =>
        tx
          .update(transfer)
          .set({ state: "stopped", said: "Nobody answered for a day. Its file is gone, and nothing was stored." })
          .where(
            and(
              eq(transfer.workshopId, id),
              eq(transfer.state, "asked"),
              inArray(transfer.way, ["table-in", "records-in"]),
              lt(transfer.aliveAt, before),
            ),
          ),
      ),
    );
  await sweepFiles(older);
}
