import { randomUUID } from "node:crypto";
import { count, eq, sql } from "drizzle-orm";
import { RateLimiterPostgres } from "rate-limiter-flexible";
import { poolOf } from "../db/client";
import { account, knownDevice, session } from "../db/schema";
import { DEMO_PASSWORD } from "../db/seed/people";
import { hashPassword, signIn, whoIs } from "./auth";
import { closeSession } from "./sessions";
import { database } from "./database";
import { personOf } from "./jobs/person-of";
import { forgiven, takeTurn, waitAfter } from "./sign-in-limits";

/** One file, since what is counted is counted for all: its tests run one after the other. */

const db = database();
afterAll(() => poolOf(db).end());

const somebody = () => ({ email: `${randomUUID()}@x.example`, address: randomUUID(), device: null });
const tries = async (tried: Parameters<typeof takeTurn>[0], times: number) => {
  const waits = [];
  for (let i = 0; i < times; i++) waits.push(await takeTurn(tried));
  return waits;
};
/** As if so many seconds had passed. */
const pass = (seconds: number) =>
  db.execute(sql`UPDATE sign_in_attempt SET expire = expire - ${1000 * seconds}::bigint`);
/** What must be waited, however long this machine takes between two lines of a test: asked a minute earlier, told without it. */
const MINUTE = 60;
async function held(tried: Parameters<typeof takeTurn>[0]): Promise<number> {
  await pass(-MINUTE);
  const wait = await takeTurn(tried);
  await pass(MINUTE);
  return wait === 0 ? 0 : wait - MINUTE;
}

test("five tries are free, then each costs twice the wait before it", async () => {
  const me = somebody();
  expect(await tries(me, 5)).toEqual([0, 0, 0, 0, 0]);
  expect(await held(me)).not.toBe(0);
  await pass(3);
  expect(await takeTurn(me)).toBe(0);
  const wait = await held(me);
  expect(wait).not.toBe(0);
  expect(wait).toBeLessThanOrEqual(4);
  expect([0, 1, 2, 8, 50].map(waitAfter)).toEqual([2, 4, 8, 512, 900]);
});

test("many at once count as many: no more than the free ones get through", async () => {
  const me = somebody();
  const through = (await Promise.all(Array.from({ length: 30 }, () => takeTurn(me)))).filter((wait) => wait === 0);
  expect(through.length).toBeLessThanOrEqual(5);
});

test("one person’s wrong tries hold up nobody else at the same address, nor their owner on a device known before", async () => {
  const address = randomUUID();
  const guessed = { ...somebody(), address };
  await tries(guessed, 6);
  expect(await held(guessed)).not.toBe(0);
  expect(await takeTurn({ ...somebody(), address })).toBe(0);
  expect(await takeTurn({ ...guessed, device: randomUUID() })).toBe(0);
  expect(await takeTurn({ ...guessed, address: randomUUID() })).toBe(0);
});

test("guesses at one account from many addresses, and at many accounts from one address, are slowed too", async () => {
  const { email } = somebody();
  const spread = [];
  for (let i = 0; i < 20; i++) spread.push(await takeTurn({ ...somebody(), email }));
  expect(spread.every((wait) => wait === 0)).toBe(true);
  expect(await held({ ...somebody(), email })).not.toBe(0);
  const { address } = somebody();
  const sprayed = [];
  for (let i = 0; i < 60; i++) sprayed.push(await takeTurn({ ...somebody(), address }));
  expect(sprayed.every((wait) => wait === 0)).toBe(true);
  expect(await held({ ...somebody(), address })).not.toBe(0);
});

test("a right password forgets one’s own slips", async () => {
  const me = somebody();
  await tries(me, 5);
  await forgiven(me);
  expect(await tries(me, 5)).toEqual([0, 0, 0, 0, 0]);
});

test("a store that fails is never told as too many tries", async () => {
  const { get } = RateLimiterPostgres.prototype;
  RateLimiterPostgres.prototype.get = () => Promise.reject(new Error("the store is broken"));
  try {
    await expect(takeTurn(somebody())).rejects.toThrow("the store is broken");
  } finally {
    RateLimiterPostgres.prototype.get = get;
  }
});

/** Signing in, with the cookies a browser would keep. */

let email: string;
let accountId: string;

beforeAll(async () => {
  const { workshop } = await personOf("ilka@lowtide.example");
  [email, accountId] = [`${randomUUID()}@lowtide.example`, randomUUID()];
  await db.insert(account).values({
    id: accountId,
    workshopId: workshop.id,
    email,
    name: "Signing In",
    role: "technician",
    passwordHash: await hashPassword(DEMO_PASSWORD),
    preferences: { pressureUnit: "bar", theme: "system" },
  });
});

const from = (cookies: string[] = []) =>
  new Request("http://here.invalid/sign-in", { headers: { Cookie: cookies.map((c) => c.split(";")[0]).join("; ") } });

/** A try from an address of its own, unless one is named. */
const tryIn = (password: string, cookies: string[] = [], address: string = randomUUID()) =>
  signIn(from(cookies), { email, password, address });

async function cookiesOf(answer: Awaited<ReturnType<typeof tryIn>>): Promise<string[]> {
  if (!answer.ok) throw new Error(answer.message);
  return answer.cookies;
}

test("a session is the person’s until it is ended or has run out; another’s token opens nothing", async () => {
  const cookies = await cookiesOf(await tryIn(DEMO_PASSWORD));
  for (const cookie of cookies) expect(cookie).toMatch(/; Max-Age=\d+; Path=\/; HttpOnly; SameSite=Lax$/);
  expect(await whoIs(from(cookies))).toMatchObject({ id: accountId, name: "Signing In" });
  expect(await whoIs(from())).toBeNull();
  expect(await whoIs(from(["ng_session=" + "a".repeat(43)]))).toBeNull();
  await db
    .update(session)
    .set({ expiresAt: new Date(Date.now() - 1000) })
    .where(eq(session.accountId, accountId));
  expect(await whoIs(from(cookies))).toBeNull();

  const again = await cookiesOf(await tryIn(DEMO_PASSWORD, cookies));
  expect(await whoIs(from(again))).not.toBeNull();
  expect(await closeSession(from(again))).toContain("Max-Age=0");
  expect(await whoIs(from(again))).toBeNull();
});

test("whoever guesses at an account, from wherever, does not lock out the device that has signed in to it before", async () => {
  const cookies = await cookiesOf(await tryIn(DEMO_PASSWORD));
  for (let i = 0; i < 20; i++) await tryIn(`guess ${i}`);
  await pass(-MINUTE);
  expect(await tryIn("guess 20")).toMatchObject({ message: expect.stringContaining("Too many wrong tries. Wait") });
  // A stranger’s device waits its turn, even with the right password; a known one does not.
  expect(await tryIn(DEMO_PASSWORD)).toMatchObject({ ok: false });
  expect(await tryIn(DEMO_PASSWORD, cookies)).toMatchObject({ ok: true });
  await db.execute(sql`DELETE FROM sign_in_attempt`);
});

test("an account that is closed opens nothing, and says no more than a wrong password does", async () => {
  const wrong = await tryIn("wrong");
  await db.update(account).set({ active: false }).where(eq(account.id, accountId));
  expect(await tryIn(DEMO_PASSWORD)).toEqual(wrong);
  await db.update(account).set({ active: true }).where(eq(account.id, accountId));
});

test("devices are remembered, the twenty newest of them", async () => {
  for (let i = 0; i < 23; i++) await cookiesOf(await tryIn(DEMO_PASSWORD));
  const [kept] = await db.select({ n: count() }).from(knownDevice).where(eq(knownDevice.accountId, accountId));
  expect(kept!.n).toBe(20);
});
