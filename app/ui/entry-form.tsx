import type { ReactNode } from "react";
import type { Entry } from "./use-entry";
import { FieldError } from "./field";
import { DraftId } from "./draft-id";

/** The form around an entry: its intent, its command id, its errors, its fields. */
export function EntryForm({
  entry,
  className = "",
  again = false,
  children,
  ...rest
}: {
  entry: Entry;
  className?: string;
  children: ReactNode;
  /** It takes one entry after another: after a save its first field has the focus again. */
  again?: boolean;
  encType?: "multipart/form-data";
}) {
  const { Form } = entry;
  return (
    <Form {...entry.attributes} {...rest} data-again={again ? "" : undefined} className={className}>
      <input type="hidden" name="intent" value={entry.intent} />
      <DraftId draft={entry} />
      {children}
      <FieldError field={entry.errorField} />
    </Form>
  );
}
