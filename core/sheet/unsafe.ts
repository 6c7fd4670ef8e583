import { CRITICAL_PARTS, type CriticalPartId, type WorkLine } from "../work";
import { type SheetRecords, chosen, figure, rowsOf } from "./records";

/** What was recorded that nobody may be handed: it holds the signature until it is mended, or the machine is marked out of use. */

/** Task names that decide it. */
export const PROTECTIONS_TASK = "parts.protections";
export const ACID_TASK = "parts.acid";
export const RINSE_TASK = "clean.rinse";
export const BACK_FLUSH_TASK = "clean.back-flush";
export const LEAKS_TASK = "leaks.found";

export interface Leak {
  readonly where: string;
  readonly side: "water" | "steam";
}

/** Leaks that stay: the newest row of each place and side decides. */
export function leaksLeft(records: SheetRecords): Leak[] {
  const last = new Map<string, { leak: Leak; leaks: boolean }>();
  for (const row of rowsOf(records, LEAKS_TASK)) {
    const leak: Leak = { where: row.where?.choice ?? "", side: row.side?.choice === "steam" ? "steam" : "water" };
    last.set(`${leak.where} ${leak.side}`, { leak, leaks: row.after?.choice === "leaks" });
  }
  return [...last.values()].flatMap(({ leak, leaks }) => (leaks ? [leak] : []));
}

/** Lines of work that stand. */
export const workLines = (records: SheetRecords): WorkLine[] =>
  (records.values.get("parts.line") ?? []).flatMap((v) => (v.form === "work" ? [v] : []));

/** A line of work says that it was descaled. */
export const descaledLine = (records: SheetRecords): boolean =>
  workLines(records).some((line) => line.how === "descaled" && line.outcome === "done");

/** Safety-critical parts with what was last done to each. */
export function criticalDone(records: SheetRecords): Map<CriticalPartId, NonNullable<WorkLine["critical"]>["act"]> {
  return new Map(
    workLines(records).flatMap(({ critical }) => (critical ? [[critical.part, critical.act] as const] : [])),
  );
}

/** Whether acid went through the machine, by any of the places where it is said. */
export function acidUsed(records: SheetRecords): boolean {
  return (
    chosen(records, "clean.descaling") === "done" ||
    ["allowed", "against"].includes(chosen(records, ACID_TASK) ?? "") ||
    descaledLine(records)
  );
}

/** Each a whole sentence: what is unsafe, and what mends it. */
export function unsafeNow(records: SheetRecords): string[] {
  const boiler = leaksLeft(records).filter((leak) => leak.where === "boiler");
  const out = [...criticalDone(records)].filter(([, act]) => act === "out-of-use");
  const rinsed = figure(records, RINSE_TASK);
  const said = [
    boiler.length > 0 && "The boiler leaks under pressure. Mend it and save a row that is tight.",
    chosen(records, PROTECTIONS_TASK) === "defeated" &&
      "A protection is bridged, blocked or missing. Put it right, then answer again.",
    chosen(records, ACID_TASK) === "against" && "Acid went through the machine against the model’s rule.",
    acidUsed(records) &&
      rinsed !== undefined &&
      rinsed <= 0 &&
      "Nothing was rinsed after the acid. Rinse, then type the litres.",
    chosen(records, BACK_FLUSH_TASK) === "none" &&
      "The three-way valve lets no pressure go. Clean or replace it, back-flush again and answer anew.",
    ...out.map(([part]) => `${CRITICAL_PARTS[part].label}: found faulty, the machine was taken out of use.`),
  ];
  return said.filter((words): words is string => Boolean(words));
}
