import { randomUUID } from "node:crypto";
import { standingOf } from "../../core/job";
import { jobFrom } from "../../db/queries/job-from";
import { sheetRow } from "../../db/queries/jobs";
import type { SignedIn } from "../auth";
import { database } from "../database";
import { writeSignature } from "./commands/signing";

/** Signs a job as it stands, however much of its sheet is still open: for tests. */
export async function signNow(by: SignedIn, jobId: string): Promise<void> {
  // eslint-disable-next-line no-restricted-syntax -- nothing else is written meanwhile
  await database().transaction(async (tx) => {
    const standing = standingOf(jobFrom((await sheetRow(tx, by.workshop.id, jobId))!));
    const target = { by, jobId, commandId: randomUUID() };
    await writeSignature(tx, standing, target, { name: "Ilka Sandbourne", remark: "Left as it is." }, new Date());
  });
}
