import { and, eq } from "drizzle-orm";
import { type LoopId, type Place, READS, faultWords } from "../../core/loop";
import { type GaugePlace, outOfDate } from "../../core/metrology";
import { dialPressure, dialResolution } from "../../core/pressure";
import { isEarly } from "../../core/sheet";
import type { Transaction } from "../../db/client";
import type { SheetRow } from "../../db/queries/jobs";
import { type ReadingDetail, adjustment, finding, instrument, reading } from "../../db/schema";
import { measured } from "./events";
import { type Target, inJob, keys } from "./record";
import { Refused } from "../refused";
import { type LoopStand, type Stand, loopOf, standOf } from "./stand";

/** Readings, moves and findings of every loop. All append-only; a correction keeps the place of what it corrects. */

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

/** Refuses unless a station that works on this loop is ready, saying what stands in the way. */
function needLoop(row: SheetRow, id: LoopId, run: "reading" | "move"): { stand: Stand; at: LoopStand } {
  const stand = standOf(row);
  const holds = (task: { kind: string }) =>
    "loop" in task &&
    task.loop === id &&
    (run === "reading" || task.kind !== "readings" || ("run" in task && task.run === "as-left"));
  const stations = stand
    .at(Date.now())
    .filter((p) => p.station.tasks.some(holds) || (id === "opv" && run === "reading" && p.station.id === "refit"));
  if (stations.length === 0) throw new Refused("That is not on this sheet now. Load the page again.");
  // A loop of one station can be read on after it is done: a doubt is cheaper than a wrong figure.
  const open = stations.find(
    (p) => p.state === "ready" || (p.state === "done" && p.station.tasks.some((t) => t.kind === "loop")),
  );
  if (!open)
    throw new Refused(stations.find((p) => p.state === "blocked")?.why ?? `This job takes no more ${run}s here.`);
  return { stand, at: loopOf(stand, id) };
}

/** A loop of this sheet, whatever state its stations are in. */
function anyLoop(row: SheetRow, id: LoopId): { stand: Stand; at: LoopStand } {
  const stand = standOf(row);
  const at = stand.loops.find((l) => l.loop.id === id);
  if (!at) throw new Refused("That is not on this sheet now. Load the page again.");
  return { stand, at };
}

export function addReading(target: Target, input: ReadingInput) {
  return inJob(target, "reading", input, async (tx, row) => {
    // A slip is found when it is found: correcting is allowed until the job is signed.
    const { stand, at } = input.supersedes ? anyLoop(row, input.loop) : needLoop(row, input.loop, "reading");
    const { loop, record } = at;
    if (record.noReturn && !input.supersedes)
      throw new Refused(
        "The test has ended: no water returned while the pressure was over its limit. Take the fault, or correct the reading.",
      );
    const gauge = await instrumentFor(tx, target.by.workshop.id, input.instrumentId, row.machine.id);
    if (gauge.quantity !== READS[loop.id].quantity)
      throw new Refused("That instrument measures something else.", "instrumentId");
    if (loop.places.length > 0 && !loop.places.includes(input.place))
      throw new Refused(`Here the gauge sits at the ${loop.places.join(" or ")}.`, "place");
    if (loop.with.setPoint && input.detail.setPoint === undefined)
      throw new Refused("Type the set point on the display.", "setPoint");
    if (loop.with.amount?.grind && input.detail.amount === undefined)
      throw new Refused("Type the seconds on the timer: the rate is worked out from them.", "amount");
    if (loop.with.amount?.grind && input.detail.setting === undefined)
      throw new Refused("Type where the grind stands: the rate belongs to it.", "setting");
    const place: GaugePlace & { at: Place } =
      input.place === "pump"
        ? { at: "pump", place: "pump", toGroup: row.machine.gaugeToGroup, u: row.machine.gaugeToGroupU }
        : { at: input.place, place: "group", toGroup: 0, u: 0 };
    const { indicated, resolution } = shownOn(stand, input, gauge.resolution);
    if (indicated > gauge.highest || indicated < gauge.lowest)
      throw new Refused(
        gauge.quantity === "pressure"
          ? `This gauge goes from ${gauge.lowest} to ${gauge.highest} bar. It can’t have shown that.`
          : `This instrument goes from ${gauge.lowest} to ${gauge.highest}. It can’t have shown that.`,
        "reading",
      );
    const sat = { place: place.at, toGroup: place.toGroup, toGroupU: place.u };
    const read = { indicated, detail: input.detail, ...sat, instrument: { ...gauge, resolution } };
    let m;
    try {
      m = measured([read], loop, stand.kind.pump);
    } catch (error) {
      // Outside its correction table an instrument says nothing.
      if (error instanceof RangeError) throw new Refused(error.message, "reading");
      throw error;
    }
    const { supersedes, reason, typed, unit, detail } = input;
    await tx.insert(reading).values({
      ...keys(target),
      ...sat,
      loop: input.loop,
      instrumentId: gauge.id,
      typed,
      unit,
      detail,
      supersedes,
      reason,
      indicated,
      sequence: sequenceFor(row, input, "reading"),
      value: m.value,
      u: m.u,
      uCommon: m.uCommon,
      budget: m.budget,
      early: row.type !== "check" && isEarly(stand.records, row.level, Date.now()),
      instrumentOutOfDate: outOfDate(gauge, new Date().toISOString().slice(0, 10)),
    });
  });
}

/** A needle on a dial without figures is turned into bar by the model’s scale. */
function shownOn({ card }: Stand, input: ReadingInput, resolution: number) {
  if (input.detail.clock === undefined) return { indicated: input.indicated, resolution };
  if (!card.dial) throw new Refused("This model’s dial has figures: type what it shows.", "reading");
  try {
    return {
      indicated: dialPressure(card.dial, input.detail.clock),
      resolution: Math.max(resolution, dialResolution(card.dial, input.detail.clock)),
    };
  } catch (error) {
    if (error instanceof RangeError) throw new Refused(error.message, "reading");
    throw error;
  }
}

/** An instrument of the workshop’s kit, or one built into this machine. */
export async function instrumentFor(tx: Transaction, workshopId: string, id: string, machineId: string) {
  const [found] = await tx
    .select()
    .from(instrument)
    .where(and(eq(instrument.id, id), eq(instrument.workshopId, workshopId)));
  if (!found || (found.machineId && found.machineId !== machineId))
    throw new Refused("Choose an instrument from the kit or the machine’s own.", "instrumentId");
  return found;
}

export interface MoveInput {
  loop: LoopId;
  /** Signed in the hand’s sense. */
  amount: number;
  typed: string;
  /** Without a three-way valve: the gauge reads zero, it is off and unplugged. */
  zero: boolean;
  supersedes: string | null;
  reason: string;
}

export function addMove(target: Target, input: MoveInput) {
  return inJob(target, "move", input, async (tx, row) => {
    const { stand, at } = input.supersedes ? anyLoop(row, input.loop) : needLoop(row, input.loop, "move");
    const { loop, advice } = at;
    if (!loop.hand) throw new Refused("Nothing is turned here: it is read only.");
    if (Math.abs(input.amount) > loop.hand.most)
      throw new Refused(
        `More than ${loop.hand.most} ${loop.hand.unit.many} in one go is not logged as one move. Read in between.`,
        "amount",
      );
    if (input.loop === "opv" && !stand.kind.threeWayValve && !input.zero && !input.supersedes)
      throw new Refused(
        "Pressure stands behind the blanked portafilter. Bleed it until the gauge reads zero, switch off and unplug, then tick the box.",
        "zero",
      );
    const action = advice?.action;
    await tx.insert(adjustment).values({
      ...keys(target),
      loop: input.loop,
      amount: input.amount,
      typed: input.typed,
      supersedes: input.supersedes,
      reason: input.reason,
      sequence: sequenceFor(row, input, "move"),
      advised: action?.kind === "move" ? action.amount * loop.hand.sign : null,
    });
  });
}

/** A correction keeps the place of what it corrects, which is a line of the same knob; anything else comes last. */
function sequenceFor(row: SheetRow, { loop, supersedes }: ReadingInput | MoveInput, kind: "reading" | "move"): number {
  const all = [...row.readings, ...row.adjustments];
  if (!supersedes) return Math.max(0, ...all.map((e) => e.sequence)) + 1;
  const old = (kind === "reading" ? row.readings : row.adjustments).find((e) => e.id === supersedes && e.loop === loop);
  if (!old) throw new Refused("What should be corrected is not on this sheet.");
  if (all.some((e) => e.supersedes === supersedes))
    throw new Refused("This line has been corrected already. Correct the newer one.");
  return old.sequence;
}

/** Takes the engine's fault as the end of adjusting; the line for work and parts goes with it. */
export function takeFault(target: Target, input: { loop: LoopId; text: string }) {
  return inJob(target, "finding", input, async (tx, row) => {
    const { at } = needLoop(row, input.loop, "move");
    const action = at.advice?.action;
    if (action?.kind !== "fault") throw new Refused("No fault is on the sheet now. Read again first.");
    const { part } = faultWords(input.loop, action.fault);
    const text = [input.text, part === "None" ? "" : `Parts: ${part}.`].filter(Boolean).join(" ");
    await tx.insert(finding).values({ ...keys(target), loop: input.loop, fault: action.fault, text });
  });
}
