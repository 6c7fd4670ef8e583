import { addDays, addMinutes, formatISO } from "date-fns";
import { type ReadingDetail, scopesOfPreset } from "../../core/job";
import type { TaskValue } from "../../core/sheet";
import type { How, WorkLine } from "../../core/work";
import { compactBudget } from "../../core/metrology";
import { USUAL_SCHOOLS } from "../../core/school";
import { type LoopId, atOf } from "../../core/knobs";
import { particularsNow } from "../queries/machines";
import { pinnedSpec } from "../queries/specs";
import type { Database } from "../client";
import * as t from "../schema";
import { kitItem, readBy } from "./kit";
import { type SeedShot, insertShots } from "./shots";

/** Whole sheets open on the demo's bench, each cut off at another stage. All invented. */

interface OpenSheet {
  type: "install" | "service" | "handover";
  complaint: string;
  /** Minutes since it was started. */
  since: number;
  notes: [area: string, text: string][];
  ticks: string[];
  entries: [task: string, value: TaskValue, typed?: string][];
  /** Clocks that run: started and due, minutes from now. */
  clocks: [task: string, label: string, started: number, due: number][];
  /** Clocks that have run out as they should: minutes since they ended. */
  ended?: [task: string, label: string, ended: number][];
  /** Readings and moves, in order. */
  log?: Logged[];
  /** Shots pulled so far, each as the one before but for what is said. */
  shots?: SeedShot[];
}

type Logged =
  | { loop: LoopId; with: string; indicated: number; detail?: ReadingDetail; ago: number }
  | { loop: LoopId; amount: number; typed: string; ago: number };

const worked = (what: string, how: How, reason: string, more: Partial<WorkLine> = {}): TaskValue => ({
  form: "work",
  what,
  how,
  reason,
  seen: "",
  outcome: "done",
  until: null,
  safetyCritical: false,
  minutes: null,
  price: null,
  part: null,
  licensed: null,
  loop: null,
  exception: "",
  ...more,
});
const text = (words: string): TaskValue => ({ form: "text", text: words });
const figure = (value: number): TaskValue => ({ form: "figure", value });

const measured = (value: number, u: number) => ({ value, u });
const row = (cells: Record<string, { value?: number; u?: number; choice?: string }>): TaskValue => ({
  form: "row",
  cells,
});
const run = (pulses: number, grams: number): TaskValue =>
  row({ pulses: { value: pulses }, grams: measured(grams, 0.12) });

/** What is done before a service reaches temperature and volumes. */
const HOT_TICKS = ["tools", "covers", "refit", "heat.on", "steam.dry"];
const ACCESSORIES: [string, TaskValue] = ["look-over.accessories", text("Single, double and blind basket, tamper.")];

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
      [
        "parts.line",
        worked("Boiler", "descaled-apart", "4 mm of lime", { seen: "boiler out and taken apart", minutes: 150 }),
      ],
      [
        "parts.line",
        worked("Safety valve", "renewed", "cracked at the seat", {
          safetyCritical: true,
          critical: { part: "safety-valve", act: "replaced-tested" },
          licensed: { name: "Orrin Feld", licence: "PV 2217" },
          minutes: 30,
        }),
      ],
      ["parts.line", worked("Steam spindle", "renewed", "seized", { outcome: "open" })],
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
      ["water.decision", { form: "choice", choice: "filter" }],
    ],
    clocks: [],
  }),
  "CA-T-4432": () => ({
    type: "service",
    complaint: "Sour since the new beans, and before that too.",
    since: 75,
    notes: [["", "Clean. Warm when I came, display at 93."]],
    ticks: HOT_TICKS,
    entries: [ACCESSORIES, ["water.hardness", figure(38), "38 ppm"]],
    clocks: [],
    ended: [
      ["warm.boiler-ready", "Boiler ready", 55],
      ["warm.machine-warm", "Machine warm", 30],
    ],
    log: [
      { loop: "opv", with: "gauge A", indicated: 8.9, detail: { returned: "seen" }, ago: 27 },
      { loop: "opv", with: "gauge A", indicated: 8.9, ago: 26 },
      {
        loop: "offset",
        with: "probe T",
        indicated: 90.9,
        detail: {
          setPoint: 93,
          by: "plateau",
          recovery: null,
          curve: [
            [0, 63.2],
            [2, 78.4],
            [4, 86.1],
            [6, 89.4],
            [8, 90.6],
            [10, 90.9],
            [12, 91.0],
            [14, 90.9],
            [16, 91.0],
            [18, 90.8],
          ],
        },
        ago: 14,
      },
      { loop: "offset", amount: 2, typed: "2 plus", ago: 9 },
      { loop: "offset", with: "probe T", indicated: 91, detail: { setPoint: 93 }, ago: 7 },
    ],
  }),
  "HP2-1142": () => ({
    type: "handover",
    complaint: "",
    since: 50,
    notes: [["", "Serviced last week. New blend since Monday."]],
    ticks: ["tools", "heat.on", "steam.dry"],
    entries: [
      ACCESSORIES,
      ["water.hardness", figure(62), "62 ppm"],
      ["water.decision", { form: "choice", choice: "filter" }],
      ["volumes.meter.1", run(60, 31.8)],
      ["volumes.meter.1", run(120, 61.9)],
      ["volumes.meter.1", run(200, 101.6)],
      ["volumes.meter.1", run(120, 61.5)],
      ["volumes.meter.2", run(60, 34.9)],
      ["volumes.meter.2", run(120, 68.8)],
      ["volumes.meter.2", run(200, 113.1)],
      ["volumes.meter.2", run(120, 68.1)],
      ["volumes.kept", row({ dose: measured(18, 0.12), water: { value: 61 }, cup: measured(38.2, 0.12) })],
    ],
    clocks: [],
    ended: [
      ["warm.boiler-ready", "Boiler ready", 25],
      ["warm.machine-warm", "Machine warm", 10],
    ],
    log: [
      { loop: "pressurestat", with: "boiler", indicated: 1.4, detail: { cutIn: 1.2 }, ago: 20 },
      { loop: "pressurestat", with: "boiler", indicated: 1.4, detail: { cutIn: 1.2 }, ago: 18 },
      { loop: "dose-1", with: "scale", indicated: 44.6, ago: 6 },
    ],
    shots: [44.2, 43.6, 44.5].map((grams, i) => ({
      ago: 5 - i,
      by: "double" as const,
      grinder: { name: "Osterley Flat 64", finer: -1 as const, step: 1 },
      setting: 10,
      dose: 18.1,
      yield: grams,
      seconds: 27 + i / 2,
      firstDrop: 6,
      flow: "even" as const,
    })),
  }),
  // Dialling in: it choked, it runs slow, one more step.
  "NTB-10233": () => ({
    type: "handover",
    complaint: "",
    since: 58,
    notes: [["", "Owner’s own, cleaned last week. Burrs brushed."]],
    ticks: ["tools", "heat.on", "steam.dry", "grinder.purged"],
    entries: [
      ["look-over.accessories", text("Single and double basket, tamper, jug.")],
      ["water.hardness", figure(41), "41 ppm"],
      ["grinder.hopper", { form: "choice", choice: "enough" }],
    ],
    clocks: [],
    ended: [
      ["warm.boiler-ready", "Boiler ready", 50],
      ["warm.machine-warm", "Machine warm", 35],
    ],
    log: [
      { loop: "dose-1", with: "scale", indicated: 58.2, ago: 30 },
      { loop: "basket", with: "scale", indicated: 16.3, detail: { amount: 14.5 }, ago: 28 },
      { loop: "basket", amount: 1.25, typed: "1.25 plus", ago: 27 },
      { loop: "basket", with: "scale", indicated: 18.1, detail: { amount: 15.75 }, ago: 25 },
      { loop: "basket", with: "scale", indicated: 17.9, detail: { amount: 15.75 }, ago: 24 },
    ],
    shots: [
      { ago: 18, setting: 5, seconds: 58, yield: 6, choked: true, flow: "drip", peak: 11.2, amount: 15.75 },
      {
        ago: 12,
        setting: 11,
        seconds: 19.8,
        yield: 36.4,
        firstDrop: 4.2,
        flow: "even",
        taste: "sour",
        peak: 9.1,
        dose: 18.1,
      },
      { ago: 6, setting: 9, seconds: 23.6, yield: 35.7, firstDrop: 5.8, flow: "even", peak: 9.2, dose: 17.9 },
    ],
  }),
  // A timed grinder whose grind was moved since its seconds were set.
  "NTD-3307": () => ({
    type: "handover",
    complaint: "",
    since: 40,
    notes: [["", "New burrs run in."]],
    ticks: ["tools", "grinder.purged"],
    entries: [
      ["look-over.accessories", text("Fork, brush.")],
      ["grinder.hopper", { form: "choice", choice: "enough" }],
      ["grinder.setting", figure(14), "14"],
    ],
    clocks: [],
    log: [
      { loop: "basket", with: "scale", indicated: 16.4, detail: { amount: 8, setting: 10 }, ago: 30 },
      { loop: "basket", amount: 0.8, typed: "0.8 plus", ago: 29 },
      { loop: "basket", with: "scale", indicated: 18.1, detail: { amount: 8.8, setting: 10 }, ago: 28 },
      { loop: "basket", with: "scale", indicated: 18, detail: { amount: 8.8, setting: 10 }, ago: 26 },
    ],
  }),
};

/** Opens the demo's sheet for a machine, if it has one. */
export async function openSheet(
  db: Database,
  idOf: (name: string) => string,
  m: {
    serial: string;
    machineId: string;
    workshopKey: string;
    workshopId: string;
    by: string;
    now: Date;
  },
): Promise<void> {
  const sheet = SHEETS[m.serial]?.(m.now);
  if (!sheet) return;
  const job = idOf(`${m.serial} open`);
  const spec = await pinnedSpec(db, m.workshopId, null);
  const particulars = await particularsNow(db, m.workshopId, m.machineId);
  await db.insert(t.job).values({
    id: job,
    workshopId: m.workshopId,
    machineId: m.machineId,
    scopes: scopesOfPreset(sheet.type, particulars),
    particulars,
    complaint: sheet.complaint,
    schools: USUAL_SCHOOLS,
    specVersionId: spec?.id ?? null,
    decisionRule: "guarded",
    startedBy: m.by,
    startedAt: addMinutes(m.now, -sheet.since),
  });
  let minute = -sheet.since + 2;
  const row = (name: string, ago?: number) => ({
    id: idOf(`${job} ${name}`),
    workshopId: m.workshopId,
    jobId: job,
    by: m.by,
    at: addMinutes(m.now, ago === undefined ? minute++ : -ago),
  });
  for (const [i, [area, words]] of sheet.notes.entries())
    await db.insert(t.note).values({ ...row(`note ${i}`), station: "look-over", area, text: words });
  for (const key of sheet.ticks) await db.insert(t.tick).values({ ...row(`tick ${key}`), key });
  for (const [i, [task, value, typed = ""]] of sheet.entries.entries())
    await db
      .insert(t.entry)
      .values({ ...row(`entry ${i}`, task === "grinder.setting" ? 10 : undefined), task, value, typed });
  for (const [task, label, started, due] of sheet.clocks)
    await db.insert(t.timer).values({
      ...row(`clock ${task}`),
      at: addMinutes(m.now, started),
      task,
      label,
      dueAt: addMinutes(m.now, due),
    });
  for (const [task, label, ended] of sheet.ended ?? [])
    await db.insert(t.timer).values({
      ...row(`ended ${task}`),
      at: addMinutes(m.now, -sheet.since + 4),
      task,
      label,
      dueAt: addMinutes(m.now, -ended),
      endedAt: addMinutes(m.now, -ended),
      endedBy: m.by,
      outcome: "done",
    });
  for (const [i, line] of (sheet.log ?? []).entries()) {
    const base = { ...row(`log ${i}`, line.ago), sequence: i + 1, ...atOf(line.loop)! };
    if ("amount" in line) {
      await db.insert(t.adjustment).values({ ...base, amount: line.amount, typed: line.typed, advised: line.amount });
      continue;
    }
    const { indicated, detail = {} } = line;
    const own = line.with === "boiler";
    const read = readBy(own ? BOILER : kitItem(line.with), line.loop, indicated);
    await db.insert(t.reading).values({
      ...base,
      instrumentId: own ? idOf(`${m.serial} boiler`) : idOf(`${m.workshopKey} ${line.with}`),
      place: own ? "boiler" : "group",
      toGroup: 0,
      toGroupU: 0,
      typed: String(indicated),
      unit: { offset: "C", "dose-1": "g", basket: "g" }[line.loop as string] ?? "bar",
      indicated,
      detail,
      value: read.value - (detail.setPoint ?? 0),
      u: read.u,
      uCommon: read.uCommon,
      budget: compactBudget(read.budget),
    });
  }
  await insertShots(
    db,
    { workshopId: m.workshopId, jobId: job, by: m.by, scale: idOf(`${m.workshopKey} scale`), idOf },
    m.now,
    sheet.shots ?? [],
  );
}

/** The boiler’s own gauge, as db/own-gauge.ts has it. */
const BOILER = {
  span: [0, 3] as [number, number],
  resolution: 0.05,
  error: { form: "class" as const, percentOfSpan: 1.6 },
  repeatability: 0.01,
};
