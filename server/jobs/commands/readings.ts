import { dayIn } from "../../../core/day";
import { type KnobStanding, type ReadingDetail, type Standing, measured } from "../../../core/job";
import { faultsOf } from "../../../core/adjust";
import { type LoopId, moduleOf, partFor } from "../../../core/knobs";
import {
  AT_THE_GROUP,
  type GaugePlace,
  type Place,
  compactBudget,
  finerOf,
  isCoarse,
  outOfDate,
} from "../../../core/metrology";
import type { Transaction } from "../../../db/client";
import { dialPressure, dialResolution } from "../../../core/pressure";
import { type StationProgress, type Task, closedBefore, isEarly, tasksNow } from "../../../core/sheet";
import { adjustment, finding, reading, repair } from "../../../db/schema";
import { moment } from "../../moment";
import { Refused } from "../../refused";
import { type Target, inJob, keys } from "./in-job";
import { instrumentFor, kitOf } from "./instruments";

/** Readings, moves, repairs and findings of every knob. All append-only; a correction keeps the place of what it corrects. */

export interface ReadingInput {
  loop: LoopId;
  instrumentId: string;
  place: Place;
  typed: string;
  unit: string;
  indicated: number;
  detail: ReadingDetail;
  supersedes: string | null;
  reason: string;
}

type Act = "reading" | "move" | "repair";

/** Whether a station takes this of a knob: read on what was found it is not turned, and beside a gauge it may be read once more. */
function takes({ station }: StationProgress, id: LoopId, act: Act): boolean {
  const holds = (task: Task) =>
    "loop" in task && task.loop === id && (act === "reading" || task.kind !== "readings" || task.run === "as-left");
  return (
    station.tasks.some(holds) || (act === "reading" && station.beside?.loop === id && station.beside.reads === true)
  );
}

/** Ticks of a step that come before its knob is read or moved: a tap closed, a flow control open, pressure let out. */
function tickFirst({ station }: StationProgress, id: LoopId, act: Act, { records }: Standing): string | null {
  const due = tasksNow(station, records);
  const at = due.findIndex((t) => "loop" in t && t.loop === id);
  // Between adjustments it may be read as it stands; what is found and what is left only as it should be.
  if (due[at]?.kind !== (act === "move" ? "adjust" : "readings")) return null;
  const open = due.slice(0, Math.max(0, at)).find((t) => t.kind === "tick" && !t.optional && !records.values.has(t.id));
  return open ? `First: ${open.label}. Tick it on the sheet.` : null;
}

/** Refuses unless a step that works on this knob can be worked on, saying what stands in the way. */
function needKnob(standing: Standing, id: LoopId, act: Act): KnobStanding {
  const stations = standing.at(moment().getTime()).filter((p) => takes(p, id, act));
  if (stations.length === 0) throw new Refused("That knob is not on this sheet now. Load the page again.");
  // A step that is done can be opened again: a doubt is cheaper than a wrong figure.
  const open = stations.filter(
    (p) =>
      p.state === "ready" ||
      p.state === "running" ||
      (p.state === "done" && tasksNow(p.station, standing.records).length > 0),
  );
  const [first] = open;
  if (!first)
    throw new Refused(
      stations.find((p) => p.state === "blocked")?.why ?? "This step was skipped. Undo the skip, then go on.",
    );
  const ready = open.filter((p) => p.state === "ready");
  const waits = (ready.length > 0 ? ready : open).map((p) => tickFirst(p, id, act, standing));
  if (waits.every((w) => w !== null)) throw new Refused(waits[0]!);
  return anyKnob(standing, id);
}

/** A knob of this sheet, whatever state its stations are in. */
function anyKnob({ loops }: Standing, id: LoopId): KnobStanding {
  const found = loops.find((l) => l.loop.id === id);
  if (!found) throw new Refused("That knob is not on this sheet now. Load the page again.");
  return found;
}

export function addReading(target: Target, input: ReadingInput) {
  return inJob(target, "reading", input, async (tx, job, standing) => {
    const stands = standing();
    // A slip is found when it is found: correcting is allowed until the job is signed.
    const at = input.supersedes ? anyKnob(stands, input.loop) : needKnob(stands, input.loop, "reading");
    const { loop, stop } = at;
    if (stop && !input.supersedes)
      throw new Refused(
        "The test has ended: no water returned while the pressure was over its limit. Save the fault, save what was renewed or freed, or correct the reading.",
      );
    const gauge = await instrumentFor(
      tx,
      { workshopId: target.by.workshop.id, machineId: job.machine.id },
      input.instrumentId,
    );
    if (gauge.quantity !== moduleOf(loop.at.knob).reads.quantity)
      throw new Refused("That instrument measures something else.", "instrumentId");
    if (loop.places.length > 0 && !loop.places.includes(input.place))
      throw new Refused(`The gauge for this sits at the ${loop.places.join(" or ")}.`, "place");
    refuseMissing(at, input);
    const { toGroup, toGroupU } = job.particulars.gauge;
    const place: GaugePlace & { at: Place } =
      input.place === "pump" || input.place === "flow"
        ? { at: input.place, place: "pump", toGroup, u: toGroupU }
        : { at: input.place, place: "group", toGroup: 0, u: 0 };
    const { indicated, resolution } = shownOn(stands, input, gauge.resolution);
    if (indicated > gauge.highest || indicated < gauge.lowest)
      throw new Refused(
        gauge.quantity === "pressure"
          ? `This gauge goes from ${gauge.lowest} to ${gauge.highest} bar. It can’t have shown that.`
          : `This instrument goes from ${gauge.lowest} to ${gauge.highest}. It can’t have shown that.`,
        "reading",
      );
    const sat = { place: place.at, toGroup: place.toGroup, toGroupU: place.u };
    const m = asTyped(() =>
      measured(
        [{ at: new Date(), indicated, detail: input.detail, ...sat, instrument: { ...gauge, resolution } }],
        loop,
        stands.kind.pump,
      ),
    );
    const { supersedes, reason, typed, unit } = input;
    const was = job.readings.find((r) => r.id === supersedes);
    // Behind a closed tap only the pump side sees the pump. A correction was read as the line it replaces.
    const closed = was
      ? was.detail.tap === "closed"
      : stands.records.values.has("tap.closed") && loop.at.knob === "opv";
    if (closed && !was && place.at === "group")
      throw new Refused(
        "The isolation tap is closed: a gauge at the group sees no pump. Read the gauge on the pump side.",
        "place",
      );
    const finer = isCoarse(m.uCommon, loop.tolerance) ? await finerInKit(tx, target, at, { m, place }) : null;
    const detail: ReadingDetail = {
      ...input.detail,
      ...(closed ? { tap: "closed" as const } : {}),
      ...(finer ? { finer: finer.name } : {}),
    };
    await tx.insert(reading).values({
      ...keys(target),
      ...sat,
      ...loop.at,
      instrumentId: gauge.id,
      typed,
      unit,
      detail,
      supersedes,
      reason,
      indicated,
      sequence: sequenceFor(stands, input, "reading"),
      value: m.value,
      u: m.u,
      uCommon: m.uCommon,
      budget: compactBudget(m.budget),
      // A correction was read when its line was; grams of dry coffee are what they are on a cold machine too.
      early: moduleOf(loop.at.knob).reads.cold
        ? false
        : (was?.early ?? isEarly(stands.records, job.level, moment().getTime())),
      instrumentOutOfDate: outOfDate(gauge, dayIn(job.zone, moment().getTime())),
    });
  });
}

/** The instrument of the kit that tells more of this knob than what it was just read with; null where none does. */
async function finerInKit(
  tx: Transaction,
  { by }: Target,
  { loop }: KnobStanding,
  { m, place }: { m: { uCommon: number }; place: GaugePlace },
) {
  const { quantity } = moduleOf(loop.at.knob).reads;
  const kit = await kitOf(tx, by.workshop.id, quantity);
  return finerOf(
    m.uCommon,
    loop.tolerance,
    kit.filter((g) => loop.places.length === 0 || loop.places.includes(g.place)),
    moment(),
    (g) => (g.place === "pump" || g.place === "flow" ? place : AT_THE_GROUP),
  );
}

/** What has to stand beside a reading of this knob. */
function refuseMissing({ loop: { with: beside } }: KnobStanding, { detail }: ReadingInput): void {
  if (beside.setPoint && detail.setPoint === undefined)
    throw new Refused("Type the set point on the display.", "setPoint");
  if (beside.amount?.grind && detail.amount === undefined)
    throw new Refused("Type the seconds on the timer: the rate is worked out from them.", "amount");
  if (beside.amount?.grind && detail.setting === undefined)
    throw new Refused("Type where the grind stands: the rate belongs to it.", "setting");
}

/** Outside its correction table an instrument, and outside its scale a dial, says nothing. */
function asTyped<T>(work: () => T): T {
  try {
    return work();
  } catch (error) {
    if (error instanceof RangeError) throw new Refused(error.message, "reading");
    throw error;
  }
}

/** A needle on a dial without figures is turned into bar by the model’s scale. */
function shownOn({ card }: Standing, input: ReadingInput, resolution: number) {
  const { clock } = input.detail;
  if (clock === undefined) return { indicated: input.indicated, resolution };
  const { dial } = card;
  if (!dial) throw new Refused("This model’s dial has figures: type what it shows.", "reading");
  return asTyped(() => ({
    indicated: dialPressure(dial, clock),
    resolution: Math.max(resolution, dialResolution(dial, clock)),
  }));
}

export interface MoveInput {
  loop: LoopId;
  /** Signed in the hand’s sense. */
  amount: number;
  typed: string;
  /** Where pressure stays behind the basket: the gauge reads zero, it is off and unplugged. */
  zero: boolean;
  supersedes: string | null;
  reason: string;
}

export function addMove(target: Target, input: MoveInput) {
  return inJob(target, "move", input, async (tx, _, standing) => {
    const stands = standing();
    const { loop, advice, stop } = input.supersedes
      ? anyKnob(stands, input.loop)
      : needKnob(stands, input.loop, "move");
    if (!loop.hand) throw new Refused("There is nothing to adjust here now: it is only read.");
    const closed = input.supersedes ? null : closedBefore(stands, input.loop);
    if (closed) throw new Refused(closed);
    if (Math.abs(input.amount) > loop.hand.most)
      throw new Refused(
        `More than ${loop.hand.most} ${loop.hand.unit.many} in one go is not logged as one move. Read in between.`,
        "amount",
      );
    if (loop.trapsPressure && (!input.zero || target.by.way === "program") && !input.supersedes)
      throw new Refused(
        "Pressure stands behind the blanked portafilter. Bleed it until the gauge reads zero, switch off and unplug, then tick the box.",
        "zero",
      );
    const action = stop ? null : advice?.action;
    await tx.insert(adjustment).values({
      ...keys(target),
      ...loop.at,
      amount: input.amount,
      typed: input.typed,
      supersedes: input.supersedes,
      reason: input.reason,
      sequence: sequenceFor(stands, input, "move"),
      advised: action?.kind === "move" ? action.amount * loop.hand.sign : null,
    });
  });
}

export interface RepairInput {
  loop: LoopId;
  text: string;
  supersedes: string | null;
  reason: string;
}

/** Something of a knob was renewed or freed: from here on it is a new machine to the engine. */
export function addRepair(target: Target, input: RepairInput) {
  return inJob(target, "repair", input, async (tx, _, standing) => {
    const stands = standing();
    const { loop } = anyKnob(stands, input.loop);
    const { text, supersedes, reason } = input;
    await tx.insert(repair).values({
      ...keys(target),
      ...loop.at,
      sequence: sequenceFor(stands, input, "repair"),
      text,
      supersedes,
      reason,
    });
  });
}

/** A correction keeps the place of what it corrects, which is a line of the same knob; anything else comes last. */
function sequenceFor(
  { job: { readings, moves, repairs } }: Standing,
  { loop, supersedes }: { loop: LoopId; supersedes: string | null },
  act: Act,
): number {
  const all = [...readings, ...moves, ...repairs];
  if (!supersedes) return Math.max(0, ...all.map((e) => e.sequence)) + 1;
  const lines = { reading: readings, move: moves, repair: repairs }[act];
  const old = lines.find((e) => e.id === supersedes && e.loop === loop);
  if (!old) throw new Refused("What should be corrected is not on this sheet.");
  if (all.some((e) => e.supersedes === supersedes))
    throw new Refused("This line has been corrected already. Correct the newer one.");
  return old.sequence;
}

/** Takes the fault on the sheet as the end of adjusting; the line for work and parts goes with it. */
export function takeFault(target: Target, input: { loop: LoopId; text: string }) {
  return inJob(target, "finding", input, async (tx, _, standing) => {
    const { loop, advice, stop } = needKnob(standing(), input.loop, "move");
    const faults = stop ? [stop.id] : advice?.action.kind === "fault" ? faultsOf(advice.action) : [];
    const [fault] = faults;
    if (!fault) throw new Refused("The sheet shows no fault now. Nothing changed: take another reading first.");
    const part = partFor(loop.at.knob, faults);
    // How sure it is stands on record with it, and the parts.
    const text = [input.text, stop?.chance, part && `Parts: ${part}.`].filter(Boolean).join(" ");
    await tx.insert(finding).values({ ...keys(target), ...loop.at, fault, text });
  });
}
