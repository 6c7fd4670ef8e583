import type { Entry, Job } from "./job";

/** What corrected a record or took it back, by the record’s id. Ticks, timers and readings have no line of their own to be superseded. */
export function takenBack({ entries }: Pick<Job, "entries">): Map<string, Entry> {
  return new Map(
    entries.flatMap((e) => {
      const of = e.supersedes ?? (e.value.form === "struck" ? e.value.of : undefined);
      return of ? [[of, e] as const] : [];
    }),
  );
}
