import { createHash } from "node:crypto";
import { RateLimiterPostgres, RateLimiterRes } from "rate-limiter-flexible";
import { poolOf } from "../db/client";
import { outside } from "../db/wall";
import { database } from "./database";

/**
 * How wrong tries at signing in are slowed: some are free, then one try is let through per interval, and the interval doubles with
 * each wrong one. Counted in the database, so that every process counts alike.
 *
 * A device that has signed in to an account before has a count of its own: whoever guesses elsewhere can’t lock its owner out.
 */
export interface Tried {
  email: string;
  address: string;
  /** Hash of the device’s token, when this device has signed in to this account before. */
  device: string | null;
}

/** Wrong tries that cost nothing, within an hour. Our choice: room for slips and shared addresses, little for guessing. */
const FREE = { device: 8, pair: 5, account: 20, address: 60, all: 600 } as const;
type Scope = keyof typeof FREE;

const COUNTED_FOR = 3600;
const LONGEST_WAIT = 900;

/** Seconds until the next try is let through, after so many wrong ones beyond the free ones. */
export function waitAfter(over: number): number {
  return Math.min(LONGEST_WAIT, 2 ** Math.min(over + 1, 20));
}

let made: Record<"tries" | "turns" | "once", RateLimiterPostgres> | undefined;

function counters() {
  const counter = (keyPrefix: string, points: number, duration: number) =>
    new RateLimiterPostgres({
      storeClient: poolOf(database()),
      tableName: "sign_in_attempt",
      tableCreated: true,
      keyPrefix,
      points,
      duration,
    });
  made ??= {
    tries: counter("tries", 1_000_000, COUNTED_FOR),
    turns: counter("turn", 1, LONGEST_WAIT),
    once: counter("once", 1, COUNTED_FOR),
  };
  return made;
}

/** Hashed: no address or email stands in the table, and none is too long for it. */
function keysOf({ email, address, device }: Tried): [Scope, string][] {
  const key = (scope: Scope, ...parts: string[]): [Scope, string] => [
    scope,
    createHash("sha256")
      .update([scope, ...parts].join("\n"))
      .digest("base64url"),
  ];
  if (device) return [key("device", device)];
  return [key("pair", address, email), key("account", email), key("address", address), key("all")];
}

/**
 * Counts a try before the password is looked at, so that many at once count as many.
 *
 * @returns seconds to wait, 0 when it may go on
 * @throws what the store says when it fails: that is never “too many tries”
 */
export function takeTurn(tried: Tried): Promise<number> {
  return outside(() => countTurn(tried));
}

/** The same for secrets that are guessed at without anybody’s name: counted by where they come from. @param what is guessed at */
export const takeGuess = (what: string, address: string): Promise<number> =>
  takeTurn({ email: "", address: "", device: `${what} from ${address}` });

async function countTurn(tried: Tried): Promise<number> {
  const { tries, turns } = counters();
  const keys = keysOf(tried);
  const held = await Promise.all(keys.map(([, key]) => turns.get(key)));
  const wait = Math.max(0, ...held.map((h) => (h && h.consumedPoints > 0 ? h.msBeforeNext : 0)));
  if (wait > 0) return Math.ceil(wait / 1000);
  let longest = 0;
  for (const [scope, key] of keys) {
    const { consumedPoints } = await tries.penalty(key, 1);
    const over = consumedPoints - FREE[scope];
    if (over < 0) continue;
    try {
      await turns.consume(key, 1, { customDuration: waitAfter(over) });
    } catch (refused) {
      if (!(refused instanceof RateLimiterRes)) throw refused;
      longest = Math.max(longest, Math.ceil(refused.msBeforeNext / 1000));
    }
  }
  return longest;
}

/** The password was right: this person’s own slips are forgotten, and the try counts against nobody. */
export function forgiven(tried: Tried): Promise<void> {
  return outside(() => forget(tried));
}

async function forget(tried: Tried): Promise<void> {
  const { tries, turns } = counters();
  for (const [scope, key] of keysOf(tried)) {
    await turns.delete(key);
    if (scope === "device" || scope === "pair") await tries.delete(key);
    else await tries.reward(key, 1);
  }
}

/** Whether nobody was here with the same before, for so many seconds: of many at once one is told yes. @param what told apart by its hash */
export function useOnce(what: string, seconds: number): Promise<boolean> {
  const key = createHash("sha256").update(what).digest("base64url");
  return outside(async () => {
    try {
      await counters().once.consume(key, 1, { customDuration: seconds });
      return true;
    } catch (refused) {
      if (refused instanceof RateLimiterRes) return false;
      throw refused;
    }
  });
}
