import { jest } from "@jest/globals";
import { randomUUID } from "node:crypto";
import { randomLcg } from "d3-random";
import { eq } from "drizzle-orm";
import { poolOf } from "../../db/client";
import { model, seal } from "../../db/schema";
import { database } from "../database";
import { MachineTwin } from "../demo/machine-twin";
import { workVisit } from "../demo/whole-visit";
import { amend } from "../jobs/commands/amend";
import { freshMachine } from "../jobs/fresh-machine";
import { personOf } from "../jobs/person-of";
import { atMoment } from "../moment";
import { proofOf, verify } from "./verify";

/** A server’s clock that is set back in the middle of the work: what is signed stays signed, in the order in which it was. */

const db = database();
jest.setTimeout(120_000);
afterAll(() => poolOf(db).end());

const HOUR = 3_600_000;

/** A machine out of spec that is left alone after so many readings. */
class LeftAfter extends MachineTwin {
  constructor(
    seed: number,
    private readings: number,
  ) {
    super(randomLcg(seed));
  }
  override read(...of: Parameters<MachineTwin["read"]>): number {
    if (this.readings-- <= 0) throw new Error("The clock is set back.");
    this.wear(of[0]);
    return super.read(...of);
  }
}

test("set back by an hour between two readings, between two visits and before an addition, every statement holds", async () => {
  const lead = await personOf("ilka@lowtide.example");
  const [known] = await db.select().from(model).where(eq(model.workshopId, lead.workshop.id)).limit(1);
  const machineId = await freshMachine(lead, known!.id, "Clock");
  const start = Date.now() - 24 * HOUR;
  const visit = (jobId: string, at: number) => ({
    ...{ jobId, by: lead, machineId, at: new Date(at), visit: "check" as const, complaint: "" },
    coffee: { name: "Clock blend", roast: "medium" as const },
  });
  const [first, second]: [string, string] = [randomUUID(), randomUUID()];
  await expect(workVisit(visit(first, start), new LeftAfter(0.3, 1))).rejects.toThrow("set back");
  await workVisit(visit(first, start - HOUR), new MachineTwin(randomLcg(0.4)));
  await workVisit(visit(second, start - 2 * HOUR), new MachineTwin(randomLcg(0.5)));
  await atMoment(
    () => new Date(start - 3 * HOUR),
    () =>
      amend(
        { by: lead, jobId: first, commandId: randomUUID() },
        { about: "reading", text: "Read again with the new gauge." },
      ),
  );
  const chain = await db.select().from(seal).where(eq(seal.machineId, machineId)).orderBy(seal.no);
  expect(chain.map(({ no, jobId, amends }) => [no, jobId, amends !== null])).toEqual([
    [1, first, false],
    [2, second, false],
    [3, first, true],
  ]);
  for (const jobId of [first, second])
    expect(await proofOf(db, lead.workshop.id, jobId)).toMatchObject({ holds: true });
  const { found } = await verify(db);
  expect(found.filter((f) => [first, second].includes(f.job))).toEqual([]);
});
