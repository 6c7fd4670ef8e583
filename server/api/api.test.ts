import { randomBytes, randomUUID } from "node:crypto";
import { eq, sql } from "drizzle-orm";
import { poolOf } from "../../db/client";
import { OPEN_TABLES, openTable } from "../../db/open/tables";
import { account, apiToken, machine } from "../../db/schema";
import { inWorkshop } from "../../db/wall";
import type { SignedIn } from "../auth";
import { database } from "../database";
import { personOf } from "../jobs/person-of";
import { ownWorkshop } from "../open/own-workshop";
import { hashOf } from "../sessions";
import { cursorOf, keyIn } from "./cursor";
import { rightFor } from "./gate";
import { PER_MINUTE, takeAsk } from "./limits";
import { type Asked, hasVisits, isById, pageOf, rowOf } from "./pages";
import { rowSchema } from "./rows";
import { type TokenInput, makeToken, programBehind, tokensOf, withdrawToken } from "./tokens";

/** What programs get, and who they are, below the web. */

const db = database();
let lead: SignedIn;
let stranger: SignedIn;

beforeAll(async () => {
  lead = await personOf("ilka@lowtide.example");
  stranger = await personOf("runa@chandlery.example");
});
afterAll(() => poolOf(db).end());

type Row = Record<string, unknown>;
const table = (plural: string) => openTable(plural)!;

/** All pages of a table, one after the other. */
async function all(plural: string, asked: Partial<Asked> = {}, who = lead): Promise<Row[]> {
  const rows: Row[] = [];
  for (let after: string | undefined; ;) {
    const page = await inWorkshop(who.workshop.id, () =>
      pageOf(who.workshop.id, table(plural), { limit: 400, ...asked, after }),
    );
    const { rows: more, after: next } = JSON.parse(page!.text) as { rows: Row[]; after: string | null };
    rows.push(...more);
    if (!next) return rows;
    after = next;
  }
}

describe("pages", () => {
  test.each(OPEN_TABLES.map((t) => t.plural))(
    "%s: every row once, in the order of its key, as it is documented",
    async (plural) => {
      const { name, key } = table(plural);
      const count = async () =>
        Number(
          (
            await db.execute<{ n: string }>(
              sql`select count(*) as n from records.${sql.raw(name)} where workshop_id = ${lead.workshop.id}`,
            )
          ).rows[0]!.n,
        );
      // Other tests write meanwhile, and nothing goes.
      const before = await count();
      const rows = await all(plural);
      expect(rows.length).toBeGreaterThanOrEqual(before);
      expect(rows.length).toBeLessThanOrEqual(await count());
      const keys = rows.map((row) => JSON.stringify(key.map((k) => row[k])));
      expect(new Set(keys).size).toBe(keys.length);
      for (const row of rows.slice(0, 50)) expect(rowSchema(table(plural)).parse(row)).toEqual(row);
    },
  );

  test("of one machine and of one visit there is what is theirs; of another workshop nothing", async () => {
    const [some] = (await all("readings", { limit: 1000 })) as { visit_id: string; machine_id: string }[];
    const { visit_id: visitId, machine_id: machineId } = some!;
    const ofMachine = await all("readings", { machineId });
    const ofVisit = await all("readings", { visitId });
    expect(new Set(ofMachine.map((r) => r.machine_id))).toEqual(new Set([machineId]));
    expect(new Set(ofVisit.map((r) => r.visit_id))).toEqual(new Set([visitId]));
    expect(ofMachine.length).toBeGreaterThanOrEqual(ofVisit.length);
    expect(await all("readings", { machineId }, stranger)).toEqual([]);
    expect((await all("machines", { machineId })).map((m) => m.id)).toEqual([machineId]);
    const one = (who: SignedIn) => inWorkshop(who.workshop.id, () => rowOf(who.workshop.id, table("visits"), visitId));
    expect(JSON.parse((await one(lead))!.text)).toMatchObject({ id: visitId, machine_id: machineId });
    expect(await one(stranger)).toBeNull();
  });

  test("the tag is the same while the rows are, and another once one is added", async () => {
    const own = await ownWorkshop(db);
    const ask = () => inWorkshop(own.workshop.id, () => pageOf(own.workshop.id, table("parts"), { limit: 10 }));
    const [first, again] = [await ask(), await ask()];
    expect(first).toMatchObject({ text: '{"rows":[],"after":null}', after: null });
    expect(again!.etag).toBe(first!.etag);
    await db.execute(
      sql`insert into part (workshop_id, id, name, number, stock) values (${own.workshop.id}, ${randomUUID()}, 'Gasket', 'G-1', 3)`,
    );
    expect((await ask())!.etag).not.toBe(first!.etag);
  });

  test("a mark is of its own table, or it is none", () => {
    const readings = table("readings");
    const row = { visit_id: randomUUID(), knob: "opv", id: randomUUID() };
    expect(keyIn(readings, cursorOf(readings, row))).toEqual([row.visit_id, "opv", row.id]);
    const word = (value: unknown) => Buffer.from(JSON.stringify(value)).toString("base64url");
    for (const wrong of [
      "",
      "no mark",
      word(null),
      word({}),
      word([row.visit_id]),
      word([row.visit_id, "opv", "1"]),
      word([row.visit_id, "o'pv", row.id]),
      word([row.visit_id, 3, row.id]),
      word([row.visit_id, "opv", row.id, row.id]),
    ])
      expect(keyIn(readings, wrong)).toBeNull();
    for (const wrong of [1.5, 1e12, "1", null]) expect(keyIn(table("results"), word([row.visit_id, wrong]))).toBeNull();
  });

  test("one machine, the register, kit and parts are for all who work here; everything at once is a lead’s", () => {
    const machineId = randomUUID();
    const wide = OPEN_TABLES.filter((t) => rightFor(t, {}) === "records").map((t) => t.plural);
    expect(wide).toEqual(
      OPEN_TABLES.map((t) => t.plural).filter((p) => !["machines", "parts", "instruments"].includes(p)),
    );
    for (const t of OPEN_TABLES) {
      expect(rightFor(t, { machineId })).toBe("work");
      if (t.machine)
        expect(rightFor(t, { visitId: machineId })).toBe(hasVisits(t) || t.name === "machine" ? "work" : "records");
    }
    expect(OPEN_TABLES.filter(isById).map((t) => t.plural)).toEqual(["machines", "visits", "parts", "instruments"]);
  });
});

describe("tokens", () => {
  const asked = (token: string) =>
    programBehind(new Request("http://gauge.example/", { headers: { Authorization: `Bearer ${token}` } }));
  const input: TokenInput = { name: "Stock list", scopes: ["read"], days: 30 };

  test("speak for who made them; only the hash is kept; a repeat makes none", async () => {
    const own = await ownWorkshop(db);
    const id = randomUUID();
    const token = await makeToken(own, id, input);
    const [row] = await db.select().from(apiToken).where(eq(apiToken.id, id));
    expect(row).toMatchObject({ tokenHash: hashOf(token), name: "Stock list", usedAt: null, accountId: own.id });
    expect(JSON.stringify(row)).not.toContain(token);
    expect(await asked(token)).toMatchObject({
      id: own.id,
      role: "lead",
      way: "program",
      scopes: ["read"],
      tokenId: id,
    });
    expect((await tokensOf(own.workshop.id, own.id)).find((t) => t.id === id)!.usedAt).not.toBeNull();
    await expect(makeToken(own, id, input)).rejects.toThrow("can’t be shown again");
    for (const wrong of [
      "",
      "gauge_",
      token.slice(0, -1),
      `${token}x`,
      `gauge_${randomBytes(32).toString("base64url")}`,
    ])
      expect(await asked(wrong)).toBeNull();
    expect(
      await programBehind(new Request("http://gauge.example/", { headers: { Cookie: `ng_session=${token}` } })),
    ).toBeNull();
  });

  test("open nothing once they are withdrawn or past their day, or who made them was let go", async () => {
    const own = await ownWorkshop(db);
    const [withdrawn, late, kept] = [randomUUID(), randomUUID(), randomUUID()];
    const tokens = [];
    for (const id of [withdrawn, late, kept]) tokens.push(await makeToken(own, id, input));
    for (const token of tokens) expect(await asked(token)).not.toBeNull();
    await withdrawToken(own, withdrawn);
    await db
      .update(apiToken)
      .set({ expiresAt: new Date(Date.now() - 1000) })
      .where(eq(apiToken.id, late));
    expect(await Promise.all(tokens.map(asked))).toEqual([null, null, expect.objectContaining({ tokenId: kept })]);
    expect((await tokensOf(own.workshop.id)).map((t) => t.id)).toEqual([kept]);
    // Another workshop’s lead withdraws none of them; what the person may is asked each time.
    await withdrawToken(lead, kept);
    await db.update(account).set({ role: "technician" }).where(eq(account.id, own.id));
    expect(await asked(tokens[2]!)).toMatchObject({ role: "technician" });
    await db.update(account).set({ active: false }).where(eq(account.id, own.id));
    expect(await asked(tokens[2]!)).toBeNull();
  });

  test("a technician withdraws their own, not a lead’s; by PIN nobody makes one", async () => {
    const own = await ownWorkshop(db);
    const id = randomUUID();
    const token = await makeToken(own, id, input);
    const technician = { ...own, id: randomUUID(), role: "technician" as const };
    await withdrawToken(technician, id);
    expect(await asked(token)).not.toBeNull();
    await expect(makeToken({ ...own, way: "pin" }, randomUUID(), input)).rejects.toMatchObject({ status: 403 });
  });

  test("a person has twenty at a time", async () => {
    const own = await ownWorkshop(db);
    for (let i = 0; i < 20; i++) await makeToken(own, randomUUID(), input);
    await expect(makeToken(own, randomUUID(), input)).rejects.toThrow("20 tokens already");
  });

  test("are held up once they ask too often, and others are not", async () => {
    const [busy, calm] = [randomUUID(), randomUUID()];
    const waits = [];
    for (let i = 0; i < PER_MINUTE; i += 50)
      waits.push(...(await Promise.all(Array.from({ length: 50 }, () => takeAsk(busy)))));
    expect(new Set(waits)).toEqual(new Set([0]));
    const wait = await takeAsk(busy);
    expect(wait).toBeGreaterThan(0);
    expect(wait).toBeLessThanOrEqual(60);
    expect(await takeAsk(calm)).toBe(0);
  });
});

test("a page of what stands in one machine’s visits is what the tables say of them", async () => {
  // One of the demo’s, with visits in its past: what other tests sign may have no result.
  const [m] = await db.select().from(machine).where(eq(machine.serial, "BV-70461"));
  const results = await all("results", { machineId: m!.id }, lead);
  expect(results.length).toBeGreaterThan(0);
  for (const r of results) expect(r.expanded).toBeCloseTo((r.k as number) * (r.u as number), 9);
});
