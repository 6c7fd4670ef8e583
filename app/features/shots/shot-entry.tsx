import { type ReactNode, type RefObject, useEffect, useState } from "react";
import type { ShotsView, TryView } from "~server/jobs/views/shots";
import { Button } from "~app/ui/button";
import { EntryForm } from "~app/ui/entry-form";
import { FieldError, SelectField, SureBox, TextField, tied } from "~app/ui/field";
import { type Entry, type EntryAnswer, useEntry } from "~app/ui/use-entry";
import { BASKETS } from "~core/grinder";
import { formatFigure, unitById } from "~core/quantity";
import { FLOWS, type PulledBy, ROASTS, STRENGTHS, TASTES, type ShotClock, timesOf } from "~core/shot";

interface Props {
  view: ShotsView;
  newId: string;
  /** The stopped clock, whose times fill the form. */
  clockId: string | null;
  clock: ShotClock;
  /** The stop of the clock whose times, and whose scale, have filled a form already: it may be drawn anew before the clock is free. */
  filled?: RefObject<{ times?: number; scale?: number }>;
  /** What the scale said at rest and at the stop, g: filled in where nothing is typed. */
  atRest?: number | null;
  atStop?: number | null;
  /** The clock is free again: its shot was kept. */
  onRecorded?: () => void;
  correcting?: TryView;
  onSaved: (answer: EntryAnswer) => void;
}

const BY: Record<PulledBy, string> = {
  manual: "hand",
  double: "double",
  single: "single",
  "double-long": "long double",
  "single-long": "long single",
  fifth: "fifth button",
  sixth: "sixth button",
};

/** One shot: what the clock does not know is typed, what the last shot had is carried over. */
export function ShotEntry({
  view,
  newId,
  clockId,
  clock,
  filled,
  atRest,
  atStop,
  correcting,
  onRecorded,
  onSaved,
}: Props) {
  const entry = useEntry("shot", view.job.id, newId, {
    key: correcting ? `shot-${correcting.id}` : "shot",
    onSaved: (answer) => {
      onRecorded?.();
      onSaved(answer);
    },
  });
  const start: Start = correcting ? valuesOf(correcting, view.unit) : view.carried;
  const amends = view.job.state === "signed";
  const f = (name: string) => entry.fields[name]!;
  useClockTimes(entry, clock, filled);
  useScaleFigures(entry, clock, atRest ?? null, atStop ?? null, filled);
  return (
    <EntryForm entry={entry} className="grid gap-3">
      {clockId && clock.stop !== undefined && !correcting && <input type="hidden" name="clockId" value={clockId} />}
      {correcting && <input type="hidden" name="supersedes" value={correcting.id} />}
      <div className="grid grid-cols-[minmax(0,1.3fr)_minmax(0,1fr)_minmax(0,1fr)] items-start gap-2">
        <Large entry={entry} name="yield" label="In the cup" unit="g" defaultValue={start.yield} />
        <Large entry={entry} name="seconds" label="Seconds" unit="s" defaultValue={start.seconds} />
        <Large entry={entry} name="firstDrop" label="First drop" unit="s" defaultValue={start.firstDrop} />
      </div>
      <Asked entry={entry} about={["yield", "seconds", "firstDrop"]} />
      <div className="grid grid-cols-3 items-start gap-2">
        <TextField
          field={f("setting")}
          label="Grind"
          inputMode="decimal"
          defaultValue={start.setting}
          {...(!correcting && view.advised ? { hint: "as advised" } : {})}
        />
        <Figure entry={entry} name="dose" label="Dose, g" start={start} />
        <SelectField field={f("by")} label="Ended by" defaultValue={start.by}>
          {view.machine.buttons.map((b) => (
            <option key={b} value={b}>
              {BY[b]}
            </option>
          ))}
        </SelectField>
      </div>
      <Asked entry={entry} about={["dose"]} />
      {view.machine.groups > 1 && (
        <SelectField field={f("group")} label="Group" defaultValue={start.group}>
          {Array.from({ length: view.machine.groups }, (_, i) => (
            <option key={i} value={i + 1}>
              group {i + 1}
            </option>
          ))}
        </SelectField>
      )}
      <Chips field={f("flow")} name="flow" label="Flow" options={FLOWS} value={start.flow}>
        <label className={CHIP}>
          <input
            name="choked"
            type="checkbox"
            value="yes"
            defaultChecked={start.choked === "yes"}
            className="sr-only"
          />
          choked
        </label>
      </Chips>
      <Chips field={f("taste")} name="taste" label="Taste" options={TASTES} value={start.taste} />
      {(amends || correcting) && (
        <TextField field={f("reason")} label={amends ? "Reason for adding it after signing" : "Reason"} />
      )}
      <Button look="main" disabled={entry.busy}>
        {entry.busy ? "Saving…" : correcting ? "Save the correction" : amends ? "Add as an amendment" : "Save shot"}
      </Button>
      <Beans entry={entry} view={view} start={start} />
      <input type="hidden" name="unit" value={view.unit} />
      <More entry={entry} start={start} unit={unitById(view.unit).symbol} />
    </EntryForm>
  );
}

type Start = Record<string, string>;

/** The question that is asked about this field, if it is this one. */
const askedOf = (entry: Entry, name: string) => (entry.field(`about.${name}`).errors ? entry.fields.sure : undefined);

function Figure({ entry, name, label, start }: { entry: Entry; name: string; label: string; start: Start }) {
  return (
    <TextField
      field={entry.fields[name]!}
      sure={askedOf(entry, name)}
      label={label}
      inputMode="decimal"
      defaultValue={start[name]}
    />
  );
}

/** The question stands where the field is that it is about. */
function Asked({ entry, about }: { entry: Entry; about: readonly string[] }) {
  const sure = about.map((name) => askedOf(entry, name)).find(Boolean);
  return sure ? (
    <div className="col-span-full">
      <SureBox field={sure} />
    </div>
  ) : null;
}

/** Fills in what was tapped once the clock is stopped, and goes to the cup. */
function useClockTimes(entry: Entry, clock: ShotClock, filled: Props["filled"]) {
  const { ref, onInput: keep } = entry.attributes;
  useEffect(() => {
    if (!filled || clock.stop === undefined || filled.current.times === clock.stop) return;
    filled.current.times = clock.stop;
    const form = ref.current;
    if (!form) return;
    const { firstDrop, total } = timesOf(clock);
    const put = (name: string, value: string) => {
      const field = form.elements.namedItem(name);
      if (field instanceof HTMLInputElement || field instanceof HTMLSelectElement) field.value = value;
    };
    put("seconds", total?.toFixed(1) ?? "");
    put("firstDrop", firstDrop?.toFixed(1) ?? "");
    put("from", "pump");
    keep();
    const cup = form.elements.namedItem("yield");
    // Not away from under the hands: who is in a field already stays there.
    if (cup instanceof HTMLInputElement && !form.contains(document.activeElement)) cup.focus();
  }, [clock, filled, keep, ref]);
}

/** Once the cup is at rest the scale’s figures stand in the form, unless somebody typed their own. */
function useScaleFigures(
  entry: Entry,
  { stop }: ShotClock,
  atRest: number | null,
  atStop: number | null,
  filled: Props["filled"],
) {
  const { ref, onInput: keep } = entry.attributes;
  useEffect(() => {
    if (!filled || atRest === null || stop === undefined || filled.current.scale === stop) return;
    filled.current.scale = stop;
    for (const [name, grams] of [
      ["yield", atRest],
      ["atStop", atStop],
    ] as const) {
      const field = ref.current?.elements.namedItem(name);
      if (field instanceof HTMLInputElement && field.value === "" && grams !== null) field.value = grams.toFixed(1);
    }
    keep();
  }, [stop, atRest, atStop, filled, keep, ref]);
}

function Large({
  entry,
  name,
  label,
  unit,
  defaultValue,
}: {
  entry: Entry;
  name: string;
  label: string;
  unit: string;
  defaultValue?: string | undefined;
}) {
  const field = entry.fields[name]!;
  return (
    <div className="grid gap-1.5">
      <label htmlFor={field.id} className="font-semibold">
        {label}
        <span className="font-normal text-soft">, {unit}</span>
      </label>
      <input
        {...tied(field, undefined, askedOf(entry, name))}
        {...(defaultValue ? { defaultValue } : {})}
        type="text"
        inputMode="decimal"
        className="figure h-14 w-full rounded-md border-2 border-ink bg-sheet px-2 text-3xl font-semibold aria-invalid:border-alarm"
      />
      <FieldError field={field} />
    </div>
  );
}

function Chips({
  field,
  name,
  label,
  options,
  value,
  children,
}: {
  field: Entry["fields"][string];
  name: string;
  label: string;
  options: readonly string[];
  value?: string | undefined;
  children?: ReactNode;
}) {
  return (
    <fieldset className="flex flex-wrap items-center gap-1">
      <legend className="sr-only">{label}</legend>
      <span aria-hidden="true" className="w-12 text-sm font-semibold">
        {label}
      </span>
      {options.map((o) => (
        <label key={o} className={CHIP}>
          <input type="radio" name={name} value={o} defaultChecked={value === o} className="sr-only" />
          {o === "died" ? "died off" : o}
        </label>
      ))}
      {children}
      <FieldError field={field} />
    </fieldset>
  );
}

const CHIP =
  "grid min-h-11 cursor-pointer place-items-center rounded-md border-2 border-edge bg-sheet px-2 has-checked:border-ink has-checked:bg-ink has-checked:text-on-ink has-focus-visible:outline-3 has-focus-visible:outline-offset-2 has-focus-visible:outline-brass";

/** A fold that opens by itself where something in it was refused. */
function Fold({
  title,
  errors,
  open,
  children,
}: {
  title: ReactNode;
  errors: unknown;
  open: boolean;
  children: ReactNode;
}) {
  const [shown, setShown] = useState(open);
  return (
    <details
      open={shown || Boolean(errors)}
      onToggle={(e) => setShown(e.currentTarget.open)}
      className="border-t border-rule"
    >
      <summary className="min-h-11 cursor-pointer py-2.5 font-semibold">{title}</summary>
      <div className="grid grid-cols-2 items-start gap-2 pb-2">{children}</div>
    </details>
  );
}

/** How the scale of the grinder is divided, and where it ends. */
const SCALE = [
  ["step", "Its smallest step"],
  ["lowest", "Its lowest setting (optional)"],
  ["highest", "Its highest setting (optional)"],
] as const;

const BEANS = [
  "coffeeName",
  "roast",
  "roastedOn",
  "basket",
  "grinderName",
  "finer",
  "step",
  "lowest",
  "highest",
  "amount",
  "from",
  "scaleId",
];

function Beans({ entry, view, start }: { entry: Entry; view: ShotsView; start: Start }) {
  const f = (name: string) => entry.fields[name]!;
  const { amount } = view.machine;
  const said = [start.coffeeName, BASKETS[start.basket === "single" ? "single" : "double"].label, start.grinderName]
    .filter(Boolean)
    .join(", ");
  return (
    <Fold
      title={
        <>
          Coffee and grinder<span className="font-normal text-soft">: {said || "not given yet"}</span>
        </>
      }
      errors={BEANS.some((name) => entry.fields[name]?.errors ?? askedOf(entry, name))}
      open={!start.coffeeName}
    >
      <TextField field={f("coffeeName")} label="Coffee" defaultValue={start.coffeeName} data-keep="" />
      <TextField
        field={f("roastedOn")}
        sure={askedOf(entry, "roastedOn")}
        label="Roasted on"
        type="date"
        defaultValue={start.roastedOn}
        data-keep=""
      />
      <Asked entry={entry} about={["roastedOn"]} />
      <SelectField field={f("roast")} label="Roast" defaultValue={start.roast}>
        <option value="">not said</option>
        {ROASTS.map((r) => (
          <option key={r}>{r}</option>
        ))}
      </SelectField>
      <label className="flex min-h-11 cursor-pointer items-center gap-3 self-end">
        <input
          type="checkbox"
          name="preGround"
          value="yes"
          defaultChecked={start.preGround === "true" || start.preGround === "yes"}
          className="size-6 shrink-0 accent-ink"
        />
        Pre-ground coffee
      </label>
      <SelectField field={f("basket")} label="Basket" defaultValue={start.basket}>
        <option value="double">double</option>
        <option value="single">single</option>
      </SelectField>
      <TextField field={f("grinderName")} label="Grinder" defaultValue={start.grinderName} data-keep="" />
      <SelectField field={f("finer")} label="Finer is" defaultValue={start.finer}>
        <option value="-1">the smaller number</option>
        <option value="1">the larger number</option>
      </SelectField>
      {SCALE.map(([name, label]) => (
        <TextField
          key={name}
          field={f(name)}
          label={label}
          inputMode="decimal"
          defaultValue={start[name]}
          data-keep=""
        />
      ))}
      {amount && (
        <>
          <input type="hidden" name="amountKind" value={amount.kind} />
          <TextField field={f("amount")} label={amount.label} defaultValue={start.amount} data-keep="" />
        </>
      )}
      <SelectField field={f("from")} label="Seconds count from" defaultValue={start.from}>
        <option value="pump">the pump</option>
        <option value="button">the button</option>
        <option value="first-drop">the first drop</option>
      </SelectField>
      {view.scales.length > 0 && (
        <SelectField field={f("scaleId")} label="Weighed with" defaultValue={view.scales[0]!.id}>
          {view.scales.map((s) => (
            <option key={s.id} value={s.id}>
              {s.name}
            </option>
          ))}
        </SelectField>
      )}
    </Fold>
  );
}

const MORE = [
  "preInfusion",
  "pause",
  "setPoint",
  "peak",
  "plateau",
  "atStop",
  "volume",
  "trayMl",
  "waterIn",
  "tds",
  "strength",
  "note",
];

function More({ entry, start, unit }: { entry: Entry; start: Start; unit: string }) {
  const f = (name: string) => entry.fields[name]!;
  const figure = (name: string, label: string) => <Figure entry={entry} name={name} label={label} start={start} />;
  return (
    <Fold
      title={
        <>
          Pressure, temperature, water, TDS<span className="font-normal text-soft">, where they were read</span>
        </>
      }
      errors={MORE.some((name) => entry.fields[name]?.errors ?? askedOf(entry, name))}
      open={false}
    >
      {figure("peak", `Highest pressure, ${unit}`)}
      {figure("plateau", `Steady pressure, ${unit}`)}
      {figure("setPoint", "Set point, °C (dark 91–92, medium 93.5–94, light 94.5–96)")}
      {figure("atStop", "At the stop, g")}
      {figure("preInfusion", "Pre-infusion, s")}
      {figure("pause", "Pause, s")}
      {figure("waterIn", "Water in, ml")}
      {figure("volume", "In the cup, ml (instead of g)")}
      <SelectField field={f("crema")} label="The ml are read" defaultValue={start.crema ?? "with-crema"}>
        <option value="with-crema">crema included</option>
        <option value="without">without crema</option>
      </SelectField>
      {figure("trayMl", "Caught in the tray, ml")}
      {figure("tds", "Dissolved, TDS %")}
      <SelectField field={f("strength")} label="Strength" defaultValue={start.strength ?? ""}>
        <option value="">not said</option>
        {STRENGTHS.map((s) => (
          <option key={s}>{s}</option>
        ))}
      </SelectField>
      <Asked entry={entry} about={MORE} />
      <div className="col-span-2">
        <TextField field={f("note")} label="Note" defaultValue={start.note} />
      </div>
    </Fold>
  );
}

/** A recorded shot as the form has it. */
function valuesOf({ pull, typed }: TryView, unit: string): Start {
  const { coffee, grinder } = pull;
  // Whoever corrects it may have another unit than whoever typed it.
  const pressure = (x: number | undefined) => (x === undefined ? undefined : formatFigure(x, 0.1, unitById(unit)));
  const text: Record<string, string | number | undefined | null> = {
    ...pull,
    ...typed,
    peak: pressure(pull.peak),
    plateau: pressure(pull.plateau),
    coffeeName: coffee.name,
    roast: coffee.roast,
    roastedOn: coffee.roastedOn,
    grinderName: grinder.name,
    finer: grinder.finer,
    step: grinder.step,
    lowest: grinder.lowest,
    highest: grinder.highest,
    choked: pull.choked ? "yes" : "",
    preGround: pull.preGround ? "yes" : "",
    crema: pull.byVolume,
    coffee: "",
    grinder: "",
  };
  return Object.fromEntries(Object.entries(text).flatMap(([k, v]) => (v == null || v === "" ? [] : [[k, String(v)]])));
}
