import { createHash, createPublicKey, verify } from "node:crypto";
import { readFileSync } from "node:fs";
import { and, eq, isNull, sql } from "drizzle-orm";
import { account, ownerLink, seal, signature } from "../db/schema";
import { linkTokenOf } from "../server/open-links";
import { database } from "../server/database";
import { KEY_FOLDER } from "../server/keys";
import { keepLook } from "../server/proof/memory";
import { STRANGER, expect, openBench, signIn, test } from "./workshop";

/** What the owner holds in hand: a record to take away, and a page that says when it is not what was signed. */

test("the owner downloads the record and checks it; forged behind the application, the page says so", async ({
  page,
}) => {
  const db = database();
  // Of the other workshop, whose past nobody else here works on.
  const [link] = await db
    .select({
      link: ownerLink,
      jobId: ownerLink.jobId,
      key: seal.keyId,
      document: sql<string>`${signature.document}::text`,
    })
    .from(ownerLink)
    .innerJoin(seal, and(eq(seal.workshopId, ownerLink.workshopId), eq(seal.jobId, ownerLink.jobId)))
    .innerJoin(signature, and(eq(signature.workshopId, ownerLink.workshopId), eq(signature.jobId, ownerLink.jobId)))
    .innerJoin(account, and(eq(account.workshopId, ownerLink.workshopId), eq(account.email, STRANGER)))
    .where(isNull(ownerLink.revokedAt))
    .limit(1);
  const token = linkTokenOf("owner", link!.link)!;
  await page.goto(`/owner/${token}`);
  await expect(page.getByText(link!.key)).toBeVisible();
  // The public key itself stands there too: on paper it is what a record is checked with later.
  await expect(page.getByText(/MCowBQYDK2VwAyEA[\w+/]{43}=/)).toBeVisible();
  const [download] = await Promise.all([
    page.waitForEvent("download"),
    page.getByRole("link", { name: "Download the signed record" }).click(),
  ]);
  const record = JSON.parse(readFileSync(await download.path(), "utf8")) as Record<string, string>;
  const sha256 = (x: string | Buffer) => createHash("sha256").update(x).digest("hex");
  const key = createPublicKey(record.publicKey!);
  expect(sha256(key.export({ type: "spki", format: "der" }))).toBe(link!.key);
  expect(verify(null, Buffer.from(record.statement!), key, Buffer.from(record.signature!, "base64"))).toBe(true);
  expect((JSON.parse(record.statement!) as { document: string }).document).toBe(sha256(record.document!));

  const write = (document: string) =>
    db.transaction(async (tx) => {
      await tx.execute(sql`set local session_replication_role = replica`);
      await tx.execute(sql`update signature set document = ${document}::json where job_id = ${link!.jobId}`);
    });
  const alarm = page.getByText("This is not what was signed");
  await expect(alarm).toHaveCount(0);
  try {
    const { technician } = JSON.parse(link!.document) as { technician: string };
    await write(link!.document.replaceAll(technician, "Somebody Else"));
    await page.reload();
    await expect(alarm).toBeVisible();
    await page.goto(`/card/${token}`);
    await expect(alarm).toBeVisible();
    expect(await (await page.request.get(`/owner/${token}/csv`)).text()).toContain("This is not what was signed");
    await signIn(page, STRANGER);
    await page.goto(`/jobs/${link!.jobId}`);
    await expect(alarm).toBeVisible();
    await page.goto(`/owner/${token}`);
  } finally {
    await write(link!.document);
  }
  await page.reload();
  await expect(alarm).toHaveCount(0);
});

test("what a look found is told to the workshop’s lead, on the bench and with what and where", async ({ page }) => {
  const [person] = await database().select().from(account).where(eq(account.email, STRANGER));
  const { workshopId } = person!;
  const found = [{ serial: "BV-1", what: "reading 1: changed" }];
  keepLook(KEY_FOLDER(), workshopId, { at: new Date().toISOString(), seals: 2, found, more: 3 });
  try {
    await openBench(page, STRANGER);
    await page.getByRole("link", { name: "What and where" }).click();
    await expect(page.getByRole("alert")).toContainText("Machine BV-1: reading 1: changed");
    await expect(page.getByRole("alert")).toContainText("And 3 more");
  } finally {
    keepLook(KEY_FOLDER(), workshopId, { at: new Date().toISOString(), seals: 2, found: [], more: 0 });
  }
  await page.reload();
  await expect(page.getByText("all they stand under is as it was signed")).toBeVisible();
  await page.goto("/");
  await expect(page.getByRole("heading", { name: "On the bench" })).toBeVisible();
  await expect(page.getByRole("alert")).toHaveCount(0);
});
