import type { FieldMetadata } from "@conform-to/react";
import type { ComponentProps, ReactNode } from "react";

/** A label above, an error right below; both tied to the control for those who hear the page. */
interface Shared {
  field: Pick<FieldMetadata<unknown>, "id" | "errorId" | "name" | "errors"> & { initialValue?: unknown };
  label: ReactNode;
  hint?: ReactNode;
}

const BOX = "w-full rounded-md border-2 border-edge bg-sheet px-3 py-2.5 aria-invalid:border-alarm";

export function TextField({
  field,
  label,
  hint,
  sure,
  className = "",
  ...props
}: Shared & {
  /** The question that is asked about it. */ sure?: Shared["field"] | undefined;
} & ComponentProps<"input">) {
  return (
    <Labelled field={field} label={label} hint={hint}>
      <input inputMode="text" {...tied(field, hint, sure)} {...props} className={`${BOX} ${className}`} />
    </Labelled>
  );
}

export function TextArea({ field, label, hint, ...props }: Shared & ComponentProps<"textarea">) {
  return (
    <Labelled field={field} label={label} hint={hint}>
      <textarea rows={3} {...tied(field, hint)} enterKeyHint="enter" {...props} className={BOX} />
    </Labelled>
  );
}

export function SelectField({ field, label, hint, children, ...props }: Shared & ComponentProps<"select">) {
  return (
    <Labelled field={field} label={label} hint={hint}>
      <select {...tied(field, hint)} {...props} className={`${BOX} min-h-12`}>
        {children}
      </select>
    </Labelled>
  );
}

/**
 * Ties a control to its hint, its error, and the question that is asked about it. Enter commits, and nothing of one machine is offered
 * for the next, unless a control says otherwise.
 */
export function tied(field: Shared["field"], hint?: ReactNode, sure?: Shared["field"]) {
  const described = [
    field.errors ? field.errorId : "",
    sure?.errors ? sure.errorId : "",
    hint ? `${field.id}-hint` : "",
  ]
    .filter(Boolean)
    .join(" ");
  return {
    autoComplete: "off",
    enterKeyHint: "done" as const,
    "data-asked": sure?.errors ? "" : undefined,
    id: field.id,
    name: field.name,
    // What came back refused, for the page that was answered without scripts.
    defaultValue: typeof field.initialValue === "string" ? field.initialValue : undefined,
    "aria-invalid": field.errors ? true : undefined,
    "aria-describedby": described || undefined,
  };
}

function Labelled({ field, label, hint, children }: Shared & { children: ReactNode }) {
  return (
    <div className="grid min-w-0 grid-cols-1 content-start gap-1.5">
      <label htmlFor={field.id} className="font-semibold">
        {label}
      </label>
      {children}
      {hint && (
        <p id={`${field.id}-hint`} className="text-sm text-soft">
          {hint}
        </p>
      )}
      <FieldError field={field} />
    </div>
  );
}

export function FieldError({ field }: { field: Shared["field"] }) {
  if (!field.errors?.length) return null;
  return (
    <p
      id={field.errorId}
      role="alert"
      className="border-l-4 border-alarm pl-2 font-semibold whitespace-pre-line text-alarm"
    >
      {field.errors.join(" ")}
    </p>
  );
}

/** Asks once about something possible but unusual: shown only when the server asked; ticked, it is taken. */
export function SureBox({ field }: { field: Shared["field"] }) {
  if (!field.errors) return null;
  return (
    <label className="flex min-h-11 items-center gap-3 border-l-4 border-alarm pl-3">
      <input {...tied(field)} type="checkbox" value="yes" className="size-6 shrink-0 accent-ink" />
      <span id={field.errorId} role="alert">
        {field.errors.join(" ")}
      </span>
    </label>
  );
}
