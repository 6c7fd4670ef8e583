import { faultsOf } from "../adjust";
import { PATTERNS } from "../diagnose";
import { type LoopId, faultWords, partFor } from "../knobs";
import { formatQuantity, unitsOf } from "../quantity";
import { chosen, rowsOf } from "../sheet";
import { type CriticalPartId, type How, namedIn, usualWork } from "../work";
import { linesOfWork } from "./report";
import { resultOf } from "./result";
import { type Standing, causeOf } from "./standing";

/** Lines of work that this visit itself has found: causes named, faults of knobs, leaks that stay, and what was put off before. */

export interface FoundLine {
  readonly what: string;
  readonly how: How;
  readonly reason: string;
  /** What it was found by. */
  readonly seen: string;
  /** The knob that hangs on it. */
  readonly loop: LoopId | null;
  /** It is about a safety-critical part: chosen from the list, not saved with one tap. */
  readonly critical?: CriticalPartId;
}

/** What this visit asks to be put down as work, each part once, but what is put down already. */
export function foundWork(standing: Standing): FoundLine[] {
  const all = [
    ...ofKnobs(standing),
    ...ofCauses(standing),
    ...ofLeaks(standing),
    ...ofBackFlush(standing),
    ...ofEarlier(standing),
  ];
  const known = new Set(linesOfWork(standing).map((line) => line.what.toLowerCase()));
  return all
    .filter(({ what }) => {
      const name = what.toLowerCase();
      if (known.has(name)) return false;
      known.add(name);
      return true;
    })
    .map((line) => {
      const critical = namedIn(line.what, standing.kind, standing.card).find((named) => named !== "acid");
      return critical ? { ...line, critical } : line;
    });
}

function ofKnobs(standing: Standing): FoundLine[] {
  const { loops, job } = standing;
  return loops.flatMap((knob) => {
    const { loop, advice, record } = knob;
    const taken = job.findings.filter((f) => f.loop === loop.id && record.faultTaken).map((f) => f.fault);
    const now = advice?.action.kind === "fault" ? faultsOf(advice.action) : [];
    const faults = taken.length > 0 ? taken : now;
    const part = faults.length > 0 ? partFor(loop.at.knob, faults) : "";
    if (!part) return [];
    const reason = faultWords(loop.at.knob, faults[0]!).says.replace(/\.$/, "");
    const read = resultOf(knob, "as-left", standing) ?? resultOf(knob, "as-found", standing);
    const value = read ? `, ${formatQuantity(read.value, read.resolution, unitsOf(loop.judged)[0]!)}` : "";
    return [{ what: part, how: "renewed", reason, seen: `${loop.title}${value}`, loop: loop.id } as const];
  });
}

function ofCauses(standing: Standing): FoundLine[] {
  return standing.plan.flatMap((station) =>
    station.tasks.flatMap((task): FoundLine[] => {
      if (task.kind !== "diagnosis") return [];
      const { named, typed } = causeOf(task, standing);
      if (typed.length === 0 || !named?.part) return [];
      const pattern = PATTERNS[task.pattern];
      return [{ what: named.part, how: "renewed", reason: named.label, seen: pattern.title, loop: null }];
    }),
  );
}

function ofLeaks({ plan, records }: Standing): FoundLine[] {
  const task = plan.flatMap((s) => s.tasks).find((t) => t.id === "leaks.found");
  const where = task?.kind === "table" ? task.columns.find((c) => c.name === "where")?.type : undefined;
  if (where?.kind !== "choice") return [];
  return rowsOf(records, "leaks.found").flatMap((row): FoundLine[] => {
    if (row.after?.choice !== "leaks") return [];
    const place = where.options.find((o) => o.value === row.where?.choice)?.label ?? "";
    const what = place.charAt(0).toUpperCase() + place.slice(1);
    return [{ what, how: "renewed", reason: "leaks", seen: "Leak check", loop: null }];
  });
}

function ofBackFlush({ records }: Standing): FoundLine[] {
  if (chosen(records, "clean.back-flush") !== "none") return [];
  const seen = "Back-flush";
  return [{ what: "Three-way valve", how: "cleaned", reason: "no water came back into the tray", seen, loop: null }];
}

function ofEarlier({ job }: Standing): FoundLine[] {
  return job.carried.flatMap(({ kind, what, since, said }): FoundLine[] =>
    kind === "work" ? [{ what, how: "renewed", reason: `put off on ${since}`, seen: said, loop: null }] : [],
  );
}

/** Lines that come up on most machines of this kind and are not on the sheet yet. */
export function usualHere(standing: Standing) {
  const written = new Set(linesOfWork(standing).map(({ what, how }) => `${what} ${how}`));
  return usualWork(standing.kind, standing.card).filter(({ what, how }) => !written.has(`${what} ${how}`));
}
