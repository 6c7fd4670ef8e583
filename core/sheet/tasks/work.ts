import { sayAny, Unfit, type TaskModule } from "./task";

/** Work and parts, a line each; and faults that stay in. Their lines are typed in forms of their own. */

export interface WorkTask {
  readonly kind: "work";
}

/** What is typed where there was nothing to do. */
export const NOTHING = "nothing";

export const work: TaskModule<WorkTask> = {
  done(task, { records }) {
    const lines = records.values.get(task.id) ?? [];
    return lines.length > 0 && !lines.some((v) => v.form === "work" && v.outcome === "open");
  },
  read(_, { typed }) {
    if (typed.trim() !== NOTHING) throw new Unfit("Type it as a line of work.");
    return { form: "text", text: "Nothing renewed, nothing repaired." };
  },
  say: (_, value) => sayAny(value),
  remedy(task, records) {
    const open = (records.values.get(task.id) ?? []).flatMap((v) =>
      v.form === "work" && v.outcome === "open" ? [v.what] : [],
    );
    return open.length > 0 ? `To be decided: ${open.join(", ")}.` : "";
  },
};

export interface LeftTask {
  readonly kind: "left";
}

export const left: TaskModule<LeftTask> = {
  done: () => true,
  say: (_, value) => sayAny(value),
};
