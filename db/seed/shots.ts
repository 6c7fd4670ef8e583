import { compactBudget } from "../../core/metrology";
import { addDays, addMinutes, formatISO, subDays } from "date-fns";
import { scopesOfPreset } from "../../core/job";
import { type LoopId, atOf } from "../../core/knobs";
import { USUAL_SCHOOLS } from "../../core/school";
import type { Pull } from "../../core/shot";
import type { Database } from "../client";
import { particularsNow } from "../queries/machines";
import * as t from "../schema";
import { kitItem, readBy } from "./kit";

/** Shots of the demo, and a handover of last season whose buttons were taught. All invented. */

/** What differs from shot to shot; the rest is as the shot before. */
export type SeedShot = Partial<Pull> & { ago: number };

export function firstPull(now: Date): Pull {
  return {
    group: 1,
    by: "manual",
    coffee: {
      name: "Breakwater blend",
      roast: "medium",
      roastedOn: formatISO(addDays(now, -11), { representation: "date" }),
    },
    grinder: { name: "built in", finer: -1, step: 1 },
    setting: 12,
    dose: 18,
    basket: "double",
    seconds: 27,
    from: "pump",
    yield: 36,
    choked: false,
  };
}

interface Row {
  workshopId: string;
  scale: string;
  jobId: string;
  by: string;
  idOf: (name: string) => string;
}

/** Shots, each as the one before but for what is said. @returns their ids */
export async function insertShots(
  db: Database,
  { workshopId, jobId, by, scale, idOf }: Row,
  now: Date,
  shots: readonly SeedShot[],
  first: Pull = firstPull(now),
): Promise<string[]> {
  const ids: string[] = [];
  let pull = first;
  for (const [i, { ago, ...changed }] of shots.entries()) {
    pull = {
      ...pull,
      firstDrop: undefined,
      flow: undefined,
      taste: undefined,
      peak: undefined,
      choked: false,
      ...changed,
    };
    const id = idOf(`${jobId} shot ${i}`);
    ids.push(id);
    await db.insert(t.shot).values({
      id,
      workshopId,
      jobId,
      by,
      at: addMinutes(now, -ago),
      sequence: i + 1,
      pull,
      scale: kitItem("scale").name,
      scaleId: scale,
      uDose: 0.06,
      uYield: 0.06,
    });
  }
  return ids;
}

/** As found, moves in the hand’s sense, as left: each button of the handover of last season. */
const TAUGHT: [LoopId, ({ grams: number } | { pulses: number })[]][] = [
  ["dose-1", [{ grams: 58.4 }, { pulses: -45 }, { grams: 36.4 }, { grams: 35.2 }, { grams: 36.6 }]],
  ["single-1", [{ grams: 27.1 }, { pulses: -18 }, { grams: 18.4 }, { grams: 17.6 }, { grams: 18.1 }]],
  ["dose-2", [{ grams: 60.2 }, { pulses: -48 }, { grams: 36.1 }, { grams: 37.0 }, { grams: 35.6 }]],
  ["single-2", [{ grams: 29.8 }, { pulses: -23 }, { grams: 17.9 }, { grams: 18.8 }, { grams: 18.0 }]],
];

export const HANDED_OVER = "HP2-1142";

/** Last season’s handover of a two-group machine: dialled in, four buttons taught, signed. */
export async function handedOver(
  db: Database,
  idOf: (name: string) => string,
  m: {
    serial: string;
    machineId: string;
    workshopKey: string;
    workshopId: string;
    by: string;
    name: string;
    now: Date;
  },
  sign: (job: { id: string; workshopId: string; by: string; name: string; at: Date }) => Promise<void>,
): Promise<void> {
  const at = subDays(m.now, 143);
  const jobId = idOf(`${m.serial} handover`);
  const particulars = await particularsNow(db, m.workshopId, m.machineId);
  await db.insert(t.job).values({
    id: jobId,
    workshopId: m.workshopId,
    machineId: m.machineId,
    scopes: scopesOfPreset("handover", particulars),
    particulars,
    schools: USUAL_SCHOOLS,
    decisionRule: "guarded",
    startedBy: m.by,
    startedAt: at,
  });
  const row = (name: string, minutes: number) => ({
    id: idOf(`${jobId} ${name}`),
    workshopId: m.workshopId,
    jobId,
    by: m.by,
    at: addMinutes(at, minutes),
  });
  await db
    .insert(t.note)
    .values({ ...row("note", 3), station: "look-over", text: "As it left the workshop. Nothing scratched." });
  const ids = await insertShots(
    db,
    { workshopId: m.workshopId, jobId, by: m.by, scale: idOf(`${m.workshopKey} scale`), idOf },
    addMinutes(at, 60),
    [
      {
        ago: 30,
        grinder: { name: "Osterley Flat 64", finer: -1, step: 1 },
        setting: 14,
        seconds: 17.2,
        firstDrop: 4,
        flow: "gush",
        taste: "sour",
      },
      { ago: 24, setting: 11, seconds: 23.4, firstDrop: 6, flow: "even" },
      { ago: 19, setting: 10, seconds: 25.6, firstDrop: 6.5, flow: "even", taste: "balanced" },
    ],
  );
  await db
    .insert(t.entry)
    .values({ ...row("taken", 42), task: "shots", value: { form: "accepted", shot: ids.at(-1)!, reason: "" } });
  let sequence = 0;
  for (const [loop, log] of TAUGHT)
    for (const line of log) {
      sequence++;
      const base = { ...row(`log ${sequence}`, 43 + sequence), sequence, ...atOf(loop)! };
      if ("pulses" in line) {
        const way = line.pulses > 0 ? "plus" : "minus";
        await db
          .insert(t.adjustment)
          .values({ ...base, amount: line.pulses, typed: `${Math.abs(line.pulses)} ${way}`, advised: line.pulses });
        continue;
      }
      const { value, u, uCommon, budget } = readBy(kitItem("scale"), loop, line.grams);
      await db.insert(t.reading).values({
        ...base,
        instrumentId: idOf(`${m.workshopKey} scale`),
        place: "group",
        toGroup: 0,
        toGroupU: 0,
        typed: line.grams.toFixed(1),
        unit: "g",
        indicated: line.grams,
        value,
        u,
        uCommon,
        budget: compactBudget(budget),
      });
    }
  await sign({ id: jobId, workshopId: m.workshopId, by: m.by, name: m.name, at: addMinutes(at, 90) });
}
