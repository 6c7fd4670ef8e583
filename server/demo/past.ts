import { setHours, subDays, subMonths } from "date-fns";
import { and, count, eq, inArray } from "drizzle-orm";
import { randomLcg } from "d3-random";
import type { LoopId } from "../../core/knobs";
import type { Preset, Scope } from "../../core/sheet";
import type { Database } from "../../db/client";
import { account, job, machine, workshop } from "../../db/schema";
import { idOf } from "../../db/seed/ids";
import type { SignedIn } from "../auth";
import { MachineTwin } from "./machine-twin";
import { workVisit } from "./whole-visit";

/** Years of visits to some machines of the demo: installed, handed over, serviced, repaired, and drifting between. All invented. */

interface PastVisit {
  monthsAgo: number;
  visit: Preset | readonly Scope[];
  complaint?: string;
  repair?: { loop: LoopId; text: string };
  skips?: Record<string, string>;
  typed?: Record<string, string>;
  remark?: string;
}

interface Past {
  serial: string;
  coffee: string;
  visits: readonly PastVisit[];
}

const SERVICE = { visit: "service" } as const;

const PASTS: readonly Past[] = [
  {
    serial: "HE2-3301",
    coffee: "Spring Tide",
    visits: [
      { monthsAgo: 46, visit: "install", typed: { "look-over.accessories": "Two portafilters, blind basket, brush." } },
      { monthsAgo: 45, visit: "handover" },
      { monthsAgo: 37, ...SERVICE },
      { monthsAgo: 29, ...SERVICE, complaint: "Left group runs longer than the right one." },
      {
        monthsAgo: 22,
        ...SERVICE,
        complaint: "Pressure climbs during the shot.",
        repair: { loop: "opv", text: "Over-pressure valve renewed, spring and seat" },
      },
      { monthsAgo: 14, ...SERVICE, skips: { filter: "The owner changes the cartridge himself." } },
      { monthsAgo: 6, ...SERVICE },
    ],
  },
  {
    serial: "BV-71120",
    coffee: "Breakwater blend",
    visits: [
      { monthsAgo: 38, visit: "install" },
      { monthsAgo: 26, ...SERVICE },
      { monthsAgo: 19, visit: "check", complaint: "Cup got thin over the winter." },
      { monthsAgo: 13, ...SERVICE, repair: { loop: "opv", text: "Valve taken apart, scale off the seat" } },
      { monthsAgo: 4, ...SERVICE },
    ],
  },
  {
    serial: "CA-T-4509",
    coffee: "Lamplight",
    visits: [
      { monthsAgo: 41, visit: "install" },
      { monthsAgo: 40, visit: "handover" },
      { monthsAgo: 30, ...SERVICE },
      { monthsAgo: 21, visit: ["temperature"], complaint: "Tastes flat since the summer." },
      { monthsAgo: 15, ...SERVICE },
      { monthsAgo: 5, ...SERVICE },
    ],
  },
  {
    serial: "NTB-10877",
    coffee: "Harbour dark",
    visits: [
      { monthsAgo: 33, visit: "install" },
      { monthsAgo: 32, visit: "handover" },
      { monthsAgo: 20, ...SERVICE },
      { monthsAgo: 8, ...SERVICE, complaint: "Grinds uneven, shots run away." },
    ],
  },
  {
    serial: "HL3-0450",
    coffee: "Spring Tide",
    visits: [
      { monthsAgo: 28, visit: "install" },
      { monthsAgo: 27, visit: ["shots", "volumes", "hand-over"] },
      { monthsAgo: 18, ...SERVICE },
      { monthsAgo: 9, ...SERVICE, complaint: "Third group last to be warm." },
    ],
  },
];

const WORKSHOP = idOf("lowtide");
const visitId = (serial: string, i: number) => idOf(`${serial} past visit ${i}`);

/**
 * Works the visits of the past that are not signed yet. Without the demo’s workshop it does nothing.
 *
 * @param onVisit hears how many are done of how many
 */
export async function workPast(db: Database, now: Date, onVisit: (done: number, of: number) => void): Promise<void> {
  const all = PASTS.flatMap(({ serial, visits }) => visits.map((_, i) => visitId(serial, i)));
  const [done] = await db
    .select({ signed: count() })
    .from(job)
    .where(and(eq(job.workshopId, WORKSHOP), inArray(job.id, all), eq(job.state, "signed")));
  if (done!.signed === all.length) return;
  const hands = await handsOf(db);
  if (hands.length === 0) return;
  let worked = 0;
  for (const [k, { serial, coffee, visits }] of PASTS.entries()) {
    const [of] = await db
      .select({ id: machine.id })
      .from(machine)
      .where(and(eq(machine.workshopId, WORKSHOP), eq(machine.serial, serial)));
    if (!of) continue;
    const twin = new MachineTwin(randomLcg(0.29 + k / 17));
    for (const [i, { monthsAgo, complaint = "", visit, ...more }] of visits.entries()) {
      // Spread over weekdays and hours, as a calendar fills.
      const at = setHours(subDays(subMonths(now, monthsAgo), (5 * i + 3 * k) % 11), 8 + ((2 * i + k) % 7));
      const roastedOn = subDays(at, 9).toISOString().slice(0, 10);
      await workVisit(
        {
          jobId: visitId(serial, i),
          by: hands[(k + i) % hands.length]!,
          machineId: of.id,
          at,
          visit,
          complaint,
          coffee: { name: coffee, roast: "medium", roastedOn },
          ...more,
        },
        twin,
      );
      twin.rest();
      onVisit(++worked, all.length);
    }
  }
}

async function handsOf(db: Database): Promise<SignedIn[]> {
  const rows = await db
    .select()
    .from(account)
    .innerJoin(workshop, eq(workshop.id, account.workshopId))
    .where(eq(account.workshopId, WORKSHOP))
    .orderBy(account.email);
  return rows.map(({ account: { id, name, role, preferences }, workshop }) => ({
    id,
    name,
    role,
    way: "password",
    sessionId: "",
    proven: true,
    needsFactor: false,
    preferences,
    workshop,
  }));
}
