import { randomUUID } from "node:crypto";
import { eq, sql } from "drizzle-orm";
import { type Transaction, poolOf } from "../db/client";
import { onceEach } from "../db/queries/prepared";
import { model, specCard } from "../db/schema";
import { database } from "./database";
import { isDatabaseDown } from "./database-error";
import { Refused } from "./refused";
import { personOf } from "./jobs/person-of";
import { inTransaction } from "./transaction";

const db = database();
afterAll(() => poolOf(db).end());

test("two writes that lock each other out both go through", async () => {
  const [a, b] = await db.select({ id: model.id }).from(model).orderBy(model.id).limit(2);
  const runs = { n: 0 };
  let meet!: () => void;
  const both = new Promise<void>((resolve) => (meet = resolve));
  let arrived = 0;
  const touch = (first: string, second: string) =>
    inTransaction(async (tx) => {
      runs.n++;
      await tx.update(model).set({ opvResponse: 2 }).where(eq(model.id, first));
      if (++arrived === 2) meet();
      await both;
      await tx.update(model).set({ opvResponse: 2 }).where(eq(model.id, second));
    });
  await Promise.all([touch(a!.id, b!.id), touch(b!.id, a!.id)]);
  // One of them lost to the other and was run again.
  expect(runs.n).toBeGreaterThan(2);
});

test("a serialization failure is tried again, anything else is not", async () => {
  let runs = 0;
  await inTransaction(async (tx) => {
    if (++runs < 3) await tx.execute(sql`DO $$ BEGIN RAISE EXCEPTION 'lost' USING ERRCODE = '40001'; END $$`);
  });
  expect(runs).toBe(3);
  runs = 0;
  await expect(
    inTransaction(async (tx) => {
      runs++;
      await tx.execute(sql`select 1/0`);
    }),
  ).rejects.toThrow();
  expect(runs).toBe(1);
});

test("what writes read is built once for a connection, and sees what its own write has done", async () => {
  let built = 0;
  const count = onceEach((tx: Transaction) => {
    built++;
    return tx
      .select({ n: sql<number>`count(*)::int` })
      .from(specCard)
      .prepare("cards_counted");
  });
  const lead = await personOf("ilka@lowtide.example");
  const card = { id: randomUUID(), workshopId: lead.workshop.id, name: "Not kept", about: "" };
  const seen: number[] = [];
  for (let i = 0; i < 3; i++) {
    const write = inTransaction(async (tx) => {
      const [before] = await count(tx).execute();
      await tx.insert(specCard).values(card);
      const [after] = await count(tx).execute();
      seen.push(after!.n - before!.n);
      throw new Refused("Not after all.");
    });
    await expect(write).rejects.toThrow("Not after all.");
  }
  expect(seen).toEqual([1, 1, 1]);
  expect(built).toBe(1);
  expect(await db.$count(specCard, eq(specCard.name, card.name))).toBe(0);
});

test("what the database refuses becomes the sentence it means", async () => {
  const lead = await personOf("ilka@lowtide.example");
  const card = () => ({ id: randomUUID(), workshopId: lead.workshop.id, name: "Twice", about: "" });
  await db.insert(specCard).values(card());
  const twice = inTransaction((tx) => tx.insert(specCard).values(card()));
  await expect(twice).rejects.toEqual(new Refused("A card of that name is there already.", "name"));
  await db.delete(specCard).where(eq(specCard.name, "Twice"));
  const beyond = inTransaction((tx) => tx.update(model).set({ opvResponse: 1e308 }));
  await expect(beyond).rejects.toThrow("outside what can be");
});

test("a connection cut in the middle of a write is a database that does not answer, and the next write goes through", async () => {
  const cut = inTransaction(async (tx) => {
    await tx.execute(sql`select pg_terminate_backend(pg_backend_pid())`);
  });
  const error = await cut.catch((e: unknown) => e);
  expect(isDatabaseDown(error)).toBe(true);
  expect(await inTransaction((tx) => tx.execute(sql`select 1 as one`))).toMatchObject({ rows: [{ one: 1 }] });
});
