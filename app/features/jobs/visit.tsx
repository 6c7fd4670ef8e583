import { useState } from "react";
import type { SheetView } from "~server/jobs/views/sheet";
import { Button } from "~app/ui/button";
import { Clock, Day } from "~app/ui/dates";
import { Dialog } from "~app/ui/dialog";
import { EntryForm } from "~app/ui/entry-form";
import { FieldError, SelectField, TextField } from "~app/ui/field";
import { useEntry } from "~app/ui/use-entry";
import { formatFigure, unitById, unitsOf } from "~core/quantity";
import { SCOPES, SCOPE_IDS } from "~core/sheet";
import { WANTED } from "~core/spec";
import { WARM_WORDS } from "~core/warmup";

interface Props {
  sheet: SheetView;
  newId: string;
  unit: string;
}

/** What this visit is for, what it is held against, and the data it goes by: all of it can change while the job is open. */
export function Visit({ sheet, newId, unit }: Props) {
  const { job } = sheet;
  if (job.state === "withdrawn") return <Withdrawn sheet={sheet} newId={newId} />;
  if (job.state === "signed") return null;
  return (
    <div className="grid w-full gap-2">
      {job.changedSince && <ChangedSince sheet={sheet} newId={newId} />}
      <p className="flex flex-wrap gap-x-5">
        <Window
          name="Scope"
          title="What this visit is for"
          about="Add at any time. Taking out what was begun needs a reason; what was recorded stays on record."
        >
          {(close) => <Scopes sheet={sheet} newId={newId} onSaved={close} />}
        </Window>
        {job.heats && (
          <Window
            name={`Warm-up: ${WARM_WORDS[job.level].toLowerCase()}`}
            title="Warm-up required"
            about="Readings taken before this level are marked “not warmed up”. Those marked already keep their mark."
          >
            {(close) => <Level sheet={sheet} newId={newId} onSaved={close} />}
          </Window>
        )}
        {job.wanted.length > 0 && (
          <Window
            name={job.wanted.some((w) => w.own) ? "Wanted values: own" : "Wanted values"}
            title="Values wanted on this visit"
            about="Over the spec, for this visit alone. The report gives the reason. For every visit: edit the machine."
          >
            {(close) =>
              job.wanted.map((w) => (
                <WantedValue key={w.of} sheet={sheet} newId={newId} unit={unit} wanted={w} onSaved={close} />
              ))
            }
          </Window>
        )}
        <Window
          name="Withdraw job"
          title="Withdraw this job"
          about="For a job started by mistake. It leaves the bench; all that was recorded stays, and it can be reopened."
        >
          {(close) => <Withdraw sheet={sheet} newId={newId} onSaved={close} />}
        </Window>
      </p>
    </div>
  );
}

/** A window opened by a line of text, closed once what it asks is saved. */
function Window({
  name,
  title,
  about,
  children,
}: {
  name: string;
  title: string;
  about: string;
  children: (close: () => void) => React.ReactNode;
}) {
  const [open, setOpen] = useState(false);
  return (
    <Dialog
      open={open}
      onOpenChange={setOpen}
      title={title}
      about={about}
      trigger={
        <button type="button" className="min-h-11 cursor-pointer text-sm underline decoration-edge underline-offset-4">
          {name}
        </button>
      }
    >
      {children(() => setOpen(false))}
    </Dialog>
  );
}

type Part = Omit<Props, "unit"> & { onSaved: () => void };

function Scopes({ sheet, newId, onSaved }: Part) {
  const { job } = sheet;
  const entry = useEntry("scopes", job.id, newId, { onSaved });
  const here = SCOPE_IDS.filter((id) => job.scopes.includes(id) || job.offered.includes(id));
  return (
    <EntryForm entry={entry} className="grid gap-3">
      <fieldset className="grid gap-1 sm:grid-cols-2">
        <legend className="sr-only">Scopes of the visit</legend>
        {here.map((id) => (
          <label key={id} className="flex min-h-11 cursor-pointer items-center gap-3">
            <input
              type="checkbox"
              name="scopes"
              value={id}
              defaultChecked={job.scopes.includes(id)}
              className="size-6 shrink-0 accent-ink"
            />
            <span>
              <span className="font-semibold">{SCOPES[id].title}</span>
              <span className="block text-sm text-soft">{SCOPES[id].about}</span>
            </span>
          </label>
        ))}
      </fieldset>
      <FieldError field={entry.fields.scopes!} />
      <TextField field={entry.fields.reason!} label="Reason, where something begun is taken out" />
      <Button look="main" disabled={entry.busy} className="justify-self-start">
        {entry.busy ? "Saving…" : "Change the visit"}
      </Button>
    </EntryForm>
  );
}

function Level({ sheet, newId, onSaved }: Part) {
  const { job } = sheet;
  const entry = useEntry("level", job.id, newId, { onSaved });
  return (
    <EntryForm entry={entry} className="grid gap-3">
      <SelectField field={entry.fields.level!} label="Warm-up required" defaultValue={job.level}>
        {job.levels.map((level) => (
          <option key={level} value={level}>
            {WARM_WORDS[level].toLowerCase()}
          </option>
        ))}
      </SelectField>
      <Button look="main" disabled={entry.busy} className="justify-self-start">
        Save
      </Button>
    </EntryForm>
  );
}

function WantedValue({
  sheet,
  newId,
  unit,
  wanted,
  onSaved,
}: Props & { wanted: SheetView["job"]["wanted"][number]; onSaved: () => void }) {
  const entry = useEntry("wanted", sheet.job.id, newId, { key: `wanted-${wanted.of}`, onSaved });
  const { label, dimension, resolution } = WANTED[wanted.of];
  const shown = dimension === "pressure" ? unitById(unit) : unitsOf(dimension)[0]!;
  const figure = (x: number | undefined) => (x === undefined ? "–" : formatFigure(x, resolution, shown));
  return (
    <EntryForm entry={entry} className="grid gap-2 border-t border-rule pt-3">
      <input type="hidden" name="of" value={wanted.of} />
      <input type="hidden" name="unit" value={shown.id} />
      <TextField
        field={entry.fields.typed!}
        label={`${label}, ${shown.symbol}`}
        hint={`Now ${figure(wanted.now.lower)} to ${figure(wanted.now.upper)}${wanted.own ? ", this visit’s own" : ""}. A range, like “${figure(wanted.now.lower)} to ${figure(wanted.now.upper)}”; empty: as the spec has it.`}
        autoComplete="off"
        className="figure"
      />
      <TextField field={entry.fields.reason!} label="Reason" />
      <Button disabled={entry.busy} className="justify-self-start">
        Save
      </Button>
    </EntryForm>
  );
}

function Withdraw({ sheet, newId, onSaved }: Part) {
  const entry = useEntry("withdraw", sheet.job.id, newId, { onSaved });
  return (
    <EntryForm entry={entry} className="grid gap-3">
      <TextField field={entry.fields.reason!} label="Reason" />
      <Button look="alarm" disabled={entry.busy} className="justify-self-start">
        Withdraw the job
      </Button>
    </EntryForm>
  );
}

function Withdrawn({ sheet, newId }: Omit<Props, "unit">) {
  const entry = useEntry("reopen", sheet.job.id, newId);
  const { withdrawn } = sheet.job;
  return (
    <div role="status" className="grid w-full gap-2 border-l-8 border-brass bg-brass-wash p-3 text-ink">
      {withdrawn && (
        <p>
          <strong>Withdrawn</strong> by {withdrawn.by} on <Day iso={withdrawn.at} /> at <Clock iso={withdrawn.at} />:{" "}
          {withdrawn.reason}
        </p>
      )}
      <EntryForm entry={entry}>
        <Button disabled={entry.busy}>Reopen the job</Button>
      </EntryForm>
    </div>
  );
}

/** Library or register say otherwise since the job began: the sheet waits for a decision, nothing is lost. */
function ChangedSince({ sheet, newId }: Omit<Props, "unit">) {
  const entry = useEntry("particulars", sheet.job.id, newId);
  return (
    <div role="status" className="grid gap-2 border-l-8 border-brass bg-brass-wash p-3 text-ink">
      <p>
        Since this job began <strong>{sheet.job.changedSince}</strong>. The sheet stays as it is until you decide; all
        that is recorded stays either way.
      </p>
      <EntryForm entry={entry}>
        <Button disabled={entry.busy}>Rebuild the sheet</Button>
      </EntryForm>
    </div>
  );
}
