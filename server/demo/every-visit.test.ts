import { jest } from "@jest/globals";
import { randomUUID } from "node:crypto";
import { eq } from "drizzle-orm";
import { randomLcg } from "d3-random";
import { readDocument } from "../../core/job";
import { KIND_IDS, KINDS, type KindId, usualCard } from "../../core/kind";
import { USUAL_OPV } from "../../core/pressure";
import { PRESET_IDS, presetScopes, scopesFor } from "../../core/sheet";
import { poolOf } from "../../db/client";
import { nextServiceOf } from "../../db/queries/machines";
import { job, model, signature } from "../../db/schema";
import type { SignedIn } from "../auth";
import { database } from "../database";
import { freshMachine } from "../jobs/fresh-machine";
import { personOf } from "../jobs/person-of";
import { MachineTwin } from "./machine-twin";
import { workVisit } from "./whole-visit";

/**
 * Every usual visit, and every single scope, on every kind of machine, from the first step to the signature by the sheet's own advice:
 * no step out of reach, no stop that can't be confirmed, no end but signed, or in a named fault that is signed too.
 */

const db = database();
// Some hundred steps each, by the very commands the screens use.
jest.setTimeout(240_000);
let lead: SignedIn;
const models = new Map<KindId, string>();

beforeAll(async () => {
  lead = await personOf("ilka@lowtide.example");
  for (const kind of KIND_IDS) {
    const id = randomUUID();
    const { responseMean: opvResponse, responseSd: opvResponseSd, raises: opvRaises } = USUAL_OPV;
    await db.insert(model).values({
      id,
      workshopId: lead.workshop.id,
      maker: "Walked",
      name: `${kind} ${id}`,
      kind,
      opvResponse,
      opvResponseSd,
      opvRaises,
    });
    models.set(kind, id);
  }
});
afterAll(() => poolOf(db).end());

async function walk(kind: KindId, visit: Parameters<typeof workVisit>[0]["visit"], twin: MachineTwin) {
  const jobId = randomUUID();
  const machineId = await freshMachine(lead, models.get(kind)!, `W${kind}`);
  await workVisit(
    {
      jobId,
      by: lead,
      machineId,
      at: new Date(Date.now() - 86_400_000),
      visit,
      complaint: "",
      coffee: { name: "Walk blend", roast: "medium" },
    },
    twin,
  );
  const [done] = await db.select({ state: job.state }).from(job).where(eq(job.id, jobId));
  const [signed] = await db.select().from(signature).where(eq(signature.jobId, jobId));
  return { machineId, state: done!.state, document: signed ? readDocument(signed.document) : null };
}

const twin = (seed: number) => new MachineTwin(randomLcg(seed));

describe.each(KIND_IDS)("%s", (id) => {
  const kind = KINDS[id];
  const card = usualCard(kind);
  const usual = PRESET_IDS.filter((preset) => presetScopes(preset, kind, card).length > 0);

  test.each(usual)("a %s goes from the first step to the signature by the advice alone", async (preset) => {
    const { state, document, machineId } = await walk(id, preset, twin(0.17 + id.length / 50));
    expect(state).toBe("signed");
    expect(document!.steps.flatMap((s) => s.skipped ?? [])).toEqual([]);
    // The machine’s page says when it is serviced next, as this visit said.
    expect(await nextServiceOf(db, lead.workshop.id, machineId)).toEqual(document!.nextService ?? null);
  });

  test("so does each scope by itself", async () => {
    for (const scope of scopesFor(kind, card))
      expect([scope, (await walk(id, [scope], twin(0.31))).state]).toEqual([scope, "signed"]);
  });
});

/** A machine on which nothing that is adjusted responds. */
class Stuck extends MachineTwin {
  override move(): void {}
  override read(loop: Parameters<MachineTwin["read"]>[0]): number {
    const { upper, lower = 0 } = loop.tolerance;
    return loop.knob ? (upper ?? lower) + 1.6 * Math.abs((upper ?? lower + 1) - lower) + 0.4 : super.read(loop);
  }
}

test.each(KIND_IDS.filter((id) => KINDS[id].opv !== "none"))(
  "%s: a stuck OPV ends in a named fault, and the way to the signature stays open",
  async (id) => {
    const { state, document } = await walk(id, "check", new Stuck(randomLcg(0.5)));
    expect(state).toBe("signed");
    const brew = document!.results.find((r) => r.knob === "opv")!;
    expect(brew.finding).toMatch(/OPV|tolerance|decide/);
  },
);
