import { addDays, addMinutes, formatISO } from "date-fns";
import type { TaskValue } from "../../core/sheet";
import { USUAL_SCHOOLS } from "../../core/school";
import type { KindId } from "../../core/kind";
import { OPV_TOLERANCE } from "../../core/pressure";
import { pinnedSpec } from "../queries/specs";
import type { Database } from "../client";
import * as t from "../schema";

/** Whole sheets open on the demo's bench, each cut off at another stage. All invented. */

interface OpenSheet {
  type: "install" | "service";
  complaint: string;
  /** Minutes since it was started. */
  since: number;
  notes: [area: string, text: string][];
  ticks: string[];
  entries: [task: string, value: TaskValue, typed?: string][];
  /** Clocks that run: started and due, minutes from now. */
  clocks: [task: string, label: string, started: number, due: number][];
}

const text = (words: string): TaskValue => ({ form: "text", text: words });
const figure = (value: number): TaskValue => ({ form: "figure", value });

const SHEETS: Record<string, (now: Date) => OpenSheet> = {
  "HPL-0312": (now) => ({
    type: "service",
    complaint: "Slow in the morning, and the needle creeps.",
    since: 64,
    notes: [
      ["Lever and spring", "Spring dry, squeaks at the top."],
      ["Tray", "Dent at the left corner."],
    ],
    ticks: ["tools", "line.opened", "heat.on"],
    entries: [
      ["look-over.accessories", text("Two double baskets, one single, blind basket, tamper.")],
      ["water.hardness", { form: "figure", value: 44.6, low: 35.7, high: 53.5 }, "2-3 °dH"],
      ["filter.purge", figure(17), "17"],
      [
        "filter.next",
        {
          form: "cartridge",
          fittedOn: formatISO(now, { representation: "date" }),
          dueOn: formatISO(addDays(now, 210), { representation: "date" }),
          by: "litres",
        },
      ],
      ["line.idle", figure(3.6), "3.6"],
    ],
    clocks: [
      ["warm.boiler-ready", "Boiler ready", -21, 9],
      ["warm.machine-warm", "Machine warm", -21, 31],
    ],
  }),
  "OSV-1984": () => ({
    type: "service",
    complaint: "It stood in the barn for twelve years.",
    since: 150,
    notes: [
      ["Inside", "Lime on the element flange, wiring brittle, one hose clamp missing."],
      ["Steam wand", "Spindle seized."],
    ],
    ticks: ["tools"],
    entries: [
      ["look-over.accessories", text("One portafilter, no baskets.")],
      ["parts.line", text("Descaled on the bench, boiler out: 4 mm of lime. Done.")],
      ["parts.line", text("Safety valve: cracked, replaced by type. Done.")],
    ],
    clocks: [],
  }),
  "BV-30514": () => ({
    type: "install",
    complaint: "",
    since: 18,
    notes: [["", "New, box sound. Nothing scratched."]],
    ticks: ["place.level", "place.room", "tools"],
    entries: [
      ["look-over.damage", { form: "choice", choice: "none" }],
      ["look-over.accessories", text("Single and double basket, blind basket, tamper, strip.")],
      ["water.hardness", figure(180), "180 ppm"],
    ],
    clocks: [],
  }),
};

/** Opens the demo's sheet for a machine, if it has one. */
export async function openSheet(
  db: Database,
  idOf: (name: string) => string,
  m: { serial: string; kind: KindId; machineId: string; workshopId: string; by: string; now: Date },
): Promise<void> {
  const sheet = SHEETS[m.serial]?.(m.now);
  if (!sheet) return;
  const job = idOf(`${m.serial} open`);
  const spec = await pinnedSpec(db, m.workshopId, null);
  await db.insert(t.job).values({
    id: job,
    workshopId: m.workshopId,
    machineId: m.machineId,
    type: sheet.type,
    kind: m.kind,
    complaint: sheet.complaint,
    schools: USUAL_SCHOOLS,
    specVersionId: spec?.id ?? null,
    decisionRule: "guarded",
    tolerance: OPV_TOLERANCE.regulate,
    startedBy: m.by,
    startedAt: addMinutes(m.now, -sheet.since),
  });
  let minute = -sheet.since + 2;
  const row = (name: string) => ({ id: idOf(`${job} ${name}`), jobId: job, by: m.by, at: addMinutes(m.now, minute++) });
  for (const [i, [area, words]] of sheet.notes.entries())
    await db.insert(t.note).values({ ...row(`note ${i}`), station: "look-over", area, text: words });
  for (const key of sheet.ticks) await db.insert(t.tick).values({ ...row(`tick ${key}`), key });
  for (const [i, [task, value, typed = ""]] of sheet.entries.entries())
    await db.insert(t.entry).values({ ...row(`entry ${i}`), task, value, typed });
  for (const [task, label, started, due] of sheet.clocks)
    await db.insert(t.timer).values({
      ...row(`clock ${task}`),
      at: addMinutes(m.now, started),
      task,
      label,
      dueAt: addMinutes(m.now, due),
    });
}
