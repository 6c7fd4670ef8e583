import { randomUUID } from "node:crypto";
import { sql } from "drizzle-orm";
import { poolOf } from "../../db/client";
import { workshop } from "../../db/schema";
import { eq } from "drizzle-orm";
import { type SignedIn, signIn, whoIs } from "../auth";
import { database } from "../database";
import { personOf } from "../jobs/person-of";
import { device } from "./device.fixture";
import { eventsOf } from "./events";
import { takeLink } from "./links";
import { endOpener, opensOf } from "./opens";
import {
  addPasskey,
  askForNewPasskey,
  askForPasskey,
  dropPasskey,
  passkeysOf,
  proveByPasskey,
  signInByPasskey,
} from "./passkeys";
import { changePassword, invite, requireFactor, resetLink, setActive } from "./people";

/** Passkeys by a device made of nothing but the specification: what is taken, and what is not. */

const db = database();
const PHRASE = "three wet towels";
let lead: SignedIn;
beforeAll(async () => {
  lead = await personOf("runa@chandlery.example");
});
afterAll(() => poolOf(db).end());

const request = (cookies: readonly string[] = [], site = "http://site.example/") =>
  new Request(site, { headers: { Cookie: cookies.map((c) => c.split(";")[0]).join("; ") } });
const address = () => randomUUID();

async function member() {
  const email = `${randomUUID()}@chandlery.example`;
  const { token } = await invite(lead, randomUUID(), { name: "Per Holm", email, role: "technician" });
  const cookies = await takeLink(request(), token!, { name: "Per Holm", password: PHRASE });
  return { email, cookies, person: (await whoIs(request(cookies)))! };
}

/** Somebody with a passkey on a device. */
async function keyed() {
  const own = await member();
  const phone = device();
  await keep(own.person, phone);
  return { ...own, phone };
}
const keep = async (by: SignedIn, on: ReturnType<typeof device>, verified = true) =>
  addPasskey(request(), by, {
    id: randomUUID(),
    name: "phone",
    made: on.makes((await askForNewPasskey(request(), by))!, verified),
  });
const asked = async () => (await askForPasskey(request()))!;
const comes = (shown: string, site?: string) => signInByPasskey(request([], site), shown, address());

test("made, it opens the account alone, and says when it was used", async () => {
  const { person, phone } = await keyed();
  const done = await comes(phone.shows(await asked()));
  if (!done.ok) throw new Error(done.message);
  const back = (await whoIs(request(done.cookies)))!;
  expect(back).toMatchObject({ id: person.id, way: "passkey", proven: true });
  const [own] = await passkeysOf(person);
  expect(own).toMatchObject({ name: "phone", credentialId: phone.id });
  expect(own!.usedAt).not.toBeNull();
  const said = (await eventsOf(lead.workshop.id, 20)).map((e) => `${e.said} ${e.about}`).join("; ");
  expect(said).toContain("has a new passkey phone");
  expect(said).toContain("by passkey");
});

test("where the workshop asks for a second factor, it is one", async () => {
  const { cookies, phone } = await keyed();
  await requireFactor(lead, true);
  try {
    expect((await whoIs(request(cookies)))!.needsFactor).toBe(true);
    const done = await comes(phone.shows(await asked()));
    expect((await whoIs(request(done.ok ? done.cookies : [])))!.needsFactor).toBe(false);
  } finally {
    await db.update(workshop).set({ factorRequired: false }).where(eq(workshop.id, lead.workshop.id));
  }
});

test.each<[string, (own: Awaited<ReturnType<typeof keyed>>) => Promise<string>]>([
  ["an answer to what was never asked here", async ({ phone }) => phone.shows({ challenge: "A".repeat(75) })],
  [
    "an answer to what was asked for a new key",
    async ({ person, phone }) => phone.shows((await askForNewPasskey(request(), person))!),
  ],
  ["a device that its person did not unlock", async ({ phone }) => phone.shows(await asked(), false)],
  ["a device that nobody here knows", async () => device().shows(await asked())],
  [
    "a copy that lags behind in counting",
    async ({ phone }) => {
      await comes(phone.shows(await asked()));
      await comes(phone.shows(await asked()));
      phone.counted(0);
      return phone.shows(await asked());
    },
  ],
  [
    "another signature",
    async ({ phone }) => {
      const answer = JSON.parse(phone.shows(await asked())) as { response: { signature: string } };
      return JSON.stringify({
        ...answer,
        response: {
          ...answer.response,
          signature: device()
            .shows(await asked())
            .slice(-90, -4),
        },
      });
    },
  ],
  ["no JSON", async () => "{"],
  ["nothing of it", async () => "{}"],
])("%s opens nothing", async (_, shown) => {
  expect(await comes(await shown(await keyed()))).toMatchObject({ ok: false });
});

test("an answer is taken once, of two at the same moment by one of them", async () => {
  const { phone } = await keyed();
  const shown = phone.shows(await asked());
  const done = await Promise.all([comes(shown), comes(shown), comes(shown)]);
  expect(done.filter((d) => d.ok)).toHaveLength(1);
  expect(await comes(shown)).toMatchObject({ ok: false });
});

test("an answer that another site took is none of ours", async () => {
  const { person } = await member();
  const lured = device({ origin: "http://site.example.attacker.example" });
  await expect(keep(person, lured)).rejects.toThrow("not made for this page");
  const { phone } = await keyed();
  expect(await comes(phone.shows(await asked()), "http://elsewhere.example/")).toMatchObject({ ok: false });
});

test("a key is made by its person’s unlocking, for the account that asked, and once", async () => {
  const [own, other] = [await member(), await member()];
  const phone = device();
  await expect(keep(own.person, phone, false)).rejects.toThrow("not made for this page");
  const made = phone.makes((await askForNewPasskey(request(), own.person))!);
  const add = (by: SignedIn) => addPasskey(request(), by, { id: randomUUID(), name: "phone", made });
  await expect(add(other.person)).rejects.toThrow("not made for this page");
  await keep(own.person, phone);
  await expect(keep(other.person, phone)).rejects.toThrow("here already");
  await expect(add({ ...own.person, proven: false })).rejects.toThrow("password once more");
});

test("browsers keep keys for names alone: nothing is asked where the address is a number", async () => {
  for (const site of ["http://127.0.0.1:4200/", "http://[::1]:4200/", "https://10.0.0.7/"])
    expect(await askForPasskey(request([], site))).toBeNull();
});

test("ten of one person are the most", async () => {
  const { person } = await member();
  for (let i = 0; i < 10; i++) await keep(person, device());
  await expect(keep(person, device())).rejects.toThrow("Take one away first");
});

test("shown instead of the password, one’s own only", async () => {
  const [{ person, phone }, other] = [await keyed(), await keyed()];
  await db.execute(sql`update session set proven_at = now() - interval '1 hour' where id = ${person.sessionId}`);
  await expect(proveByPasskey(request(), person, other.phone.shows(await asked()))).rejects.toThrow("no key of yours");
  await proveByPasskey(request(), person, phone.shows(await asked()));
  const { rows } = await db.execute(
    sql`select proven_at > now() - interval '1 minute' as proven from session where id = ${person.sessionId}`,
  );
  expect(rows).toEqual([{ proven: true }]);
});

test.each<[string, (own: Awaited<ReturnType<typeof keyed>>) => Promise<unknown>]>([
  ["taken away by its person", async ({ person }) => dropPasskey(person, (await passkeysOf(person))[0]!.id)],
  ["a new password", ({ person }) => changePassword(person, { now: PHRASE, next: "nine dry saucers" })],
  [
    "a lead’s link for a new password",
    async ({ person }) => {
      const { token } = await resetLink(lead, randomUUID(), person.id);
      return takeLink(request(), token!, { name: "Per Holm", password: "nine dry saucers" });
    },
  ],
  ["let go", ({ person }) => setActive(lead, randomUUID(), person.id, false)],
  [
    "ended by a lead",
    async ({ person }) => {
      const its = (await opensOf(lead.workshop.id)).get(person.id)!.find((o) => o.what === "passkey")!;
      expect(its.name).toBe("passkey “phone”");
      return endOpener(lead, person.id, its as { what: "passkey"; id: string });
    },
  ],
])("%s: the key opens nothing any more", async (_, happens) => {
  const own = await keyed();
  await happens(own);
  expect(await comes(own.phone.shows(await asked()))).toMatchObject({ ok: false });
  expect((await opensOf(lead.workshop.id)).get(own.person.id)?.some((o) => o.what === "passkey") ?? false).toBe(false);
});

test("the password still opens the account, and a wrong key holds nobody up who has it", async () => {
  const { email, phone } = await keyed();
  for (let i = 0; i < 12; i++) await comes(phone.shows({ challenge: "A".repeat(75) }));
  expect(await signIn(request(), { email, password: PHRASE, address: address() })).toMatchObject({ ok: true });
});
