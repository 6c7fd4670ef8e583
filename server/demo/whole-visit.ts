import { randomUUID } from "node:crypto";
import { and, eq } from "drizzle-orm";
import { dayIn } from "../../core/day";
import {
  type KnobStanding,
  type ReadingDetail,
  type Standing,
  adviceWords,
  dialling,
  reasonNeeded,
  standingOf,
  standingShots,
} from "../../core/job";
import type { AmountKind } from "../../core/grinder";
import { type LoopId, moduleOf } from "../../core/knobs";
import { type InstrumentQuantity, type KitInstrument, type Place, correctionAt } from "../../core/metrology";
import { type Preset, type Scope, type Task, isDone, tasksNow } from "../../core/sheet";
import type { Pull } from "../../core/shot";
import { instrumentFrom, jobFrom } from "../../db/queries/job-from";
import { sheetRow } from "../../db/queries/jobs";
import { kitOf } from "../../db/queries/machines";
import { job } from "../../db/schema";
import type { SignedIn } from "../auth";
import { database } from "../database";
import { addMove, addReading, addRepair, takeFault } from "../jobs/commands/readings";
import { recordShot, takeShot } from "../jobs/commands/shots";
import { sign } from "../jobs/commands/signing";
import { startJob } from "../jobs/commands/start";
import { addEntry, addRow, skipStation } from "../jobs/commands/tasks";
import { atMoment } from "../moment";
import type { MachineTwin } from "./machine-twin";
import { workPlain } from "./plain-task";

/** A whole visit worked by made-up hands: the very commands the screens use, on a made-up machine, at a moment of the past. */

export interface Visit {
  jobId: string;
  by: SignedIn;
  machineId: string;
  at: Date;
  visit: Preset | readonly Scope[];
  complaint: string;
  coffee: Pull["coffee"];
  /** What is typed for a task, where the usual will not do. */
  typed?: Readonly<Record<string, string>>;
  /** Stations left out, with the reason. */
  skips?: Readonly<Record<string, string>>;
  /** What is found broken and renewed before it is adjusted. */
  repair?: { loop: LoopId; text: string };
  remark?: string;
}

/** Where an amount stands when it is first read. */
const START: Readonly<Record<AmountKind, number>> = {
  seconds: 8,
  clock: 14,
  threads: 6,
  degrees: 0,
  spring: 2,
  notch: 5,
  pulses: 110,
};

/** More steps than any sheet takes. */
const MOST = 400;
/** s at most between one entry and the next: hands that know the work. */
const PACE = 70;

/** Works the visit to its signature. One that is signed already is left as it is; one cut short is gone on with. */
export async function workVisit(visit: Visit, twin: MachineTwin): Promise<void> {
  const { jobId, by } = visit;
  let clock = visit.at.getTime();
  const hands = new HandsOf(visit, twin, {
    now: () => clock,
    pass: (seconds) => (clock += 1000 * seconds),
  });
  await atMoment(
    () => new Date(clock),
    async () => {
      const [begun] = await database()
        .select({ state: job.state })
        .from(job)
        .where(and(eq(job.workshopId, by.workshop.id), eq(job.id, jobId)));
      if (begun?.state === "signed") return;
      await startJob(by, jobId, {
        machineId: visit.machineId,
        visit: visit.visit,
        complaint: visit.complaint,
        schools: {},
        level: "machine-warm",
        specCardId: null,
      });
      for (let i = 0; i < MOST; i++) if (!(await hands.step())) return;
      throw new Error(`The visit of ${visit.at.toISOString()} comes to no end.`);
    },
  );
}

interface Clock {
  now(): number;
  pass(seconds: number): void;
}

class HandsOf {
  private kit: KitInstrument[] | null = null;

  constructor(
    private readonly visit: Visit,
    private readonly twin: MachineTwin,
    private readonly clock: Clock,
  ) {}

  private target = () => ({ by: this.visit.by, jobId: this.visit.jobId, commandId: randomUUID() });

  /** The next thing done. @returns false once the job is signed */
  async step(): Promise<boolean> {
    const row = (await sheetRow(database(), this.visit.by.workshop.id, this.visit.jobId))!;
    if (row.state === "signed") return false;
    const standing = standingOf(jobFrom(row));
    this.clock.pass(20 + Math.round(Math.abs(this.twin.near(0, PACE / 3))));
    const now = this.clock.now();
    const stations = standing.at(now);
    for (const { station, state } of stations) {
      if (state !== "ready") continue;
      const reason = this.visit.skips?.[station.id];
      if (reason && station.skippable) {
        await skipStation(this.target(), { station: station.id, reason });
        return true;
      }
      const at = { records: standing.records, now, loops: standing.loops.map((l) => l.loop) };
      const tasks = tasksNow(station, standing.records);
      const undone = tasks.find((t) => (!t.optional || this.visit.typed?.[t.id]) && !isDone(t, at));
      if (!undone) continue;
      await this.work(undone, standing);
      return true;
    }
    // Nothing takes hands now: what runs by itself is waited for.
    const until = stations.flatMap((s) => (s.state === "running" ? [s.until ?? now] : [])).sort((a, b) => a - b)[0];
    if (until === undefined) throw new Error(`Nothing is left to do, and ${this.visit.jobId} is not signed.`);
    this.clock.pass((until - now) / 1000 + 5);
    return true;
  }

  private async work(task: Task, standing: Standing): Promise<unknown> {
    switch (task.kind) {
      case "readings":
      case "loop":
      case "adjust":
        return this.knob(
          standing.loops.find((l) => l.loop.id === task.loop)!,
          standing,
        );
      case "table":
        return this.row(task);
      case "shots":
        return this.shots(standing);
      case "sign":
        return sign(this.target(), { name: this.visit.by.name, remark: this.visit.remark ?? "" }).catch(
          (error: Error) => {
            if (!/inside its tolerance/.test(error.message)) throw error;
            return sign(this.target(), {
              name: this.visit.by.name,
              remark: "Left as it is: the owner decides on the repair.",
            });
          },
        );
      case "figure": {
        const [low, high] = task.usual;
        const { lower = low, upper = high } = task.tolerance ?? {};
        const typed =
          this.visit.typed?.[task.id] ?? this.twin.near((lower + upper) / 2, (upper - lower) / 12).toFixed(2);
        const read = task.instrument ? await this.instrument(task.instrument, task.place ? [task.place] : []) : null;
        return addEntry(this.target(), { task: task.id, typed, unit: "", sure: true, instrumentId: read?.id });
      }
      default:
        return workPlain(task, {
          target: this.target,
          // A warm-up is not waited for twice: it takes hands only once its clock has run.
          wait: (seconds) => Promise.resolve(this.clock.pass(task.kind === "warm" ? 0 : seconds)),
          typed: this.visit.typed?.[task.id],
          today: dayIn(standing.job.zone, this.clock.now()),
        });
    }
  }

  private async instrument(quantity: InstrumentQuantity, places: readonly Place[], own: readonly KitInstrument[] = []) {
    this.kit ??= (await kitOf(database(), this.visit.by.workshop.id)).map(instrumentFrom);
    const fits = (k: KitInstrument) => k.quantity === quantity && (places.length === 0 || places.includes(k.place));
    return [...this.kit, ...own].find(fits) ?? null;
  }

  private async knob(knob: KnobStanding, standing: Standing): Promise<unknown> {
    const { loop, record, advice, stop } = knob;
    const { repair } = this.visit;
    if (repair?.loop === loop.id && record.events.length === 0) this.twin.wear(loop);
    if (repair?.loop === loop.id && record.events.includes("reading") && !record.events.includes("repair")) {
      this.twin.renew(loop);
      return addRepair(this.target(), { loop: loop.id, text: repair.text, supersedes: null, reason: "" });
    }
    const action = stop ? null : advice?.action;
    // Against a closed tap a reading is none of the sheet’s: the log has it.
    const last = knob.log.findLast((line) => line.stands)?.kind;
    if (action?.kind === "move" && last !== "move" && loop.hand) {
      const amount = action.amount * loop.hand.sign;
      await addMove(this.target(), {
        loop: loop.id,
        amount,
        typed: `${Math.abs(amount)} ${amount > 0 ? loop.hand.plus : loop.hand.minus}`,
        zero: true,
        supersedes: null,
        reason: "",
      });
      this.twin.move(loop, action.amount);
      this.clock.pass(60 * loop.settle);
      return;
    }
    if (action?.kind === "fault")
      return takeFault(this.target(), { loop: loop.id, text: "Left for now: the part is on order." });
    return this.read(knob, standing);
  }

  private async read({ loop, log }: KnobStanding, standing: Standing): Promise<unknown> {
    const { job } = standing;
    const { reads } = moduleOf(loop.at.knob);
    const { quantity } = reads;
    // Against a closed tap only the pump side sees the pump.
    const tapped = loop.with.brew === true && standing.records.values.has("tap.closed");
    const places = tapped ? loop.places.filter((p) => p !== "group") : loop.places;
    const gauge =
      (await this.instrument(quantity, places, job.machine.instruments)) ??
      (await this.instrument(quantity, loop.places, job.machine.instruments));
    if (!gauge) throw new Error(`The kit has nothing that reads ${quantity} for ${loop.title}.`);
    const setPoint = 93;
    const true_ = this.twin.read(loop) + (loop.with.setPoint ? setPoint : 0);
    const steps = Math.round(
      (true_ - correctionAt(gauge, Math.min(gauge.highest, Math.max(gauge.lowest, true_)))) / gauge.resolution,
    );
    const indicated = Number((steps * gauge.resolution).toFixed(3));
    const amount = log.reduce(
      (sum, line) => (line.kind === "move" && line.stands ? sum + line.row.amount : sum),
      START[loop.with.amount?.kind ?? "clock"],
    );
    const detail: ReadingDetail = {
      ...(loop.with.setPoint ? { setPoint, by: "plateau" as const } : {}),
      ...(loop.with.band ? { cutIn: Number((indicated - 0.2).toFixed(2)) } : {}),
      ...(loop.with.amount ? { amount } : {}),
      ...(loop.with.amount?.grind ? { setting: 10 } : {}),
    };
    const unit = { pressure: "bar", temperature: "C", mass: "g", time: "s", hardness: "mgL" }[quantity];
    return addReading(this.target(), {
      loop: loop.id,
      instrumentId: gauge.id,
      place: places.includes(gauge.place) ? gauge.place : (places[0] ?? "group"),
      typed: String(indicated),
      unit,
      indicated,
      detail,
      supersedes: null,
      reason: "",
    });
  }

  private async row(task: Extract<Task, { kind: "table" }>): Promise<unknown> {
    const cells: Record<string, string> = {};
    const instruments: Record<string, string> = {};
    for (const { name, type, optional } of task.columns) {
      if (optional) continue;
      if (type.kind === "choice") cells[name] = type.options[0]!.value;
      else {
        const [least, most] = type.possible;
        const middle = type.kind === "count" ? Math.round((least + Math.min(most, 200)) / 2) : (least + most) / 2;
        cells[name] = String(middle);
        const read =
          type.kind === "quantity" && type.instrument
            ? await this.instrument(type.instrument, type.place ? [type.place] : [])
            : null;
        if (read) instruments[name] = read.id;
      }
    }
    return addRow(this.target(), { task: task.id, cells, instruments, unit: "bar" });
  }

  /** Dialled in by the advice, and the shot that makes it taken. */
  private async shots(standing: Standing): Promise<unknown> {
    const { recipe, job, kind, card } = standing;
    const shots = standingShots(job);
    const last = shots.at(-1);
    const words = adviceWords(dialling(standing), standing);
    if (last && (words.kind === "keep" || shots.length >= 8)) {
      const reason = reasonNeeded(standing, last) ? "Near enough for this coffee: the owner likes it so." : "";
      return takeShot(this.target(), { shotId: last.id, reason });
    }
    const setting = words.setting ?? last?.pull.setting ?? 15;
    const scale = await this.instrument("mass", []);
    const seconds = this.twin.shot(setting, recipe.seconds.target);
    const one = (x: number) => Number(x.toFixed(1));
    const own = kind.grinder !== "separate";
    await recordShot(this.target(), {
      pull: {
        group: 1,
        by: "manual",
        coffee: this.visit.coffee,
        grinder: { name: own ? "built in" : job.machine.grinder || "Osterley Flat 64", ...card.grindScale },
        setting,
        dose: one(this.twin.near(recipe.dose.target, 0.1)),
        basket: recipe.dose.target < 12 ? "single" : "double",
        seconds: one(seconds),
        from: "pump",
        firstDrop: one(0.22 * seconds),
        yield: one(this.twin.near(recipe.yield.target, 0.4)),
        choked: false,
        flow: seconds < 18 ? "gush" : "even",
        ...(this.twin.chance(0.5) ? { taste: seconds < 20 ? ("sour" as const) : ("balanced" as const) } : {}),
      },
      typed: {},
      scaleId: scale?.id ?? null,
      clockId: null,
      supersedes: null,
      reason: "",
      sure: true,
    });
    this.clock.pass(90);
  }
}
