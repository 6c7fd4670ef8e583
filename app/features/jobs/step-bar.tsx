import { type MouseEvent, useEffect, useRef, useSyncExternalStore } from "react";
import { flushSync } from "react-dom";
import type { SheetView } from "~server/jobs/views/sheet";
import type { TaskView } from "~server/jobs/views/station";
import { isAtGauge, isUndone } from "./undone";
import type { Zone } from "./zones";
import { ENTRY, firstControl, isChanged } from "~app/ui/controls";
import { Button, ButtonLink } from "~app/ui/button";

/** After the bar has come to say something else, ms: the second of two taps is not meant for what it has not been read for. */
const READ = 450;

/**
 * On a small screen the next thing to do in the step in hand is under the thumb, however long the step is: done there with a tap, or led
 * to where it is typed or measured.
 */
export function StepBar({ sheet, onShow }: { sheet: SheetView; onShow: (zone: Zone) => void }) {
  const does = nextOf(sheet);
  const saves = useSyncExternalStore(
    heard,
    // What can't be undone is not pressed where something else was a moment before.
    () => (does?.kind === "go" && does.key !== "sign" && savesOf(does.key)?.textContent) || "",
    () => "",
  );
  const since = useRef(0);
  const said = does ? `${does.kind} ${does.key} ${saves}` : "";
  useEffect(() => {
    since.current = performance.now();
  }, [said]);
  if (!does) return null;
  const early = (event: MouseEvent) => {
    if (performance.now() - since.current < READ) event.preventDefault();
  };
  return (
    <div className="no-print step-bar flex shrink-0 items-stretch border-t-2 border-rule bg-paper p-2 wide:hidden">
      {does.kind === "act" ? (
        <Button
          look="main"
          data-next=""
          form={does.form}
          name="key"
          value={does.key}
          onClick={early}
          className="w-full"
        >
          {does.says}
        </Button>
      ) : saves ? (
        <Button
          type="button"
          look="main"
          data-next=""
          onClick={(event) => {
            early(event);
            const button = savesOf(does.key);
            if (event.defaultPrevented || !button) return;
            // As if it had been pressed itself: from there the focus goes on.
            button.focus({ preventScroll: true });
            button.form?.requestSubmit(button);
          }}
          className="w-full"
        >
          {saves === "Save" ? `Save: ${does.says}` : saves}
        </Button>
      ) : does.kind === "open" ? (
        <ButtonLink to={does.to!} preventScrollReset look="main" data-next="" className="w-full">
          {does.says}
        </ButtonLink>
      ) : (
        <a
          data-next=""
          href={does.kind === "measure" ? "?zone=gauge" : `#task-${does.key}`}
          className="inline-flex min-h-11 w-full items-center justify-center gap-2 rounded-md border-2 border-ink bg-sheet px-4 py-1.5 text-center leading-tight font-semibold"
          onClick={(event) => {
            event.preventDefault();
            if (does.kind === "measure") return onShow("gauge");
            // Where it stands can have the focus once it is in sight.
            flushSync(() => onShow("sheet"));
            goTo(placeOf(does.key));
          }}
        >
          <span className="min-w-0">{does.says}</span>
          <span aria-hidden="true">{does.kind === "measure" ? "→" : "↓"}</span>
        </a>
      )}
    </div>
  );
}

const HEARD = ["input", "change", "focusin", "reset"];

function heard(tell: () => void) {
  for (const what of HEARD) document.addEventListener(what, tell);
  return () => HEARD.forEach((what) => document.removeEventListener(what, tell));
}

/** What does a task that takes nothing but a tap, or saves what was typed for it, once something was. A choice is made where it stands. */
function savesOf(task: string): HTMLButtonElement | undefined {
  const at = placeOf(task);
  const within = [...(at?.querySelectorAll("form") ?? [])];
  const around = within.length === 0 && at?.closest("form");
  const forms = around ? [around] : within;
  const form =
    forms.find((f) => [...f.elements].some(isChanged)) ??
    forms.find((f) => !f.querySelector(ENTRY) && f.querySelector("[data-main]"));
  const buttons = [...(form?.querySelectorAll<HTMLButtonElement>("button[type=submit]") ?? [])];
  return buttons.length === 1 && !buttons[0]!.disabled ? buttons[0] : undefined;
}

/** Where a task is done: at a field in the form of another one, or in a place of its own. */
const placeOf = (task: string) =>
  document.querySelector<HTMLElement>(`[data-takes="${task}"]`) ?? document.getElementById(`task-${task}`);

function goTo(task: HTMLElement | null) {
  task?.scrollIntoView({ block: "center" });
  (firstControl(task) ?? task)?.focus({ preventScroll: true });
}

interface Next {
  /** Done with a tap; scrolled to; measured in the zone of the gauge; another step or knob opened. */
  kind: "act" | "go" | "measure" | "open";
  key: string;
  says: string;
  form?: string;
  to?: string;
}

/** The first thing of the step that still has to be done, or the way to the next step. */
function nextOf({ open, next, job, loop }: SheetView): Next | null {
  if (!open || job.state !== "open") return null;
  const task = open.tasks.find(isUndone);
  if (!task) return next && { kind: "open", key: next.id, says: `Next: ${next.title}`, to: `?at=${next.id}` };
  if (task.kind === "tick" || task.kind === "heat")
    return { kind: "act", key: task.id, says: task.label, form: `tick-${task.id}` };
  if ("loop" in task) {
    const says = `Measure: ${task.label}`;
    if (isAtGauge(task, loop)) return { kind: "measure", key: task.id, says };
    return { kind: "open", key: task.id, says, to: `?${new URLSearchParams({ at: open.id, loop: task.loop })}` };
  }
  if (task.kind === "shots") return { kind: "open", key: task.id, says: "To the shots", to: `/jobs/${job.id}/shots` };
  // What one form takes stands under the first of it.
  const at: TaskView = (task.grouped && open.tasks.find((t) => t.grouped === task.grouped)) || task;
  return { kind: "go", key: at.id, says: task.label };
}
