import { randomBytes } from "node:crypto";
import { LRUCache } from "lru-cache";
import { and, desc, eq, gt, isNull, sql } from "drizzle-orm";
import type { Database } from "../../db/client";
import { workshopBehind } from "../../db/queries/doors";
import { onceEach } from "../../db/queries/prepared";
import { type TOKEN_SCOPES, account, apiToken, workshop } from "../../db/schema";
import { inWorkshop } from "../../db/wall";
import { PERSON, type Person, type SignedIn } from "../auth";
import { once } from "../command";
import { database } from "../database";
import { moment } from "../moment";
import { keepEvent } from "../people/events";
import { needProven } from "../people/proven";
import { may, need } from "../permissions";
import { Refused } from "../refused";
import { hashOf } from "../sessions";
import { inTransaction, oneByOne } from "../transaction";

/** Tokens: how a program comes in as the person who made one for it. Only the hash is kept; the token itself is shown the once. */

export type TokenScope = (typeof TOKEN_SCOPES)[number];

/** At a time, of one person. Our choice: one for each program and some more. */
const MOST = 20;
/** s between two marks that it is in use. */
const SEEN_EVERY = 300;

/** So that a token found in a file is known for what it is. */
const PREFIX = "gauge_";
const TOKEN = /^gauge_[\w-]{43}$/;

export interface TokenInput {
  name: string;
  scopes: readonly TokenScope[];
  /** It lasts so long. */
  days: number;
}

/** Still opens something. */
const lives = () => and(isNull(apiToken.revokedAt), gt(apiToken.expiresAt, sql`now()`));

/**
 * Makes a token. A repeat of the same command makes none, and can’t show again the one that was made.
 *
 * @returns what the program sends
 */
export async function makeToken(by: SignedIn, commandId: string, input: TokenInput): Promise<string> {
  needProven(by);
  const token = PREFIX + randomBytes(32).toString("base64url");
  const { name, scopes, days } = input;
  const outcome = await once(by, commandId, "token", input, async (tx) => {
    await oneByOne(tx, `tokens of ${by.id}`);
    const mine = and(eq(apiToken.workshopId, by.workshop.id), eq(apiToken.accountId, by.id));
    if ((await tx.$count(apiToken, and(mine, lives()))) >= MOST)
      throw new Refused(`You have ${MOST} tokens already. Withdraw one first.`);
    const at = moment();
    await tx.insert(apiToken).values({
      tokenHash: hashOf(token),
      id: commandId,
      workshopId: by.workshop.id,
      accountId: by.id,
      name,
      scopes: [...scopes],
      at,
      expiresAt: new Date(at.getTime() + days * 86_400_000),
    });
    await keepEvent(tx, { workshopId: by.workshop.id, what: "token", of: by.id, about: name });
  });
  if (outcome !== "done")
    throw new Refused("This token was made already, and can’t be shown again. Withdraw it, and make another.");
  return token;
}

/** Withdraws one’s own token; a lead anybody’s of the workshop. Twice is the same. */
export async function withdrawToken(by: SignedIn, id: string): Promise<void> {
  const all = may(by, "records");
  if (!all) need(by, "own");
  await inTransaction((tx) =>
    tx
      .update(apiToken)
      .set({ revokedAt: moment() })
      .where(
        and(
          eq(apiToken.workshopId, by.workshop.id),
          eq(apiToken.id, id),
          all ? undefined : eq(apiToken.accountId, by.id),
          isNull(apiToken.revokedAt),
        ),
      ),
  );
}

/** Tokens that open something, newest first: of one person, or of all. */
export async function tokensOf(workshopId: string, accountId?: string) {
  const rows = await database()
    .select({
      id: apiToken.id,
      name: apiToken.name,
      scopes: apiToken.scopes,
      at: apiToken.at,
      expiresAt: apiToken.expiresAt,
      usedAt: apiToken.usedAt,
      person: account.name,
      of: account.id,
    })
    .from(apiToken)
    .innerJoin(account, and(eq(account.workshopId, apiToken.workshopId), eq(account.id, apiToken.accountId)))
    .where(
      and(
        eq(apiToken.workshopId, workshopId),
        accountId ? eq(apiToken.accountId, accountId) : undefined,
        eq(account.active, true),
        lives(),
      ),
    )
    .orderBy(desc(apiToken.at));
  return rows.map(({ at, expiresAt, usedAt, ...rest }) => ({
    ...rest,
    at: at.toISOString(),
    expiresAt: expiresAt.toISOString(),
    usedAt: usedAt?.toISOString() ?? null,
  }));
}

export type ShownToken = Awaited<ReturnType<typeof tokensOf>>[number];

// Asked on every request of a program.
const tokenQuery = onceEach((db: Database) =>
  db
    .select({ ...PERSON, token: { id: apiToken.id, scopes: apiToken.scopes, usedAt: apiToken.usedAt } })
    .from(apiToken)
    .innerJoin(account, and(eq(account.workshopId, apiToken.workshopId), eq(account.id, apiToken.accountId)))
    .innerJoin(workshop, eq(workshop.id, apiToken.workshopId))
    .where(and(eq(apiToken.tokenHash, sql.placeholder("tokenHash")), lives(), eq(account.active, true)))
    .prepare("api_token"),
);

// Whose a token is never changes. Whether it opens anything still is asked every time.
const doors = new LRUCache<string, string>({ max: 10_000 });

export interface Program extends Person {
  readonly way: "program";
  readonly tokenId: string;
  readonly scopes: readonly TokenScope[];
}

/** Whom a request’s token speaks for: “Authorization: Bearer …” (RFC 6750). @returns null where it opens nothing, or there is none */
export async function programBehind(request: Request): Promise<Program | null> {
  const [, token] = /^Bearer +(\S+)$/i.exec(request.headers.get("Authorization") ?? "") ?? [];
  if (!token || !TOKEN.test(token)) return null;
  const tokenHash = hashOf(token);
  const workshopId = doors.get(tokenHash) ?? (await workshopBehind(database(), "program", tokenHash));
  if (!workshopId) return null;
  doors.set(tokenHash, workshopId);
  return inWorkshop(workshopId, async () => {
    const [row] = await tokenQuery(database()).execute({ tokenHash });
    if (!row) return null;
    const { token: own, ...person } = row;
    await markUsed(own.id, own.usedAt);
    return { ...person, way: "program", tokenId: own.id, scopes: own.scopes };
  });
}

async function markUsed(id: string, usedAt: Date | null): Promise<void> {
  if (usedAt && Date.now() - usedAt.getTime() < 1000 * SEEN_EVERY) return;
  await inTransaction((tx) => tx.update(apiToken).set({ usedAt: new Date() }).where(eq(apiToken.id, id)));
}
