import type { ReactNode } from "react";
import type { Entry } from "./use-entry";
import { FieldError } from "./field";

/** The form around an entry: its intent, its command id, its errors, its fields. */
export function EntryForm({
  entry,
  className = "",
  children,
  ...rest
}: {
  entry: Entry;
  className?: string;
  children: ReactNode;
  encType?: "multipart/form-data";
}) {
  const { Form } = entry;
  return (
    <Form {...entry.attributes} {...rest} className={className}>
      <input type="hidden" name="intent" value={entry.intent} />
      <input type="hidden" name="commandId" value={entry.commandId} data-draft={entry.store} />
      {children}
      <FieldError field={entry.errorField} />
    </Form>
  );
}
