import { useEffect, useId, useState } from "react";
import { Photos } from "../photos";
import type { TaskProps } from "./props";
import { TaskLines } from "./recorded";
import { EntryForm } from "~app/ui/entry-form";
import { useEntry } from "~app/ui/use-entry";
import { Button } from "~app/ui/button";
import { FieldError, SelectField, SureBox, TextArea, TextField } from "~app/ui/field";
import { CRITICAL_ACTS, HOWS, type How, OUTCOME_IDS, type Outcome, type WorkLine } from "~core/work";
import type { FittingParts } from "../parts-fitting";

type Props = Pick<TaskProps<"work">, "task" | "sheet" | "newId">;
type Found = Props["task"]["work"]["found"][number];
type Usual = Props["task"]["work"]["usual"][number];

/** Work and parts, a line each. What was found on this visit becomes a line with one tap; what is usual fills in the form. */
export function WorkTask({ task, sheet, newId }: Props) {
  const { work } = task;
  const [editing, setEditing] = useState<string | null>(null);
  const open = sheet.job.state === "open";
  const line = editing ? work.typed[editing] : undefined;
  return (
    <section aria-label={task.label} className="grid grid-cols-1 gap-3">
      {task.hint && <p className="text-sm text-soft">{task.hint}</p>}
      <TaskLines task={task} sheet={sheet} newId={newId} onEdit={(l) => setEditing(work.typed[l.id] ? l.id : null)} />
      {task.remedy && <p className="border-l-8 border-brass bg-brass-wash p-3">{task.remedy}</p>}
      {open && work.found.length > 0 && (
        <section aria-label="Found on this visit" className="grid gap-2 border-l-8 border-brass bg-brass-wash p-3">
          <h4 className="font-semibold">Found on this visit</h4>
          {work.found.map((found) => (
            <FoundLine key={found.what} found={found} sheet={sheet} newId={newId} />
          ))}
        </section>
      )}
      {open && (
        <>
          <details className="border-y border-rule">
            <summary className="min-h-11 cursor-pointer py-2.5 font-semibold">
              Photos{sheet.photos.length > 0 && `: ${sheet.photos.length}`}
            </summary>
            <div className="pb-3">
              <Photos sheet={sheet} newId={newId} />
            </div>
          </details>
          <WorkForm
            key={editing ?? "new"}
            {...{ task, sheet, newId }}
            line={line ?? {}}
            supersedes={line ? editing : null}
            onDone={() => setEditing(null)}
          />
          {work.empty && <Nothing task={task} sheet={sheet} newId={newId} />}
        </>
      )}
    </section>
  );
}

/** One tap, and it is a line: what came of it is the button. */
function FoundLine({ found, sheet, newId }: Pick<Props, "sheet" | "newId"> & { found: Found }) {
  const entry = useEntry("work", sheet.job.id, newId, { key: `work-found-${found.what}` });
  const fields = { what: found.what, how: found.how, reason: found.reason, seen: found.seen, loop: found.loop ?? "" };
  return (
    <EntryForm entry={entry} className="grid gap-1.5">
      <p>
        <strong>{found.what}</strong>: {found.reason}
        {found.seen && <span className="text-soft"> ({found.seen})</span>}
      </p>
      {Object.entries(fields).map(([name, value]) => (
        <input key={name} type="hidden" name={name} value={value} />
      ))}
      {found.critical ? (
        <p>Safety-critical: choose it below, under “Safety-critical part”.</p>
      ) : (
        <span className="flex flex-wrap gap-2">
          {OUTCOME_IDS.map((outcome) => (
            <Button key={outcome} name="outcome" value={outcome} disabled={entry.busy}>
              {SHORT[outcome]}
              <span className="sr-only">: {found.what}</span>
            </Button>
          ))}
        </span>
      )}
    </EntryForm>
  );
}

const SHORT: Readonly<Record<Outcome, string>> = {
  done: "Done",
  declined: "Declined",
  refused: "Refused",
  postponed: "Put off",
  open: "Decide later",
};

function Nothing({ task, sheet, newId }: Props) {
  const entry = useEntry("entry", sheet.job.id, newId, { key: `nothing-${task.id}` });
  return (
    <EntryForm entry={entry}>
      <input type="hidden" name="task" value={task.id} />
      <Button name="typed" value="nothing" look="quiet" disabled={entry.busy}>
        Nothing renewed, nothing repaired
      </Button>
    </EntryForm>
  );
}

/** What is asked of a safety-critical part, and what of all others: by what is chosen, scripts or none. */
const ON_CRITICAL = "group-has-[select[name=critical]_option[value='']:checked]/line:hidden";
const ON_OTHERS = "group-has-[select[name=critical]_option:not([value='']):checked]/line:hidden";

const MORE = ["until", "minutes", "price", "licensedName", "licence", "partId", "count", "seen", "sure"] as const;

function WorkForm({
  task,
  sheet,
  newId,
  line,
  supersedes,
  onDone,
}: Props & { line: Partial<WorkLine>; supersedes: string | null; onDone: () => void }) {
  const entry = useEntry("work", sheet.job.id, newId, {
    key: `work-${supersedes ?? "new"}`,
    onSaved: () => {
      begunAnew(entry.attributes.ref.current);
      onDone();
    },
  });
  const { field } = entry;
  const shelf = useShelf(task.work.modelId);
  const list = useId();
  const names = new Set([...task.work.usual.map((u) => u.what), ...shelf.parts.map((p) => p.name)]);
  const asked = MORE.some((name) => field(name).errors);
  const kept =
    line.seen ||
    line.photos?.length ||
    line.minutes != null ||
    line.price != null ||
    line.part ||
    line.licensed ||
    line.until;
  return (
    <EntryForm entry={entry} className="group/line grid grid-cols-1 gap-3">
      {supersedes && <input type="hidden" name="supersedes" value={supersedes} />}
      <input type="hidden" name="loop" value={line.loop ?? ""} />
      {task.work.usual.length > 0 && !supersedes && (
        <details className="border-y border-rule">
          <summary className="min-h-11 cursor-pointer py-2.5 font-semibold">Usual on this kind</summary>
          <ul className="flex flex-wrap gap-2 pb-2">
            {task.work.usual.map((usual) => (
              <li key={`${usual.what} ${usual.how}`}>
                <Button type="button" onClick={() => fillIn(entry.attributes.ref.current, usual)}>
                  {usual.what}: {usual.critical ? "safety-critical" : HOWS[usual.how]}
                </Button>
              </li>
            ))}
          </ul>
        </details>
      )}
      <SelectField field={field("critical")} label="Safety-critical part" defaultValue={line.critical?.part ?? ""}>
        <option value="">none of these</option>
        {task.work.critical.map(({ id, label }) => (
          <option key={id} value={id}>
            {label}
          </option>
        ))}
      </SelectField>
      <div className={ON_CRITICAL}>
        <SelectField field={field("act")} label="What was done to it" defaultValue={line.critical?.act ?? ""}>
          <option value="">choose</option>
          {Object.entries(CRITICAL_ACTS).map(([value, words]) => (
            <option key={value} value={value}>
              {words}
            </option>
          ))}
        </SelectField>
      </div>
      <div className={`${ON_OTHERS} grid gap-3 sm:grid-cols-[minmax(0,1fr)_11rem]`}>
        <TextField
          field={field("what")}
          label="Part or task"
          list={list}
          autoComplete="off"
          {...(line.what ? { defaultValue: line.what } : {})}
        />
        <datalist id={list}>
          {[...names].map((name) => (
            <option key={name} value={name} />
          ))}
        </datalist>
        <SelectField field={field("how")} label="How" defaultValue={line.how ?? ""}>
          <option value="">choose</option>
          {Object.entries(HOWS).map(([value, words]) => (
            <option key={value} value={value as How}>
              {words}
            </option>
          ))}
        </SelectField>
      </div>
      <TextArea field={field("reason")} label="Why" rows={2} {...(line.reason ? { defaultValue: line.reason } : {})} />
      {field("notCritical").errors && (
        <div className={`${ON_OTHERS} grid gap-1 pl-3`}>
          <FieldError field={field("notCritical")} />
          <label className="flex min-h-11 items-center gap-3">
            <input type="checkbox" name="notCritical" value="yes" className="size-6 shrink-0 accent-ink" />
            It is about something else: the report says that this was answered
          </label>
        </div>
      )}
      <details open={asked || kept ? true : undefined} className="border-y border-rule">
        <summary className="min-h-11 cursor-pointer py-2.5 font-semibold">
          More: seen, shelf, minutes, licence, until when
        </summary>
        <div className="grid gap-3 pb-3 sm:grid-cols-2">
          <TextArea
            field={field("seen")}
            label="What was seen"
            rows={2}
            {...(line.seen ? { defaultValue: line.seen } : {})}
          />
          {sheet.photos.length > 0 && <ShownOn sheet={sheet} chosen={line.photos ?? []} field={field("photos")} />}
          <div className="grid grid-cols-[minmax(0,1fr)_5rem] content-start gap-2">
            <SelectField field={field("partId")} label="From the shelf" defaultValue={line.part?.id ?? ""}>
              <option value="">not from the list</option>
              {shelf.parts.map((p) => (
                <option key={p.id} value={p.id}>
                  {p.name} {p.number} ({p.stock})
                </option>
              ))}
            </SelectField>
            <TextField
              field={field("count")}
              label="How many"
              inputMode="numeric"
              defaultValue={String(line.part?.count ?? 1)}
            />
          </div>
          <TextField
            field={field("minutes")}
            label="Minutes"
            inputMode="numeric"
            {...(line.minutes == null ? {} : { defaultValue: String(line.minutes) })}
          />
          {shelf.currency ? (
            <TextField
              field={field("price")}
              label={`Price, ${shelf.currency}`}
              inputMode="decimal"
              {...(line.price == null ? {} : { defaultValue: String(line.price) })}
            />
          ) : (
            <span />
          )}
          <TextField
            field={field("licensedName")}
            label="Done by, where a licence is asked for"
            {...(line.licensed ? { defaultValue: line.licensed.name } : {})}
          />
          <TextField
            field={field("licence")}
            label="Licence"
            hint="Gas, boilers under pressure, safety valves: local rules decide."
            {...(line.licensed ? { defaultValue: line.licensed.licence } : {})}
          />
          <TextField
            field={field("until")}
            label="Put off until"
            type="date"
            {...(line.until ? { defaultValue: line.until } : {})}
          />
          <label className="flex min-h-11 items-center gap-3 self-end">
            <input
              type="checkbox"
              name="safetyCritical"
              value="yes"
              defaultChecked={line.safetyCritical ?? false}
              className="size-6 accent-ink"
            />
            Safety-critical
          </label>
        </div>
      </details>
      {field("exception").errors && (
        <TextArea field={field("exception")} label="Reason for the exception (lead only)" rows={2} />
      )}
      <SureBox field={field("sure")} />
      <div role="group" aria-label="What came of it" className="flex flex-wrap gap-2">
        <Button name="outcome" value="done" look="main" disabled={entry.busy} className={ON_CRITICAL}>
          Save
        </Button>
        {OUTCOME_IDS.map((outcome) => (
          <Button
            key={outcome}
            name="outcome"
            value={outcome}
            look={outcome === "done" ? "main" : "plain"}
            aria-pressed={line.outcome === outcome}
            disabled={entry.busy}
            className={ON_OTHERS}
          >
            {SHORT[outcome]}
          </Button>
        ))}
        {supersedes && (
          <Button type="button" look="quiet" onClick={onDone}>
            Cancel
          </Button>
        )}
      </div>
    </EntryForm>
  );
}

/** Which photos show it. */
function ShownOn({
  sheet,
  chosen,
  field,
}: Pick<Props, "sheet"> & { chosen: readonly string[]; field: Parameters<typeof FieldError>[0]["field"] }) {
  return (
    <fieldset className="grid content-start gap-1.5">
      <legend className="mb-1.5 font-semibold">Shown on</legend>
      <div className="flex flex-wrap gap-2">
        {sheet.photos.map((photo, i) => (
          <label key={photo.id} className="grid cursor-pointer justify-items-center gap-1 text-sm">
            <img
              src={`/jobs/${sheet.job.id}/photos/${photo.id}`}
              alt={`Photo ${i + 1}${photo.area ? `, ${photo.area}` : ""}`}
              width={photo.width}
              height={photo.height}
              loading="lazy"
              className="size-16 border-2 border-rule object-cover"
            />
            <input
              type="checkbox"
              name="photos"
              value={photo.id}
              defaultChecked={chosen.includes(photo.id)}
              className="size-6 accent-ink"
            />
          </label>
        ))}
      </div>
      <FieldError field={field} />
    </fieldset>
  );
}

/** What was chosen for one line is not chosen for the next, unless that one is begun already. */
function begunAnew(form: HTMLFormElement | null): void {
  const control = (name: string) => form?.elements.namedItem(name) as HTMLInputElement | HTMLSelectElement | null;
  if (control("what")?.value !== "" || control("reason")?.value !== "") return;
  for (const [name, value] of Object.entries({ how: "", critical: "", act: "", partId: "", count: "1" })) {
    const chosen = control(name);
    if (chosen) chosen.value = value;
  }
}

/** Types a usual line into the form as a hand would; what is left to say is next. */
function fillIn(form: HTMLFormElement | null, usual: Usual): void {
  if (!form) return;
  const typed = usual.critical
    ? { critical: usual.critical }
    : { critical: "", what: usual.what, how: usual.how, ...(usual.reason ? { reason: usual.reason } : {}) };
  for (const [name, value] of Object.entries(typed)) {
    const control = form.elements.namedItem(name) as HTMLInputElement | HTMLSelectElement | null;
    if (!control) continue;
    control.value = value;
    control.dispatchEvent(new Event("input", { bubbles: true }));
  }
  (form.elements.namedItem("reason") as HTMLTextAreaElement | null)?.focus();
}

/** What lies on the shelf for this model: asked for once the form is there. */
function useShelf(modelId: string): FittingParts {
  const [shelf, setShelf] = useState<FittingParts>({ parts: [], currency: "" });
  useEffect(() => {
    const stop = new AbortController();
    // Without a connection the form works on, without the list: a page is not lost for it.
    fetch(`/parts/fitting?model=${modelId}`, { signal: stop.signal })
      .then(async (answer) => answer.ok && setShelf((await answer.json()) as FittingParts))
      .catch(() => undefined);
    return () => stop.abort();
  }, [modelId]);
  return shelf;
}
