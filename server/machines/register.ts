import { and, eq, sql } from "drizzle-orm";
import type { AnyPgColumn } from "drizzle-orm/pg-core";
import { dayIn } from "../../core/day";
import type { GaugeSeat } from "../../core/job";
import { KINDS, type KindId } from "../../core/kind";
import { USUAL_OPV } from "../../core/pressure";
import type { Wanted } from "../../core/spec";
import type { Transaction } from "../../db/client";
import { job, machine, machineChange, model, owner, site } from "../../db/schema";
import type { SignedIn } from "../auth";
import { once } from "../command";
import { SERIAL_TAKEN } from "../database-words";
import { may } from "../permissions";
import { Refused } from "../refused";
import { moment } from "../moment";
import { type OwnGauge, keepOwnGauge } from "./gauges";

/** Adding to the register and keeping it right. */

export interface MachineInput {
  /** One of the library, or one described on the spot. */
  model: string | { maker: string; name: string; kind: KindId };
  serial: string;
  owner: string;
  contact: string;
  phone: string;
  email: string;
  site: string;
  town: string;
  altitude: number;
  water: string;
  installedOn: string | null;
  gaugePlace: GaugeSeat;
  gaugeWords: string;
  gaugeToGroup: number;
  gaugeToGroupU: number | null;
  gaugeHighest: number | null;
  gaugeStep: number | null;
  gaugeClass: number | null;
  flowControl: boolean;
  pumpLabel: number | null;
  wanted: Wanted;
  /** Serial of the machine that a grinder serves; "" for none. */
  serves: string;
  modifications: string;
  coffee: string;
  shotsPerDay: number | null;
  grinder: string;
}

// One order for all who write here: owner, site, machine. Two people saving two machines of one site never wait for each other.

export function addMachine(by: SignedIn, commandId: string, input: MachineInput) {
  return once(by, commandId, "machine", input, (tx) => insertMachine(tx, by, commandId, input));
}

/** Many at once: all of them, or none. */
export function addMachines(by: SignedIn, commandId: string, inputs: readonly MachineInput[]) {
  return once(by, commandId, "machines", inputs, async (tx) => {
    for (const input of inputs) await insertMachine(tx, by, crypto.randomUUID(), input);
  });
}

async function insertMachine(tx: Transaction, by: SignedIn, id: string, input: MachineInput): Promise<void> {
  const row = await rowOf(tx, by, input, null);
  await tx.insert(machine).values({ id, workshopId: by.workshop.id, ...row });
  await keepOwnGauge(tx, by.workshop.id, id, gaugeOf(input));
  if (row.gaugePlace !== "none") await keepGaugeChange(tx, by, id, row);
}

export function changeMachine(by: SignedIn, commandId: string, machineId: string, input: MachineInput) {
  return once(by, commandId, "machine-change", { machineId, ...input }, async (tx) => {
    const [before] = await tx
      .select({
        place: machine.gaugePlace,
        words: machine.gaugeWords,
        toGroup: machine.gaugeToGroup,
        u: machine.gaugeToGroupU,
        siteId: machine.siteId,
        site: site.name,
        town: site.town,
        owner: owner.name,
      })
      .from(machine)
      .innerJoin(site, and(eq(site.workshopId, machine.workshopId), eq(site.id, machine.siteId)))
      .innerJoin(owner, and(eq(owner.workshopId, site.workshopId), eq(owner.id, site.ownerId)))
      .where(and(eq(machine.id, machineId), eq(machine.workshopId, by.workshop.id)));
    const row = await rowOf(tx, by, input, machineId);
    const changed = await tx
      .update(machine)
      .set(row)
      .where(and(eq(machine.id, machineId), eq(machine.workshopId, by.workshop.id)))
      .returning({ id: machine.id });
    if (changed.length === 0) throw new Refused("There is no such machine in this workshop.");
    await keepOwnGauge(tx, by.workshop.id, machineId, gaugeOf(input));
    const moved =
      before &&
      (before.place !== row.gaugePlace ||
        before.words !== row.gaugeWords ||
        before.toGroup !== row.gaugeToGroup ||
        before.u !== row.gaugeToGroupU);
    if (moved) await keepGaugeChange(tx, by, machineId, row);
    if (before && before.siteId !== row.siteId) {
      const from = `${before.site}, ${before.town}${sameName(before.owner, input.owner) ? "" : ` (${before.owner})`}`;
      const to = `${input.site}, ${input.town}${sameName(before.owner, input.owner) ? "" : ` (${input.owner})`}`;
      await keepChange(tx, by, machineId, "moved", `Moved from ${from} to ${to}`);
    }
  });
}

async function rowOf(tx: Transaction, by: SignedIn, input: MachineInput, self: string | null) {
  const workshopId = by.workshop.id;
  const { id: modelId, kind } = await modelFor(tx, by, input.model);
  const [twin] = await tx
    .select({ id: machine.id })
    .from(machine)
    .where(and(eq(machine.workshopId, workshopId), sameWords(machine.serial, input.serial)));
  if (twin && twin.id !== self) throw new Refused(SERIAL_TAKEN, "serial");
  const drop = KINDS[kind].gaugeDrop || 1;
  const away = input.gaugePlace === "pump" || input.gaugePlace === "flow";
  return {
    modelId,
    siteId: await siteFor(tx, workshopId, await ownerFor(tx, workshopId, input), input),
    serial: input.serial,
    installedOn: input.installedOn,
    gaugePlace: input.gaugePlace,
    gaugeWords: input.gaugePlace === "none" ? "" : input.gaugeWords,
    gaugeToGroup: away ? input.gaugeToGroup || (input.gaugePlace === "pump" ? -drop : 0) : 0,
    gaugeToGroupU: away ? (input.gaugeToGroupU ?? GAUGE_U) : 0,
    flowControl: input.flowControl || input.gaugePlace === "flow",
    pumpLabel: input.pumpLabel,
    wanted: input.wanted,
    serves: input.serves ? await servedBy(tx, workshopId, input.serves, self) : null,
    modifications: input.modifications,
    coffee: input.coffee,
    shotsPerDay: input.shotsPerDay,
    grinder: input.grinder,
  };
}

/** Standard uncertainty of a gauge-to-group correction that nobody measured, bar. From memory. */
const GAUGE_U = 0.2;

const gaugeOf = (input: MachineInput): OwnGauge => ({
  place: input.gaugePlace,
  highest: input.gaugeHighest,
  step: input.gaugeStep,
  percentOfSpan: input.gaugeClass,
});

/** The model of the library, or the one described: with what is usual for its kind, and for a lead to look over. */
async function modelFor(
  tx: Transaction,
  by: SignedIn,
  said: MachineInput["model"],
): Promise<{ id: string; kind: KindId }> {
  const workshopId = by.workshop.id;
  if (typeof said === "string") {
    const [known] = await tx
      .select({ id: model.id, kind: model.kind })
      .from(model)
      .where(and(eq(model.id, said), eq(model.workshopId, workshopId)));
    if (!known) throw new Refused("Choose a model from the library.", "modelId");
    return known;
  }
  const [same] = await tx
    .select({ id: model.id, kind: model.kind })
    .from(model)
    .where(and(eq(model.workshopId, workshopId), sameWords(model.maker, said.maker), sameWords(model.name, said.name)));
  if (same) return same;
  const id = crypto.randomUUID();
  const { responseMean: opvResponse, responseSd: opvResponseSd, raises: opvRaises } = USUAL_OPV;
  const review = !may(by, "library");
  await tx.insert(model).values({ id, workshopId, ...said, opvResponse, opvResponseSd, opvRaises, review });
  return { id, kind: said.kind };
}

/** The machine of this serial that a grinder serves. */
async function servedBy(tx: Transaction, workshopId: string, serial: string, self: string | null): Promise<string> {
  const [served] = await tx
    .select({ id: machine.id })
    .from(machine)
    .where(and(eq(machine.workshopId, workshopId), sameWords(machine.serial, serial)));
  if (!served) throw new Refused("No machine of that serial is in the register.", "serves");
  if (served.id === self) throw new Refused("A grinder serves another machine than itself.", "serves");
  return served.id;
}

/** Where the gauge sits from today on, with its correction: history, whatever is changed later. */
async function keepGaugeChange(
  tx: Transaction,
  by: SignedIn,
  machineId: string,
  row: Pick<typeof machine.$inferInsert, "gaugePlace" | "gaugeWords" | "gaugeToGroup" | "gaugeToGroupU">,
): Promise<void> {
  const now = moment();
  await tx.insert(machineChange).values({
    id: crypto.randomUUID(),
    workshopId: by.workshop.id,
    machineId,
    kind: "gauge",
    doneOn: dayIn(by.workshop.timeZone, now.getTime()),
    text: row.gaugeWords ?? "",
    doneBy: by.name,
    gaugePlace: row.gaugePlace,
    gaugeToGroup: row.gaugeToGroup ?? 0,
    gaugeToGroupU: row.gaugeToGroupU ?? 0,
    by: by.id,
    at: now,
  });
}

const sameName = (a: string, b: string) => a.trim().toLowerCase() === b.trim().toLowerCase();

/** A line of the machine’s history, of today. */
async function keepChange(
  tx: Transaction,
  by: SignedIn,
  machineId: string,
  kind: "moved" | "retired" | "returned",
  text: string,
): Promise<void> {
  const at = moment();
  const workshopId = by.workshop.id;
  const doneOn = dayIn(by.workshop.timeZone, at.getTime());
  await tx.insert(machineChange).values({
    ...{ id: crypto.randomUUID(), workshopId, machineId, kind, doneOn, text, at },
    doneBy: by.name,
    by: by.id,
  });
}

/** Out of service, or back in it: its history stays, and no job is started on it meanwhile. */
export function retireMachine(
  by: SignedIn,
  commandId: string,
  machineId: string,
  input: { retired: boolean; reason: string },
) {
  return once(by, commandId, "retire", { machineId, ...input }, async (tx) => {
    const workshopId = by.workshop.id;
    const [known] = await tx
      .select({ retiredOn: machine.retiredOn })
      .from(machine)
      .where(and(eq(machine.id, machineId), eq(machine.workshopId, workshopId)))
      .for("update");
    if (!known) throw new Refused("There is no such machine in this workshop.");
    if ((known.retiredOn !== null) === input.retired)
      throw new Refused(input.retired ? "It is retired already." : "It is in service already.");
    if (input.retired) {
      const [open] = await tx
        .select({ id: job.id })
        .from(job)
        .where(and(eq(job.workshopId, workshopId), eq(job.machineId, machineId), eq(job.state, "open")));
      if (open) throw new Refused("A job is open on it. Sign or withdraw that first.", "reason");
    }
    const retiredOn = input.retired ? dayIn(by.workshop.timeZone, moment().getTime()) : null;
    await tx
      .update(machine)
      .set({ retiredOn })
      .where(and(eq(machine.workshopId, workshopId), eq(machine.id, machineId)));
    const text = `${input.retired ? "Retired" : "Back in service"}: ${input.reason}`;
    await keepChange(tx, by, machineId, input.retired ? "retired" : "returned", text);
  });
}

export interface ChangeInput {
  /** ISO day; null: today. */
  doneOn: string | null;
  text: string;
  doneBy: string;
}

/** A modification: what was changed, when, and by whom. */
export function addModification(by: SignedIn, commandId: string, machineId: string, input: ChangeInput) {
  return once(by, commandId, "modification", { machineId, ...input }, async (tx) => {
    const workshopId = by.workshop.id;
    const [known] = await tx
      .select({ id: machine.id })
      .from(machine)
      .where(and(eq(machine.id, machineId), eq(machine.workshopId, workshopId)));
    if (!known) throw new Refused("There is no such machine in this workshop.");
    const today = dayIn(by.workshop.timeZone, moment().getTime());
    if (input.doneOn && input.doneOn > today) throw new Refused("That day is still to come.", "doneOn");
    await tx.insert(machineChange).values({
      id: commandId,
      workshopId,
      machineId,
      kind: "modification",
      doneOn: input.doneOn ?? today,
      text: input.text,
      doneBy: input.doneBy || by.name,
      by: by.id,
      at: moment(),
    });
  });
}

/** Names that differ in case alone are the same name. */
const sameWords = (column: AnyPgColumn, words: string) => eq(sql`lower(${column})`, sql`lower(${words})`);

/** The owner of this name: the one on record, or a new one. Locked until it is saved. A name that was merged into another is that other. */
async function ownerFor(tx: Transaction, workshopId: string, input: MachineInput): Promise<string> {
  const given = { contact: input.contact, phone: input.phone, email: input.email };
  await tx
    .insert(owner)
    .values({ id: crypto.randomUUID(), workshopId, name: input.owner, ...given })
    .onConflictDoNothing();
  const known = { id: owner.id, contact: owner.contact, phone: owner.phone, email: owner.email };
  const [named] = await tx
    .select({ ...known, mergedInto: owner.mergedInto })
    .from(owner)
    .where(and(eq(owner.workshopId, workshopId), sameWords(owner.name, input.owner)))
    .for("no key update");
  const [found] = named!.mergedInto
    ? await tx
        .select(known)
        .from(owner)
        .where(and(eq(owner.workshopId, workshopId), eq(owner.id, named!.mergedInto)))
        .for("no key update")
    : [named!];
  const { id, ...before } = found!;
  const now = {
    contact: given.contact || before.contact,
    phone: given.phone || before.phone,
    email: given.email || before.email,
  };
  if (now.contact !== before.contact || now.phone !== before.phone || now.email !== before.email)
    await tx.update(owner).set(now).where(eq(owner.id, id));
  return id;
}

/** The site of this name and owner: the one on record, or a new one. What was learnt of it since is kept. */
async function siteFor(tx: Transaction, workshopId: string, ownerId: string, input: MachineInput): Promise<string> {
  const facts = { town: input.town, altitude: input.altitude, water: input.water };
  await tx
    .insert(site)
    .values({ id: crypto.randomUUID(), workshopId, ownerId, name: input.site, ...facts })
    .onConflictDoNothing();
  const [found] = await tx
    .select({ id: site.id, town: site.town, altitude: site.altitude, water: site.water })
    .from(site)
    .where(and(eq(site.ownerId, ownerId), sameWords(site.name, input.site)))
    .for("no key update");
  const { id, ...before } = found!;
  if (before.town !== facts.town || before.altitude !== facts.altitude || before.water !== facts.water)
    await tx.update(site).set(facts).where(eq(site.id, id));
  return id;
}
