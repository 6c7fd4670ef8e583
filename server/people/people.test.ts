import { randomUUID } from "node:crypto";
import { cpSync, mkdtempSync, readFileSync, readdirSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { jest } from "@jest/globals";
import { eq, isNotNull, sql } from "drizzle-orm";
import { TOTP, Secret } from "otpauth";
import { poolOf } from "../../db/client";
import { account, benchTablet, oneTimeLink, session, workshop } from "../../db/schema";
import { type SignedIn, hashPassword, signIn, whoIs } from "../auth";
import { database } from "../database";
import { personOf } from "../jobs/person-of";
import { closeSession, endSession, endSessions, isOpen, sessionsOf } from "../sessions";
import { makeToken, programBehind } from "../api/tokens";
import { KEY_FOLDER, open } from "../keys";
import { inTransaction } from "../transaction";
import { linkOf, openLinks, takeLink } from "./links";
import { changePassword, invite, peopleOf, requireFactor, resetLink, setActive, setRole, withdrawLink } from "./people";
import { keepPreferences } from "./preferences";
import { eventsOf } from "./events";
import { renewSealKey } from "./reseal";
import { endOpener, opensOf } from "./opens";
import { proveAgain } from "./proven";
import { enrol, forget, isGuessed, setPin, switchTo, switchable, tabletOf } from "./quick-switch";
import { switchOff, switchOn } from "./factor-switch";
import { codeHolds, newSecret, stepOf } from "./second-factor";

/** People of a workshop of this test’s own: asked in, let go, their passwords, sessions, second factor and PINs. */

const db = database();
const PHRASE = "three wet towels";
const OTHER = "nine dry saucers";
let lead: SignedIn;
let stranger: SignedIn;

beforeAll(async () => {
  stranger = await personOf("runa@chandlery.example");
  const [workshopId, id] = [randomUUID(), randomUUID()];
  await db.insert(workshop).values({ id: workshopId, name: "Quay Works", town: "Saltby", contact: "" });
  const email = `lead-${id}@quay.example`;
  const preferences = { pressureUnit: "bar", theme: "system" } as const;
  const own = { id, workshopId, email, name: "Oda Lind", role: "lead", preferences } as const;
  await db.insert(account).values({ ...own, passwordHash: await hashPassword(PHRASE) });
  lead = await personOf(email);
});
afterAll(() => poolOf(db).end());

const asked = (cookies: readonly string[] = [], agent = "") =>
  new Request("http://site.example/", {
    headers: { Cookie: cookies.map((c) => c.split(";")[0]).join("; "), "User-Agent": agent },
  });
const someone = () => `${randomUUID()}@quay.example`;
const address = () => randomUUID();

/** Somebody new, come in by a link. */
async function member(role: SignedIn["role"] = "technician") {
  const email = someone();
  const { token } = await invite(lead, randomUUID(), { name: "Per Holm", email, role });
  const cookies = await takeLink(asked(), token!, { name: "Per Holm", password: PHRASE });
  return { email, cookies, person: (await whoIs(asked(cookies)))! };
}
const enter = async (email: string, password = PHRASE, code?: string) =>
  signIn(asked(), { email, password, code, address: address() });

describe("asked in", () => {
  test("by a link that is good once: then it opens nothing, and the account works", async () => {
    const email = someone();
    const id = randomUUID();
    const made = await invite(lead, id, { name: "Per", email: ` ${email.toUpperCase()} `, role: "technician" });
    expect(made.outcome).toBe("done");
    expect(await linkOf(made.token!)).toMatchObject({ what: "invite", email, workshop: { name: "Quay Works" } });
    expect((await openLinks(lead.workshop.id)).map((l) => l.id)).toContain(id);
    // The same command again makes no other link, and shows none.
    expect(await invite(lead, id, { name: "Per", email: ` ${email.toUpperCase()} `, role: "technician" })).toEqual({
      outcome: "repeated",
      token: null,
    });
    const weak = takeLink(asked(), made.token!, { name: "Per Holm", password: "short" });
    await expect(weak).rejects.toMatchObject({ field: "password" });
    const cookies = await takeLink(asked(), made.token!, { name: "Per Holm", password: PHRASE });
    expect(await whoIs(asked(cookies))).toMatchObject({
      name: "Per Holm",
      role: "technician",
      way: "password",
      workshop: { id: lead.workshop.id },
    });
    expect(await linkOf(made.token!)).toBeUndefined();
    await expect(takeLink(asked(), made.token!, { name: "X", password: OTHER })).rejects.toThrow("used already");
    expect(await enter(email)).toMatchObject({ ok: true });
  });

  test("two who take one link at once: one account, one is told", async () => {
    const { token } = await invite(lead, randomUUID(), { name: "Per", email: someone(), role: "technician" });
    const both = await Promise.allSettled(
      [1, 2].map(() => takeLink(asked(), token!, { name: "Per Holm", password: PHRASE })),
    );
    expect(both.map((b) => b.status).sort()).toEqual(["fulfilled", "rejected"]);
  });

  test("too old, withdrawn, or followed by a newer one: it opens nothing", async () => {
    const email = someone();
    const first = await invite(lead, randomUUID(), { name: "Per", email, role: "technician" });
    const id = randomUUID();
    const second = await invite(lead, id, { name: "Per", email, role: "technician" });
    expect(await linkOf(first.token!)).toBeUndefined();
    expect(await linkOf(second.token!)).toBeDefined();
    // Somebody else’s workshop can’t withdraw it.
    await withdrawLink(stranger, randomUUID(), id);
    expect(await linkOf(second.token!)).toBeDefined();
    await withdrawLink(lead, randomUUID(), id);
    expect(await linkOf(second.token!)).toBeUndefined();
    const third = await invite(lead, randomUUID(), { name: "Per", email, role: "technician" });
    await db
      .update(oneTimeLink)
      .set({ expiresAt: new Date(Date.now() - 1000) })
      .where(eq(oneTimeLink.email, email));
    expect(await linkOf(third.token!)).toBeUndefined();
    for (const none of ["", "x", "../..", "a".repeat(43)]) expect(await linkOf(none)).toBeUndefined();
  });

  test("an address that has an account is refused; so is whoever is no lead, or here by PIN", async () => {
    const { email, person } = await member();
    const again = { name: "Per", email, role: "technician" } as const;
    await expect(invite(lead, randomUUID(), again)).rejects.toMatchObject({ field: "email" });
    await expect(invite(person, randomUUID(), { ...again, email: someone() })).rejects.toMatchObject({ status: 403 });
    const byPin = { ...lead, way: "pin" } as const;
    await expect(invite(byPin, randomUUID(), { ...again, email: someone() })).rejects.toMatchObject({ status: 403 });
  });
});

describe("roles, and letting go", () => {
  test("a role counts from the next request on; the last lead stays", async () => {
    const { cookies, person } = await member();
    await setRole(lead, randomUUID(), person.id, "lead");
    expect((await whoIs(asked(cookies)))!.role).toBe("lead");
    await setRole(lead, randomUUID(), person.id, "technician");
    expect((await whoIs(asked(cookies)))!.role).toBe("technician");
    await expect(setRole(lead, randomUUID(), lead.id, "technician")).rejects.toThrow("last lead stays");
    await expect(setActive(lead, randomUUID(), lead.id, false)).rejects.toThrow("last lead stays");
    await expect(setRole(stranger, randomUUID(), person.id, "lead")).rejects.toThrow("Nobody of this workshop");
  });

  test("two leads who let each other go at once: one of them stays", async () => {
    const [a, b] = [await member("lead"), await member("lead")];
    const leads = [a.person, b.person].map((p) => ({ ...p, role: "lead" as const }));
    await setRole({ ...lead, role: "lead" }, randomUUID(), a.person.id, "lead");
    await db.update(account).set({ active: false }).where(eq(account.id, lead.id));
    await Promise.allSettled([
      setActive(leads[0]!, randomUUID(), leads[1]!.id, false),
      setActive(leads[1]!, randomUUID(), leads[0]!.id, false),
    ]);
    const left = (await peopleOf(lead.workshop.id)).filter((p) => p.active && p.role === "lead");
    expect(left).toHaveLength(1);
    await db.update(account).set({ active: true }).where(eq(account.id, lead.id));
    for (const p of leads) await db.update(account).set({ role: "technician" }).where(eq(account.id, p.id));
  });

  test("whoever is let go is out at once, everywhere, and comes in no more until taken in again", async () => {
    const { email, cookies, person } = await member();
    const second = await enter(email);
    expect(second.ok).toBe(true);
    expect((await peopleOf(lead.workshop.id)).find((p) => p.id === person.id)!.sessions).toBe(2);
    await setActive(lead, randomUUID(), person.id, false);
    expect(await whoIs(asked(cookies))).toBeNull();
    expect(await isOpen(person.sessionId)).toBe(false);
    expect(await enter(email)).toMatchObject({ ok: false, message: expect.stringContaining("do not match") });
    await expect(resetLink(lead, randomUUID(), person.id)).rejects.toThrow("let go");
    await setActive(lead, randomUUID(), person.id, true);
    expect(await enter(email)).toMatchObject({ ok: true });
  });
});

describe("passwords", () => {
  test("changed with the present one; every other session ends, this one stays", async () => {
    const { email, cookies, person } = await member();
    const elsewhere = await enter(email);
    await expect(changePassword(person, { now: OTHER, next: OTHER })).rejects.toMatchObject({ field: "now" });
    await expect(changePassword(person, { now: PHRASE, next: "password1234" })).rejects.toMatchObject({
      field: "next",
    });
    await changePassword(person, { now: PHRASE, next: OTHER });
    expect(await whoIs(asked(cookies))).not.toBeNull();
    expect(elsewhere.ok && (await whoIs(asked(elsewhere.cookies)))).toBeNull();
    expect(await enter(email)).toMatchObject({ ok: false });
    expect(await enter(email, OTHER)).toMatchObject({ ok: true });
  });

  test("a session left open is no place to guess the password: wrong tries are slowed", async () => {
    const { person } = await member();
    const said: string[] = [];
    for (let i = 0; i < 9; i++)
      await changePassword(person, { now: `guess number ${i}`, next: OTHER }).catch((e: Error) => said.push(e.message));
    expect(said[0]).toContain("not your password");
    expect(said.at(-1)).toContain("Too many wrong tries");
    await expect(changePassword(person, { now: PHRASE, next: OTHER })).rejects.toThrow("Too many wrong tries");
  });

  test("a lead’s link sets a new one: once; sessions, second factor and PIN go with the old", async () => {
    const { email, cookies, person } = await member();
    const { secret } = newSecret(email);
    await switchOn(person, secret, codeOf(secret));
    await setPin(person, "2580");
    const { token } = await resetLink(lead, randomUUID(), person.id);
    expect(await linkOf(token!)).toMatchObject({ what: "reset", email });
    const fresh = await takeLink(asked(), token!, { name: "", password: OTHER });
    expect(await whoIs(asked(fresh))).toMatchObject({ id: person.id, name: "Per Holm" });
    expect(await whoIs(asked(cookies))).toBeNull();
    const [row] = await db.select().from(account).where(eq(account.id, person.id));
    expect(row).toMatchObject({ totpSecret: null, pinHash: null, recovery: [] });
    await expect(takeLink(asked(), token!, { name: "", password: PHRASE })).rejects.toThrow("used already");
  });
});

describe("sessions", () => {
  test("each has its own id, says where it is, and ends there or everywhere", async () => {
    const { email, person } = await member();
    const phone =
      "Mozilla/5.0 (Linux; Android 13) AppleWebKit/537.36 (KHTML, like Gecko) Chrome/120.0 Mobile Safari/537.36";
    const there = await signIn(asked([], phone), { email, password: PHRASE, address: address() });
    if (!there.ok) throw new Error("refused");
    const list = await sessionsOf(person.id, person.sessionId);
    expect(list).toHaveLength(2);
    expect(list.find((s) => s.here)!.id).toBe(person.sessionId);
    const lost = list.find((s) => !s.here)!;
    expect(lost.about).toBe("Chrome on Android");
    // Somebody else’s is not theirs to end.
    await endSession(lead.id, lost.id);
    expect(await whoIs(asked(there.cookies))).not.toBeNull();
    await endSession(person.id, lost.id);
    expect(await whoIs(asked(there.cookies))).toBeNull();
    await enter(email);
    await inTransaction((tx) => endSessions(tx, person.id, person.sessionId));
    expect((await sessionsOf(person.id, person.sessionId)).map((s) => s.here)).toEqual([true]);
  });

  test("signing in over an open session ends that one: no id is carried through the door", async () => {
    const { email, cookies } = await member();
    const again = await signIn(asked(cookies), { email, password: PHRASE, address: address() });
    expect(again.ok).toBe(true);
    expect(await whoIs(asked(cookies))).toBeNull();
  });

  test("idle too long, or too old, it opens nothing, however much it was used", async () => {
    const { cookies, person } = await member();
    const set = (column: "seen_at" | "expires_at", back: string) =>
      db.execute(
        sql`update session set ${sql.identifier(column)} = now() - ${back}::interval where id = ${person.sessionId}`,
      );
    await set("seen_at", "71 hours");
    expect(await whoIs(asked(cookies))).not.toBeNull();
    // Looked at, it is in use again.
    const [row] = await db.select().from(session).where(eq(session.id, person.sessionId));
    expect(Date.now() - row!.seenAt.getTime()).toBeLessThan(60_000);
    await set("seen_at", "73 hours");
    expect(await whoIs(asked(cookies))).toBeNull();
    expect(await isOpen(person.sessionId)).toBe(false);
    await set("seen_at", "0 s");
    await set("expires_at", "1 s");
    expect(await whoIs(asked(cookies))).toBeNull();
  });

  test("with a clock of its own that is an hour wrong the application lets nobody stay longer, and signs nobody out", async () => {
    const { email, cookies, person } = await member();
    await setPin(person, "2580");
    const tablet = await enrol(asked(cookies), person, "Window");
    const real = Date.now;
    for (const off of [-3_600_000, 3_600_000]) {
      const clock = jest.spyOn(Date, "now").mockImplementation(() => real() + off);
      try {
        const there = await enter(email);
        const byPin = await switchTo(asked([tablet]), person.id, "2580");
        const open = there.ok ? (await whoIs(asked(there.cookies)))! : null;
        expect(open).toMatchObject({ id: person.id, proven: true });
        expect(await whoIs(asked([tablet, byPin]))).not.toBeNull();
        await db.execute(
          sql`update session set seen_at = now() - interval '10 minutes' where account_id = ${person.id}`,
        );
        expect(await whoIs(asked([tablet, byPin]))).not.toBeNull();
        const { rows } = await db.execute<{ fresh: boolean; most: boolean }>(sql`
          select seen_at > now() - interval '1 minute' as fresh, expires_at between now() + interval '23 hours' and now() + interval '25 hours' as most
          from session where account_id = ${person.id} and way = 'pin' order by created_at desc limit 1`);
        expect(rows[0]).toEqual({ fresh: true, most: true });
        await db.execute(
          sql`update session set seen_at = now() - interval '61 minutes' where account_id = ${person.id} and way = 'pin'`,
        );
        expect(await whoIs(asked([tablet, byPin]))).toBeNull();
      } finally {
        clock.mockRestore();
      }
    }
    // A phone’s code of now is none an hour off, and is not used up by being tried.
    const { secret } = newSecret(email);
    expect(stepOf(secret, codeOf(secret), real() - 3_600_000)).toBeNull();
    expect(stepOf(secret, codeOf(secret))).not.toBeNull();
  });

  test("behind TLS cookies travel over TLS alone, and say so in their name", async () => {
    const cookie = await closeSession(new Request("https://site.example/"));
    expect(cookie).toMatch(/^__Host-ng_session=; .*Secure/);
    expect(await closeSession(asked())).not.toMatch(/Secure/);
  });
});

const codeOf = (secret: string, at = Date.now()) =>
  new TOTP({ secret: Secret.fromBase32(secret) }).generate({ timestamp: at });

describe("second factor", () => {
  // RFC 6238, appendix B, SHA-1: the last six of eight digits (published).
  test.each([
    [59, "287082"],
    [1111111109, "081804"],
    [1111111111, "050471"],
    [2000000000, "279037"],
  ])("RFC 6238, appendix B: at %p s the code is %p", (seconds, code) => {
    const secret = new Secret({ buffer: new TextEncoder().encode("12345678901234567890").buffer as ArrayBuffer })
      .base32;
    expect(stepOf(secret, code, 1000 * seconds)).toBe(Math.floor(seconds / 30));
    expect(stepOf(secret, code, 1000 * (seconds + 90))).toBeNull();
    expect(stepOf(secret, "not a code", 1000 * seconds)).toBeNull();
  });

  test("asked for at the door, each code once; a code on paper too; off again with one", async () => {
    const { email, person } = await member();
    const { secret } = newSecret(email);
    expect(await switchOn(person, secret, "000000")).toBeNull();
    const codes = (await switchOn(person, secret, codeOf(secret)))!;
    expect(new Set(codes).size).toBe(8);
    const [row] = await db.select().from(account).where(eq(account.id, person.id));
    expect(row!.totpSecret).not.toContain(secret);
    expect(JSON.stringify(row!.recovery)).not.toContain(codes[0]!);

    expect(await enter(email)).toMatchObject({ ok: false, code: true });
    expect(await enter(email, PHRASE, "123456")).toMatchObject({ ok: false, code: true });
    // The code that switched it on was used by that.
    expect(await enter(email, PHRASE, codeOf(secret))).toMatchObject({ ok: false });
    const next = codeOf(secret, Date.now() + 30_000);
    expect(await enter(email, PHRASE, next)).toMatchObject({ ok: true });
    expect(await enter(email, PHRASE, next)).toMatchObject({ ok: false });
    expect(await enter(email, PHRASE, codes[3]!.toLowerCase())).toMatchObject({ ok: true });
    expect(await enter(email, PHRASE, codes[3]!)).toMatchObject({ ok: false });
    // A wrong password is not told apart by asking for a code.
    expect(await enter(email, OTHER)).not.toHaveProperty("code");
    expect(await codeHolds(person.id, row!.totpSecret!, codes[0]!)).toBe(true);
    await switchOff(person);
    expect(await enter(email)).toMatchObject({ ok: true });
  });

  test("the key of the secrets is renewed, as a drill: phones go on working, visits that were signed are proven still", async () => {
    const folder = mkdtempSync(join(tmpdir(), "keys-"));
    const before = process.env.KEY_FOLDER;
    try {
      cpSync(KEY_FOLDER(), folder, { recursive: true });
      const { email, person } = await member();
      const { secret } = newSecret(email);
      await switchOn(person, secret, codeOf(secret));
      const secretsOf = () =>
        db.select({ id: account.id, sealed: account.totpSecret }).from(account).where(isNotNull(account.totpSecret));
      const was = await secretsOf();
      process.env.KEY_FOLDER = folder;
      const key = readFileSync(join(folder, "seal.key"), "utf8");
      // A transaction of its own, taken back: other tests have their secrets under the other key.
      await db
        .transaction(async (tx) => {
          expect(await renewSealKey(tx as unknown as typeof db)).toBe(was.length);
          const [row] = await tx.select({ sealed: account.totpSecret }).from(account).where(eq(account.id, person.id));
          expect(row!.sealed).not.toBe(was.find((w) => w.id === person.id)!.sealed);
          expect(open(row!.sealed!)).toBe(secret);
          tx.rollback();
        })
        .catch((error: Error) => {
          if (!/rollback/i.test(error.message)) throw error;
        });
      expect(readFileSync(join(folder, "seal.key"), "utf8")).not.toBe(key);
      expect(readdirSync(folder).filter((name) => name.startsWith("seal"))).toEqual(["seal.key"]);
      expect(readdirSync(folder).filter((name) => name.endsWith(".pem"))).toEqual(
        readdirSync(before ?? KEY_FOLDER()).filter((name) => name.endsWith(".pem")),
      );
    } finally {
      if (before === undefined) delete process.env.KEY_FOLDER;
      else process.env.KEY_FOLDER = before;
      rmSync(folder, { recursive: true });
    }
  });

  test("a right password buys no free guesses at the code", async () => {
    const { email, person } = await member();
    const { secret } = newSecret(email);
    await switchOn(person, secret, codeOf(secret));
    const from = address();
    const tried = [];
    for (let i = 0; i < 12; i++)
      tried.push(await signIn(asked(), { email, password: PHRASE, code: i % 2 ? "111111" : undefined, address: from }));
    expect(tried.some((t) => !t.ok && t.retryAfter)).toBe(true);
  });
});

describe("the quick switch", () => {
  async function tablet() {
    const cookie = await enrol(asked(), lead, "Bench tablet");
    return { request: asked([cookie]), cookie };
  }

  test("on a tablet of the workshop, by PIN, for the work alone; a lead is a technician then", async () => {
    const { request, cookie } = await tablet();
    const { person } = await member("lead");
    expect(await tabletOf(request)).toMatchObject({ name: "Bench tablet", workshop: "Quay Works" });
    for (const bad of ["12", "1234567", "12a4", "1234", "8888", "9876"])
      await expect(setPin(person, bad)).rejects.toMatchObject({ field: "pin" });
    await setPin(person, "2580");
    expect((await switchable(lead.workshop.id)).map((p) => p.id)).toContain(person.id);
    await expect(switchTo(request, person.id, "2581")).rejects.toMatchObject({ field: "pin" });
    const session_ = await switchTo(request, person.id, "2580");
    const here = (await whoIs(asked([session_, cookie])))!;
    expect(here).toMatchObject({ id: person.id, role: "technician", way: "pin" });
    await expect(changePassword(here, { now: PHRASE, next: OTHER })).rejects.toMatchObject({ status: 403 });
    await expect(setPin(here, null)).rejects.toMatchObject({ status: 403 });
    await db.execute(sql`update session set seen_at = now() - interval '61 min' where id = ${here.sessionId}`);
    expect(await whoIs(asked([session_, cookie]))).toBeNull();
  });

  test("elsewhere a PIN opens nothing, nor for somebody of another workshop, nor for whoever has none", async () => {
    const { request } = await tablet();
    const { person } = await member();
    await expect(switchTo(asked(), person.id, "2580")).rejects.toMatchObject({ status: 403 });
    await expect(switchTo(request, person.id, "2580")).rejects.toThrow("not the PIN");
    await expect(switchTo(request, stranger.id, "2580")).rejects.toThrow("not the PIN");
  });

  test("guesses are slowed, by whichever way they come", async () => {
    const { request } = await tablet();
    const { person } = await member();
    await setPin(person, "2580");
    const said: string[] = [];
    for (let i = 0; i < 8; i++)
      await switchTo(request, person.id, String(3000 + i)).catch((error: Error) => said.push(error.message));
    expect(said.at(-1)).toContain("Too many wrong tries");
    await expect(switchTo(request, person.id, "2580")).rejects.toThrow("Too many wrong tries");
  });

  test("a tablet that is none any more takes the sessions opened on it along", async () => {
    const { request, cookie } = await tablet();
    const { person } = await member();
    await setPin(person, "2580");
    const own = await switchTo(request, person.id, "2580");
    expect(await whoIs(asked([own, cookie]))).not.toBeNull();
    const [row] = await db
      .select()
      .from(benchTablet)
      .where(eq(benchTablet.tokenHash, (await tabletOf(request))!.tokenHash));
    await forget(stranger, row!.id);
    expect(await tabletOf(request)).toBeDefined();
    await forget(lead, row!.id);
    expect(await tabletOf(request)).toBeUndefined();
    expect(await whoIs(asked([own, cookie]))).toBeNull();
  });
});

test("what is set on two devices in the same moment is all kept", async () => {
  const { email, person } = await member();
  const kept = async () => (await personOf(email)).preferences;
  const before = await kept();
  const keys = { off: true, own: {} };
  const alerts = { sound: false, notify: "off" } as const;
  for (let i = 0; i < 10; i++) {
    await Promise.all([keepPreferences(person, { keys }), keepPreferences(person, { alerts })]);
    expect(await kept()).toEqual({ ...before, keys, alerts });
    await Promise.all([keepPreferences(person, { theme: "dark" }), keepPreferences(person, { keys: { own: {} } })]);
    expect(await kept()).toEqual({ ...before, theme: "dark", keys: { own: {} }, alerts });
    expect(person.preferences).toMatchObject({ alerts });
    await db.update(account).set({ preferences: before }).where(eq(account.id, person.id));
  }
});

describe("what opens an account", () => {
  const unproven = async (person: SignedIn, cookies: readonly string[]) => {
    await db.execute(sql`update session set proven_at = now() - interval '11 minutes' where id = ${person.sessionId}`);
    return (await whoIs(asked(cookies)))!;
  };

  test("a session alone changes nothing of it: the password was shown in the last ten minutes, or is asked for again", async () => {
    const { email, cookies, person } = await member();
    expect(person.proven).toBe(true);
    const later = await unproven(person, cookies);
    expect(later.proven).toBe(false);
    const { secret } = newSecret(email);
    const token = { name: "Till", scopes: ["read"] as const, days: 30 };
    for (const attempt of [
      () => setPin(later, "2580"),
      () => enrol(asked(cookies), later, "Window"),
      () => switchOn(later, secret, codeOf(secret)),
      () => switchOff(later),
      () => makeToken(later, randomUUID(), token),
    ])
      await expect(attempt()).rejects.toMatchObject({ status: 403, message: expect.stringContaining("once more") });
    await expect(proveAgain(later, OTHER)).rejects.toMatchObject({ field: "again" });
    expect((await whoIs(asked(cookies)))!.proven).toBe(false);
    await proveAgain(later, PHRASE);
    await setPin((await whoIs(asked(cookies)))!, "2580");
  });

  test("a second factor that is on is not replaced by another one", async () => {
    const { email, person } = await member();
    const [first, second] = [newSecret(email).secret, newSecret(email).secret];
    await switchOn(person, first, codeOf(first));
    await expect(switchOn(person, second, codeOf(second))).rejects.toMatchObject({ field: "code" });
    const [row] = await db.select().from(account).where(eq(account.id, person.id));
    expect(await codeHolds(person.id, row!.totpSecret!, codeOf(first, Date.now() + 30_000))).toBe(true);
  });

  /** Signed in elsewhere, by PIN on a tablet of their own, and by a program. */
  async function everywhere() {
    const { email, cookies, person } = await member();
    const there = await enter(email);
    await setPin(person, "2580");
    const tablet = await enrol(asked(cookies), person, "Window");
    const byPin = await switchTo(asked([tablet]), person.id, "2580");
    const token = await makeToken(person, randomUUID(), { name: "Till", scopes: ["read"], days: 30 });
    const program = new Request("http://site.example/", { headers: { Authorization: `Bearer ${token}` } });
    const open = async () => [
      (await whoIs(asked(there.ok ? there.cookies : []))) !== null,
      (await whoIs(asked([tablet, byPin]))) !== null,
      (await programBehind(program)) !== null,
      (await tabletOf(asked([tablet]))) !== undefined,
    ];
    expect(await open()).toEqual([true, true, true, true]);
    return { email, cookies, person, open };
  }
  const NONE = [false, false, false, false];

  test("a new password of one’s own ends all of it but the session that asks", async () => {
    const { cookies, person, open } = await everywhere();
    await changePassword(person, { now: PHRASE, next: OTHER });
    expect(await open()).toEqual(NONE);
    expect(await whoIs(asked(cookies))).not.toBeNull();
  });

  test("a lead’s link for a new password ends all of it once it is used; being let go at once", async () => {
    const reset = await everywhere();
    const { token } = await resetLink(lead, randomUUID(), reset.person.id);
    await takeLink(asked(), token!, { name: "", password: OTHER });
    expect(await reset.open()).toEqual(NONE);
    const gone = await everywhere();
    await setActive(lead, randomUUID(), gone.person.id, false);
    await setActive(lead, randomUUID(), gone.person.id, true);
    expect(await gone.open()).toEqual(NONE);
  });

  test("a lead sees all of it and ends one by one; a technician, and a lead of another workshop, end nothing", async () => {
    const { person, open } = await everywhere();
    const all = (await opensOf(lead.workshop.id)).get(person.id)!;
    expect(all.map((o) => o.what).sort()).toEqual(["pin", "session", "session", "session", "tablet", "token"]);
    for (const by of [person, stranger])
      for (const one of all) await expect(endOpener(by, person.id, one)).rejects.toThrow();
    expect(await open()).toEqual([true, true, true, true]);
    for (const one of all) await endOpener(lead, person.id, one);
    expect(await open()).toEqual(NONE);
    expect((await opensOf(lead.workshop.id)).get(person.id)).toBeUndefined();
  });

  test("each is kept for the lead, without a secret in it", async () => {
    const { email, person } = await everywhere();
    await enter(email, OTHER);
    await setRole(lead, randomUUID(), person.id, "lead");
    const events = (await eventsOf(lead.workshop.id, 500)).filter((e) => e.name === "Per Holm");
    const said = events.map((e) => e.said).join("; ");
    for (const what of [
      "signed in",
      "wrong password",
      "new PIN",
      "a tablet of the workshop",
      "by PIN",
      "token",
      "role",
    ])
      expect(said).toContain(what);
    expect(events.find((e) => e.said.includes("role"))).toMatchObject({ by: "Oda Lind", about: "lead" });
    const { rows } = await db.execute(sql`select * from account_event where workshop_id = ${lead.workshop.id}`);
    // Ids and moments are digits too: four of them may be anybody’s PIN.
    const kept = JSON.stringify(rows).replace(/"[0-9a-f]{8}-[0-9a-f-]{27}"|"\d{4}-\d\d-\d\d[T ][^"]*"/g, "");
    for (const secret of ["2580", PHRASE, OTHER, email, "gauge_"]) expect(kept).not.toContain(secret);
  });

  test("a workshop that asks for a second factor is told of whoever has none", async () => {
    const { cookies } = await member();
    await requireFactor(lead, true);
    expect((await whoIs(asked(cookies)))!.needsFactor).toBe(true);
    await requireFactor(lead, false);
    expect((await whoIs(asked(cookies)))!.needsFactor).toBe(false);
  });

  test.each([
    "1234",
    "4321",
    "0000",
    "1212",
    "1221",
    "1122",
    "1987",
    "2026",
    "3112",
    "1231",
    "2468",
    "311299",
    "123123",
    "121212",
    "991231",
  ])("the PIN %s is guessed first", (pin) => expect(isGuessed(pin)).toBe(true));
  test.each(["2580", "7390", "4871", "839274"])("the PIN %s is taken", (pin) => expect(isGuessed(pin)).toBe(false));
});
