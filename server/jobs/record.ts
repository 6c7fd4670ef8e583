import { createHash, randomBytes } from "node:crypto";
import { and, eq, isNull, sql } from "drizzle-orm";
import { fault as faultWords } from "./faults";
import { type GaugePlace, measure, outOfDate } from "../../core/metrology";
import { raising } from "../../core/pressure";
import { type StationId, isEarly } from "../../core/sheet";
import type { Transaction } from "../../db/client";
import { type SheetRow, sheetRow } from "../../db/queries/jobs";
import {
  adjustment,
  finding,
  instrument,
  job,
  note,
  ownerLink,
  photo,
  reading,
  signature,
  type SignedDocument,
  type SignedValue,
} from "../../db/schema";
import type { SignedIn } from "../auth";
import { type Outcome, once } from "../command";
import { tell } from "../events";
import { instrumentOf, runOf, standing, summarise } from "./events";
import { judged } from "./view";
import { reportOf } from "./report";
import { type Stand, standOf } from "./stand";

/** A write that the order of work, or the state of the job, does not allow now. The message is for the person. */
export class Refused extends Error {
  constructor(
    message: string,
    readonly field?: string,
  ) {
    super(message);
  }
}

export interface Target {
  by: Pick<SignedIn, "id"> & { workshop: Pick<SignedIn["workshop"], "id" | "name"> };
  jobId: string;
  commandId: string;
}

/** Locks the job, checks that it is this workshop's and open, and hands over what stands in it. */
export async function inJob(
  target: Target,
  kind: string,
  payload: unknown,
  write: (tx: Transaction, row: SheetRow) => Promise<void>,
): Promise<Outcome> {
  const { by, jobId, commandId } = target;
  return once(by, commandId, kind, { jobId, ...(payload as object) }, async (tx) => {
    const [mine] = await tx
      .select({ state: job.state })
      .from(job)
      .where(and(eq(job.id, jobId), eq(job.workshopId, by.workshop.id)))
      .for("update");
    if (!mine) throw new Refused("There is no such job in this workshop.");
    if (mine.state === "signed") throw new Refused("This job is signed. Nothing can be added to it any more.");
    const row = await sheetRow(tx, by.workshop.id, jobId);
    // Before the write: after signing, the job's row takes no more changes.
    const revision = row!.revision + 1;
    await tx.update(job).set({ revision }).where(eq(job.id, jobId));
    await write(tx, row!);
    await tell(tx, by.workshop.id, jobId, revision);
  });
}

export function keys({ commandId, jobId, by }: Target) {
  return { id: commandId, jobId, by: by.id };
}

export function addNote(target: Target, input: { station: string; area: string; text: string }) {
  return inJob(target, "note", input, async (tx) => {
    await tx.insert(note).values({ ...keys(target), ...input });
  });
}

export interface StoredPhoto {
  station: string;
  area: string;
  mime: string;
  width: number;
  height: number;
  data: Buffer;
}

export function addPhoto(target: Target, input: StoredPhoto) {
  const digest = createHash("sha256").update(input.data).digest("hex");
  return inJob(target, "photo", { station: input.station, digest }, async (tx) => {
    await tx.insert(photo).values({ ...keys(target), ...input, size: input.data.length });
  });
}

const MEASURING: readonly StationId[] = ["as-found", "adjust", "as-left", "refit"];
const TURNING: readonly StationId[] = ["adjust", "as-left"];

/** Refuses while none of these stations can be worked on, saying what is. */
function needReady(row: SheetRow, stations: readonly StationId[], what: string): Stand {
  const stand = standOf(row);
  const all = stand.at(Date.now());
  if (!all.some((p) => stations.includes(p.station.id) && p.state === "ready")) {
    const blocked = all.find((p) => stations.includes(p.station.id) && p.state === "blocked");
    throw new Refused(blocked?.why ?? `This job takes no more ${what}.`);
  }
  return stand;
}

export interface ReadingInput {
  instrumentId: string;
  place: "group" | "pump";
  typed: string;
  unit: string;
  indicated: number;
  supersedes: string | null;
  reason: string;
}

export function addReading(target: Target, input: ReadingInput) {
  return inJob(target, "reading", input, async (tx, row) => {
    // A slip is found when it is found: correcting is allowed until the job is signed.
    const { records } = input.supersedes ? standOf(row) : needReady(row, MEASURING, "readings");
    const gauge = await gaugeOf(tx, target.by.workshop.id, input.instrumentId, row.machine.id);
    const place: GaugePlace =
      input.place === "group"
        ? { place: "group", toGroup: 0, u: 0 }
        : { place: "pump", toGroup: row.machine.gaugeToGroup, u: row.machine.gaugeToGroupU };
    if (input.indicated > gauge.highest || input.indicated < gauge.lowest)
      throw new Refused(
        `This gauge goes from ${gauge.lowest} to ${gauge.highest} bar. It can't have shown that.`,
        "reading",
      );
    const measured = measure([input.indicated], instrumentOf(gauge), place);
    await tx.insert(reading).values({
      ...keys(target),
      ...input,
      quantity: "brew-pressure",
      sequence: sequenceFor(row, input.supersedes, "reading"),
      toGroup: place.toGroup,
      toGroupU: place.u,
      value: measured.value,
      u: measured.u,
      uCommon: measured.uCommon,
      budget: measured.budget,
      early: row.type !== "check" && isEarly(records, row.level, Date.now()),
      instrumentOutOfDate: outOfDate(gauge, new Date().toISOString().slice(0, 10)),
    });
  });
}

async function gaugeOf(tx: Transaction, workshopId: string, id: string, machineId: string) {
  const [found] = await tx
    .select()
    .from(instrument)
    .where(and(eq(instrument.id, id), eq(instrument.workshopId, workshopId)));
  if (!found || (found.machineId && found.machineId !== machineId))
    throw new Refused("Choose a gauge from the kit or the machine’s own.", "instrumentId");
  return found;
}

export interface MoveInput {
  /** Signed, clockwise positive. */
  turns: number;
  typed: string;
  supersedes: string | null;
  reason: string;
}

export function addMove(target: Target, input: MoveInput) {
  return inJob(target, "move", input, async (tx, row) => {
    const stand = input.supersedes ? standOf(row) : needReady(row, TURNING, "moves");
    const { action } = stand.advice;
    await tx.insert(adjustment).values({
      ...keys(target),
      ...input,
      knob: "opv",
      sequence: sequenceFor(row, input.supersedes, "move"),
      advised: action.kind === "move" ? action.amount * raising(stand.opv.raises) : null,
    });
  });
}

/** A correction keeps the place of what it corrects; anything else comes last. */
function sequenceFor(row: SheetRow, supersedes: string | null, kind: "reading" | "move"): number {
  const all = [...row.readings, ...row.adjustments];
  if (!supersedes) return Math.max(0, ...all.map((e) => e.sequence)) + 1;
  const old = (kind === "reading" ? row.readings : row.adjustments).find((e) => e.id === supersedes);
  if (!old) throw new Refused("What should be corrected is not on this sheet.");
  if (all.some((e) => e.supersedes === supersedes))
    throw new Refused("This line has been corrected already. Correct the newer one.");
  return old.sequence;
}

/** Takes the engine's fault as the end of adjusting. */
export function takeFault(target: Target, input: { text: string }) {
  return inJob(target, "finding", input, async (tx, row) => {
    const { advice } = needReady(row, ["adjust"], "findings");
    if (advice.action.kind !== "fault") throw new Refused("No fault is on the sheet now. Read again first.");
    await tx.insert(finding).values({ ...keys(target), fault: advice.action.fault, text: input.text });
  });
}

export function sign(target: Target, input: { name: string; remark: string }) {
  return inJob(target, "sign", input, async (tx, row) => {
    needReady(row, ["sign"], "signatures");
    await writeSignature(tx, row, target, input, new Date());
  });
}

/** Freezes the job: the document, its hash, the state, and the owner's link, in the transaction given. */
export async function writeSignature(
  tx: Transaction,
  row: SheetRow,
  target: Target,
  input: { name: string; remark: string },
  at: Date,
) {
  const document = documentOf(row, target.by, input, at);
  const left = document.asLeft?.verdict;
  if (left && left !== "holds" && left !== "just holds" && !input.remark)
    throw new Refused(
      "The reading left is not inside its tolerance. Say what the owner should know about it.",
      "remark",
    );
  // What is hashed is what is stored, key for key: anyone can take the document and check it.
  const hash = createHash("sha256").update(JSON.stringify(document)).digest("hex");
  await tx.insert(signature).values({ ...keys(target), at, name: input.name, remark: input.remark, document, hash });
  await tx.update(job).set({ state: "signed", signedAt: at }).where(eq(job.id, row.id));
  await tx.insert(ownerLink).values({ ...keys(target), at, token: newToken() });
}

function documentOf(
  row: SheetRow,
  by: Target["by"],
  input: { name: string; remark: string },
  at: Date,
): SignedDocument {
  const stand = standOf(row);
  const { entries } = stand;
  const point = (which: "as-found" | "as-left"): SignedValue | null => {
    const j = judged(summarise(runOf(entries, which)), row);
    if (!j) return null;
    const { value, U, k, resolution, pInside, verdict, readings } = j;
    return { value, U, k, resolution, pInside, verdict, readings };
  };
  const used = new Map(row.readings.map((r) => [r.instrumentId, r]));
  return {
    version: 2,
    job: row.id,
    type: row.type,
    workshop: by.workshop.name,
    machine: {
      maker: row.machine.model.maker,
      model: row.machine.model.name,
      serial: row.machine.serial,
      site: row.machine.site.name,
      town: row.machine.site.town,
    },
    complaint: row.complaint,
    condition: row.notes.map((n) => (n.area ? `${n.area}: ${n.text}` : n.text)),
    tolerance: row.tolerance,
    school: row.schools.opv,
    rule: row.decisionRule,
    asFound: point("as-found"),
    asLeft: point("as-left"),
    instruments: [...used.values()].map((r) => ({
      name: r.instrument.name,
      calibratedOn: r.instrument.calibratedOn,
      outOfDate: r.instrumentOutOfDate,
    })),
    turns: standing(entries).flatMap((e) => (e.kind === "move" ? [e.row.turns] : [])),
    finding: row.findings[0] ? faultWords(row.findings[0]) : null,
    remark: input.remark,
    technician: input.name,
    startedAt: row.startedAt.toISOString(),
    signedAt: at.toISOString(),
    ...reportOf(row, stand, at),
  };
}

/** Owner's links of a signed job: withdrawn and made anew, by anyone of the workshop. */
export function changeLink(target: Target, input: { change: "new" | "revoke"; linkId: string | null }) {
  const { by, jobId, commandId } = target;
  return once(by, commandId, "link", { jobId, ...input }, async (tx) => {
    const [mine] = await tx
      .select({ state: job.state, revision: job.revision })
      .from(job)
      .where(and(eq(job.id, jobId), eq(job.workshopId, by.workshop.id)));
    if (mine?.state !== "signed") throw new Refused("Only a signed job of this workshop has an owner’s page.");
    const old = and(
      eq(ownerLink.jobId, jobId),
      isNull(ownerLink.revokedAt),
      input.linkId ? eq(ownerLink.id, input.linkId) : sql`true`,
    );
    if (input.change === "revoke") await tx.update(ownerLink).set({ revokedAt: new Date() }).where(old);
    else await tx.insert(ownerLink).values({ ...keys(target), token: newToken() });
    // A signed job's own row stands still: its links are news all the same.
    await tell(tx, by.workshop.id, jobId, mine.revision + 1);
  });
}

function newToken(): string {
  return randomBytes(24).toString("base64url");
}
