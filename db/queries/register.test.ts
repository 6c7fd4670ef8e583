import { randomUUID } from "node:crypto";
import { eq } from "drizzle-orm";
import { connect, poolOf } from "../client";
import { account, machine, model, owner, site } from "../schema";
import { findMachines } from "./register";

/** Search as you type, and pages that neither skip nor repeat. */

const db = connect(process.env.DATABASE_URL!);
const mark = `reg${Date.now()}`;
let workshopId: string;
const made: string[] = [];

beforeAll(async () => {
  const [lead] = await db.select().from(account).where(eq(account.email, "ilka@lowtide.example"));
  workshopId = lead!.workshopId;
  const [known] = await db.select().from(model).where(eq(model.name, "Skerry"));
  for (const [i, name] of ["Áine O’Dell", "Bo 100%", "Bo_under", "Cé \\ back"].entries()) {
    const [ownerId, siteId] = [randomUUID(), randomUUID()];
    await db.insert(owner).values({ id: ownerId, workshopId, name: `${mark} ${name}` });
    await db
      .insert(site)
      .values({ id: siteId, workshopId, ownerId, name: `Place ${i}`, town: i < 2 ? "Saltby" : "Eastquay" });
    for (let k = 0; k < 7; k++) {
      const id = randomUUID();
      made.push(id);
      await db
        .insert(machine)
        .values({ id, workshopId, modelId: known!.id, siteId, serial: `${mark}-${i}-${k}`, gaugePlace: "none" });
    }
  }
});
afterAll(() => poolOf(db).end());

const find = async (text: string, after: { search: string; id: string } | null = null, limit = 100) =>
  findMachines(db, workshopId, { text: `${mark} ${text}`, after, limit });

test("pages follow on from each other until the end, each machine once", async () => {
  const seen: string[] = [];
  let after: { search: string; id: string } | null = null;
  for (let page = 0; page < 20; page++) {
    const rows: Awaited<ReturnType<typeof find>> = await find("", after, 5);
    seen.push(...rows.map((r) => r.id));
    const last = rows.at(-1);
    if (!last || rows.length < 5) break;
    after = { search: last.search, id: last.id };
  }
  expect(seen).toHaveLength(made.length);
  expect(new Set(seen)).toEqual(new Set(made));
});

test.each([
  ["saltby", 14],
  ["SALTBY skerry", 14],
  ["eastquay place", 14],
  ["áine", 7],
  ["100%", 7],
  ["bo_", 7],
  ["\\ back", 7],
  ["%", 7],
  ["_", 7],
  ["nobody", 0],
])("“%s” finds %p", async (text, count) => expect(await find(text)).toHaveLength(count));

test("a renamed owner, a moved site and a renamed model are found by their new names at once", async () => {
  const [row] = await find("", null, 1);
  const [m] = await db.select().from(machine).where(eq(machine.id, row!.id));
  const [s] = await db.select().from(site).where(eq(site.id, m!.siteId));
  await db
    .update(owner)
    .set({ name: `${mark} Renamed` })
    .where(eq(owner.id, s!.ownerId));
  await db.update(site).set({ town: "Newtown" }).where(eq(site.id, s!.id));
  expect(await find("renamed newtown")).toHaveLength(7);
  expect(await find(row!.owner.slice(mark.length + 1))).toHaveLength(0);
});
