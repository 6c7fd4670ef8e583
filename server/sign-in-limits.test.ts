import { randomUUID } from "node:crypto";
import { sql } from "drizzle-orm";
import { poolOf } from "../db/client";
import { database } from "./database";
import { forgiven, takeTurn, waitAfter } from "./sign-in-limits";

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

test("five tries are free, then each costs twice the wait before it", async () => {
  const me = somebody();
  expect(await tries(me, 5)).toEqual([0, 0, 0, 0, 0]);
  expect(await takeTurn(me)).toBeGreaterThan(0);
  await pass(3);
  expect(await takeTurn(me)).toBe(0);
  expect(await takeTurn(me)).toBe(4);
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
  await tries(guessed, 12);
  expect(await takeTurn(guessed)).toBeGreaterThan(0);
  expect(await takeTurn({ ...somebody(), address })).toBe(0);
  expect(await takeTurn({ ...guessed, device: randomUUID() })).toBe(0);
  expect(await takeTurn({ ...guessed, address: randomUUID() })).toBe(0);
});

test("guesses at one account from many addresses, and at many accounts from one address, are slowed too", async () => {
  const { email } = somebody();
  const spread = [];
  for (let i = 0; i < 24; i++) spread.push(await takeTurn({ ...somebody(), email }));
  expect(spread.slice(0, 20).every((wait) => wait === 0)).toBe(true);
  expect(spread.at(-1)).toBeGreaterThan(0);
  const { address } = somebody();
  const sprayed = [];
  for (let i = 0; i < 64; i++) sprayed.push(await takeTurn({ ...somebody(), address }));
  expect(sprayed.slice(0, 60).every((wait) => wait === 0)).toBe(true);
  expect(sprayed.at(-1)).toBeGreaterThan(0);
});

test("a right password forgets one’s own slips", async () => {
  const me = somebody();
  await tries(me, 5);
  await forgiven(me);
  expect(await tries(me, 5)).toEqual([0, 0, 0, 0, 0]);
});

test("a store that fails is never told as too many tries", async () => {
  await db.execute(sql`ALTER TABLE sign_in_attempt RENAME TO sign_in_attempt_away`);
  try {
    await expect(takeTurn(somebody())).rejects.toThrow();
  } finally {
    await db.execute(sql`ALTER TABLE sign_in_attempt_away RENAME TO sign_in_attempt`);
  }
});
